import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import Link from "next/link";

import type { Settings } from "@/contract/deeds";
import { STATION_NAMES } from "@/features/case/words/text";
import type { CaseView, FactLine } from "@/features/casefile/view";
import { say } from "@/features/casefile/words/words";
import { dayAndTime, figure } from "@/text/format";
import { Block, Row, Text, Words } from "@/ui/kit/layout";
import { FIGURES } from "@/ui/figures";
import { SIZE } from "@/ui/tokens";
import { codeWords } from "@/words/codes";

/** One unit, one case: everything that is known of it in one line of facts. */
export function CaseLine({ view, tag, shop }: { view: CaseView; tag: string; shop: Settings }) {
  return (
    <Box component="section" aria-label={say("theCase")} sx={{ maxWidth: 1240 }}>
      <Row gap={2} at="baseline">
        <Typography component="h2" variant="h2">
          {view.about ? say("behindFigure", { what: view.about.name }) : say("theCase")}
        </Typography>
        {view.about && <Link href={`/units/${tag}/case`}>{say("allFacts")}</Link>}
        <a href={`/api/case/${tag}`} download>
          {say("saveCase")}
        </a>
      </Row>
      <About view={view} />
      {view.lines.length === 0 && <Text color="text.secondary">{nothingWords(view)}</Text>}
      <Box component="ol" aria-label={say("theCase")} sx={{ listStyle: "none", p: 0, m: 0 }}>
        {view.lines.map((l) => (
          <OneFact key={l.id} line={l} tag={tag} shop={shop} />
        ))}
      </Box>
    </Box>
  );
}

function nothingWords(view: CaseView): string {
  if (!view.about) return say("noFactYet");
  return view.about.probability === null ? say("nothingOfPlace") : say("nothingBehind");
}

function About({ view }: { view: CaseView }) {
  const { about } = view;
  if (about?.probability != null && about.odds !== null)
    return (
      <Row gap={1.5} after={1} at="baseline">
        <Box sx={{ fontFamily: FIGURES, fontSize: SIZE.huge, fontWeight: 700, lineHeight: 1 }}>
          {percent(about.probability)} %
        </Box>
        <Text color="text.secondary">{say("figureOfPart", { odds: percent(about.odds) })}</Text>
      </Row>
    );
  return (
    <Block after={1}>
      <Words quiet>
        {about
          ? say("behindPlace", { what: about.name })
          : `${say("factsCount", { standing: view.standing, ended: view.ended })}. ${say("newestFirst")}`}
      </Words>
      {!view.wired && <Words quiet>{say("noWiring")}</Words>}
    </Block>
  );
}

const percent = (share: number): string => figure(share * 100, share < 0.1 ? 1 : 0);

function OneFact({ line, tag, shop }: { line: FactLine; tag: string; shop: Settings }) {
  return (
    <Box
      component="li"
      data-ended={line.ended ? "" : undefined}
      sx={{
        display: "grid",
        gridTemplateColumns: {
          xs: "auto 1fr",
          sm: "120px 72px minmax(0, 1fr)",
          md: "120px 72px minmax(0, 1.5fr) minmax(0, 1fr)",
        },
        columnGap: 2,
        py: 0.8,
        borderTop: 1,
        borderColor: "divider",
        color: line.ended ? "text.secondary" : "text.primary",
      }}
    >
      <Words quiet>{dayAndTime(line.at, shop)}</Words>
      <Link href={`/units/${tag}/${line.station}`}>{STATION_NAMES[line.station]}</Link>
      <Box sx={{ minWidth: 0, overflowWrap: "anywhere", gridColumn: { xs: "1 / -1", sm: "auto" } }}>
        <Box component="span" sx={{ fontWeight: line.ended ? 400 : 700 }}>
          {line.words}
        </Box>
        {line.who && (
          <Words component="span" quiet>
            {" "}
            {line.who}
          </Words>
        )}
      </Box>
      <Box sx={{ gridColumn: { xs: "1 / -1", sm: "3", md: "4" } }}>
        <Effect line={line} shop={shop} />
      </Box>
    </Box>
  );
}

const SILENT: Record<NonNullable<FactLine["silent"]>, string> = {
  answered: say("answeredSaysNothing"),
  decided: say("decidedSaysNothing"),
  residue: say("residueSaysNothing"),
};

/** What it moves, what ended it, or why it bears on nothing. */
function Effect({ line, shop }: { line: FactLine; shop: Settings }) {
  const words = () => {
    if (line.ended)
      return say("endedBy", { day: dayAndTime(line.ended.at, shop), how: codeWords(line.ended.how) });
    if (line.silent) return SILENT[line.silent];
    if (line.weight !== null)
      return line.weight >= 1
        ? say("speaksFor", { weight: figure(line.weight, 1) })
        : say("speaksAgainst", { weight: figure(1 / line.weight, 1) });
    if (line.moved)
      return say("movesPart", {
        part: line.moved.part,
        without: percent(line.moved.without),
        with: percent(line.moved.with),
      });
    return line.ends > 0 ? "" : say("movesLittle");
  };
  const ends = line.ends > 0 ? say("endsFacts", { count: line.ends }) : "";
  return <Words quiet>{[words(), ends].filter(Boolean).join("; ")}</Words>;
}
