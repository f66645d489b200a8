import Typography from "@mui/material/Typography";

import { REPORTS } from "@/contract/reports";
import { REPORT_WORDS } from "@/features/results/words/text";
import { TabLinks } from "@/ui/fields/TabLinks";
import { say } from "@/features/results/words/words";
import { Row } from "@/ui/kit/layout";

export function ResultTabs({ current }: { current: string }) {
  return (
    <Row gap={3} at="center">
      <Typography component="h1" variant="h1">
        {say("results")}
      </Typography>
      <TabLinks
        label={say("results")}
        current={current}
        tabs={[
          { id: "", name: say("atAGlance"), href: "/results" },
          ...REPORTS.map((id) => ({ id, name: REPORT_WORDS[id].name, href: `/results/${id}` })),
        ]}
      />
    </Row>
  );
}
