"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import { AGENTS } from "@/core/mend/cleaning";
import type { Proposal } from "@/features/mend/proposal";
import type { OrderView } from "@/features/mend/view";
import { stepTitle, toolName } from "@/features/mend/words/text";
import { say } from "@/features/mend/words/words";
import { BigFigure } from "@/features/units/ui/unit/Station";
import type { UnitView } from "@/features/units/view";
import { figure } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { BoundField } from "@/ui/form/BoundField";
import { Table } from "@/ui/kit/Table";
import { codeWords } from "@/words/codes";
import { OrderForm } from "./OrderForm";
import type { MendRoute } from "./route";
import { SIZE } from "@/ui/tokens";
import { Block, Notice, Row, Text } from "@/ui/kit/layout";

type RunningProps = {
  view: UnitView;
  order: OrderView;
  proposal: Proposal;
  routes: MendRoute[];
  canWork: boolean;
};

/** What Running knows and does; the components below only show it. */
function useRunning({ view, order, proposal, routes, canWork }: RunningProps) {
  const [changing, setChanging] = useState(false);
  const drop = useDeed("work.drop");
  const [why, setWhy] = useState("");
  const [dropping, setDropping] = useState(false);
  const done = order.line.filter((s) => s.done).length;
  const next = order.line.find((s) => !s.done);
  const missing = order.tools.filter((t) => t.state === "missing");
  const standIns = order.tools.filter((t) => t.state === "stand-in");
  return {
    view,
    order,
    proposal,
    routes,
    canWork,
    changing,
    setChanging,
    drop,
    why,
    setWhy,
    dropping,
    setDropping,
    done,
    next,
    missing,
    standIns,
  };
}

type RunningState = ReturnType<typeof useRunning>;

export function Running(props: RunningProps) {
  const s = useRunning(props);
  const { view, order, missing } = s;

  return (
    <Box
      component="section"
      aria-label={say("workOrder")}
      sx={{ border: 1, borderColor: "divider", borderRadius: 1, bgcolor: "background.paper", p: 2, mb: 2 }}
    >
      <RunningHead {...s} />
      {order.firstOfKind && (
        <Text before={1.5}>
          {say("theFirstOfItsKindBy")} <Link href={`/units/${view.unit.tag}/mend/notes`}>{say("notes")}</Link>
        </Text>
      )}
      {missing.length > 0 && (
        <Notice severity="warning" role="note" before={1.5}>
          {say("notOwnedAndNoStandIn", {
            missing: missing.map((t) => `${toolName(t.id)} (${t.steps.join(", ")})`).join("; "),
          })}{" "}
          <Link href="/settings#tools">{say("toolsOfTheShop")}</Link>
        </Notice>
      )}
      <Block component="details" before={1.5}>
        <summary>{say("toolsConsumablesAndTheWhole")}</summary>
        <ToolsNeeded {...s} />
        {order.consumables.length > 0 && (
          <Typography>
            <b>{say("consumables")}</b> {order.consumables.join(", ")}
          </Typography>
        )}
        <Typography>{say("aClearHardBenchWithA")}</Typography>
        <StepsOfOrder {...s} />
        <CleaningTable {...s} />
        <ChangeOrder {...s} />
        <DropOrder {...s} />
      </Block>
    </Box>
  );
}

function RunningHead({ done, order, view, next }: RunningState) {
  return (
    <Box
      sx={{
        display: "grid",
        gap: 2,
        gridTemplateColumns: { xs: "1fr 1fr", sm: "auto auto auto 1fr" },
        alignItems: "center",
      }}
    >
      <BigFigure value={`${done}/${order.line.length}`} label={say("steps")} />
      <BigFigure value={Math.round(order.minutesLeft)} label={say("minutesLeft")} />
      <BigFigure value={order.leftOut.length} label={say("piecesOut")} />
      <Button
        component={Link}
        href={`/work/${view.unit.tag}`}
        variant="contained"
        size="large"
        autoFocus
        sx={{
          justifySelf: { sm: "end" },
          fontSize: SIZE.lead,
          gridColumn: { xs: "1 / -1", sm: "auto" },
          whiteSpace: "normal",
        }}
      >
        {next ? say("goOnTitle", { title: stepTitle(next) }) : say("lookAtIt")}
      </Button>
    </Box>
  );
}

function ToolsNeeded({ order, standIns }: RunningState) {
  return (
    <Text before={1}>
      <b>{say("tools")}</b>{" "}
      {order.tools
        .filter((t) => t.state === "owned")
        .map((t) => toolName(t.id))
        .join(", ")}
      {standIns.map((t) => (
        <Box key={t.id} component="span" sx={{ display: "block", color: "caution.main" }}>
          {say("nameStandInInsteadRisk", {
            name: toolName(t.id),
            standIn: toolName(t.standIn!.id),
            risk: t.standIn!.risk && ` (${t.standIn!.risk})`,
          })}
        </Box>
      ))}
    </Text>
  );
}

function StepsOfOrder({ order }: RunningState) {
  return (
    <Box component="ol" sx={{ pl: 3, my: 1, columns: { md: 2 } }}>
      {order.line.map((s) => (
        <Box component="li" key={s.key} sx={{ color: s.done ? "text.secondary" : "text.primary" }}>
          {stepTitle(s)}
          {s.done ? " ✓" : say("minutesMin", { minutes: s.minutes })}
          {s.learned.first !== null &&
            s.learned.later !== null &&
            say("firstTimeFirstLaterLater", {
              first: figure(s.learned.first, 1),
              later: figure(s.learned.later, 1),
            })}
          {s.difficulty >= 4 && say("hard")}
          {s.fragility >= 4 && say("fragile")}
        </Box>
      ))}
    </Box>
  );
}

function CleaningTable({ order }: RunningState) {
  return (
    order.cleaning.length > 0 && (
      <Table
        heads={[say("cleaningLongestWaitFirst"), say("with"), say("never"), say("soakDry")]}
        label={say("cleaningPlan")}
      >
        {order.cleaning.map((j) => (
          <tr key={j.surface}>
            <td>
              {j.name}, {codeWords(j.material)}
            </td>
            <td>
              {AGENTS[j.agent].name}; {j.tool}
            </td>
            <td>{j.never}</td>
            <td>
              {[
                j.soakMinutes && say("soakMinutesMinSoak", { soakMinutes: j.soakMinutes }),
                j.dryMinutes && say("dryMinutesMinDry", { dryMinutes: j.dryMinutes }),
              ]
                .filter(Boolean)
                .join(", ") || say("none")}
            </td>
          </tr>
        ))}
      </Table>
    )
  );
}

function ChangeOrder({ canWork, changing, view, order, proposal, routes, setChanging }: RunningState) {
  return (
    canWork &&
    (changing ? (
      <OrderForm
        view={view}
        order={order}
        proposal={proposal}
        routes={routes}
        onDone={() => setChanging(false)}
      />
    ) : (
      <Button size="small" onClick={() => setChanging(true)}>
        {say("changeTheWorkOrder")}
      </Button>
    ))
  );
}

function DropOrder({ canWork, order, dropping, why, setWhy, drop, setDropping }: RunningState) {
  return (
    canWork &&
    order.apart.length === 0 && (
      <Row gap={1} at="center">
        {dropping ? (
          <>
            <BoundField deed="work.drop" name="why" label={say("why")} value={why} onChange={setWhy} />
            <Button
              color="error"
              disabled={why.trim() === "" || drop.running}
              onClick={() => void drop.run({ orderId: order.id, version: order.version, why })}
            >
              {say("dropIt")}
            </Button>
          </>
        ) : (
          <Button size="small" color="inherit" onClick={() => setDropping(true)}>
            {say("dropThisWorkOrder")}
          </Button>
        )}
        <Problem problem={drop.problem} />
      </Row>
    )
  );
}
