"use client";

import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { PartTab } from "@/features/parts/view";
import { TabLinks } from "@/ui/fields/TabLinks";
import { BuyList } from "./BuyList";
import { Catalogue } from "./Catalogue";
import { Donors } from "./Donors";
import { PlanTab } from "./PlanTab";
import { Stock } from "./Stock";
import { Suppliers } from "./Suppliers";
import { say } from "@/features/parts/words/words";
import type { PartsProps } from "./props";
import { Row } from "@/ui/kit/layout";

const TABS: [PartTab, string][] = [
  ["stock", say("shelf")],
  ["catalogue", say("catalogue")],
  ["suppliers", say("makesAndSuppliers")],
  ["donors", say("donors")],
  ["plan", say("plan")],
  ["buy", say("toBuy")],
];

/**
 * Parts: what is there, what fits, what it really costs, what donors hold, what to do with the backlog, and
 * what to buy.
 */
export function Parts(props: PartsProps) {
  const { tab } = props;
  return (
    <Box>
      <Row gap={3} after={1.5} at="center">
        <Typography component="h1" variant="h1">
          {say("parts")}
        </Typography>
        <TabLinks
          label={say("parts")}
          current={tab}
          tabs={TABS.map(([id, name]) => ({ id, name, href: `/parts?tab=${id}` }))}
        />
      </Row>
      {tab === "stock" && <Stock {...props} />}
      {tab === "catalogue" && <Catalogue {...props} />}
      {tab === "suppliers" && <Suppliers {...props} />}
      {tab === "donors" && <Donors {...props} />}
      {tab === "plan" && props.view.plan && <PlanTab {...props} view={props.view.plan} />}
      {tab === "buy" && props.view.buy && (
        // what is to be ordered changes with each order: the list begins anew
        <BuyList
          key={JSON.stringify(props.view.buy.lines.map((l) => [l.part, l.quantity]))}
          {...props}
          buy={props.view.buy}
        />
      )}
    </Box>
  );
}
