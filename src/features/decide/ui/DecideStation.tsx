"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import Link from "next/link";

import type { Advice } from "@/core/decide/advise";
import type { Flip } from "@/core/decide/flips";
import { decider } from "@/browser/decide";
import type { Role } from "@/contract/roles";
import type { QuestionView } from "@/features/case/asked";
import type { DecideView } from "@/features/decide/view";
import { say } from "@/features/decide/words/words";
import { PlanFrame, Station } from "@/features/units/ui/unit/Station";
import type { PaperView } from "@/features/papers/view";
import type { UnitView } from "@/features/units/view";
import { PlanView } from "@/ui/plan/PlanView";
import { HalfMoney } from "@/features/units/ui/Mates";
import { Ends, Flips, Past, Schools, Skipped, Spent, StopLoss, Twins, Untested } from "./AdviceParts";
import { Headline } from "./Headline";
import { Ladder } from "./Ladder";
import { Questions } from "./Questions";
import { NextAct, OLD_ADVICE } from "./NextAct";
import { useAdvice } from "./useAdvice";
import { useAsked } from "./useAsked";
import { allOf } from "@/text/lists";
import { Block, Notice, Text } from "@/ui/kit/layout";

type Props = {
  view: UnitView;
  decide: DecideView;
  questions: QuestionView[];
  papers: PaperView[];
  role: Role;
  publicUrl: string;
};

/**
 * What it is worth, which route, whose yes: the advice first, then what it is made of and what would change
 * it.
 */
export function DecideStation({ view, decide, questions, papers, role, publicUrl }: Props) {
  const { unit, profile, settings: shop } = view;
  const { input } = decide;
  const got = useAdvice(unit.tag, decide.next);
  const { advice, fresh } = got;
  const flips = useAsked(fresh && advice ? decide.next.digest : null, () => decider().flips(input, advice!));
  const faults = view.faults.filter((f) => f.status === "open");
  const canWork = role !== "viewer" && unit.ending === null && !unit.swollen;
  if (unit.swollen) return <Alert severity="error">{say("lockedThisUnitIsInQuarantine")}</Alert>;
  return (
    <Station
      plan={
        <>
          <PlanFrame height={270}>
            <PlanView
              profile={profile}
              revision={unit.revision}
              states={Object.fromEntries(faults.map((f) => [f.place, "fail" as const]))}
            />
          </PlanFrame>
          <HalfMoney half={decide.half} shop={shop} />
          <Spent advice={advice} input={decide.input} shop={shop} />
          {advice && advice.twins.length > 0 && <Twins advice={advice} shop={shop} />}
        </>
      }
    >
      <NextAct got={got} shop={shop} />
      {advice && <AdviceBody {...{ view, decide, advice, canWork, fresh }} flips={flips.value} />}
      <Questions {...{ view, questions, papers, decide, advice, canWork, publicUrl }} />
      <Past decisions={decide.decisions} names={decide.routeNames} shop={shop} />
    </Station>
  );
}

type AdviceProps = Pick<Props, "view" | "decide"> & {
  advice: Advice;
  flips: Flip[] | null;
  canWork: boolean;
  fresh: boolean;
};

/** The advice with all that it is made of; marked as old while a newer one is worked out. */
function AdviceBody({ view, decide, advice, flips, canWork, fresh }: AdviceProps) {
  const { settings: shop } = view;
  const { input } = decide;
  return (
    <Box sx={fresh ? {} : OLD_ADVICE}>
      {(decide.awaiting.length > 0 || decide.refused.length > 0) && (
        <Notice severity="warning" role="note" after={1.5}>
          {decide.awaiting.length > 0 && (
            <>
              <b>{say("waitsForTheCustomerSYes")}</b>{" "}
              {say("faultAwaitingWorkThereIsLocked", { awaiting: decide.awaiting.join(", ") })}{" "}
            </>
          )}
          {decide.refused.length > 0 &&
            say("turnedDownByTheCustomerAnd", { refused: decide.refused.join(", ") })}
        </Notice>
      )}
      <Untested view={view} input={input} testFirst={advice.testFirst} />
      <Headline {...{ view, decide, advice, shop, canWork }} />
      <StopLoss advice={advice} decide={decide} shop={shop} />
      {(advice.tree.do === "try" || advice.tree.do === "check" || advice.places.some((p) => !p.twin)) && (
        <Block component="section" aria-label={say("ladder")} before={2}>
          <Typography component="h2" variant="h2">
            {say("theLadder")}
          </Typography>
          <Ladder advice={advice} tree={advice.tree} shop={shop} label={say("ladderOfAttempts")} />
          <KnownOf advice={advice} view={view} input={input} />
          {advice.setAside > 0 && (
            <Typography color="text.secondary">
              {say("setAsideOfTheRoutesWereSet", { setAside: advice.setAside })}
            </Typography>
          )}
        </Block>
      )}
      {!advice.testFirst && (
        <Box
          sx={{
            display: "grid",
            gridTemplateColumns: { xs: "minmax(0,1fr)", sm: "minmax(0,1.3fr) minmax(0,1fr)" },
            gap: 3,
            mt: 3,
          }}
        >
          <Ends advice={advice} input={input} shop={shop} />
          <Box>
            <Schools advice={advice} decide={decide} shop={shop} />
            <Flips flips={flips} shop={shop} />
          </Box>
        </Box>
      )}
      <Skipped advice={advice} decide={decide} />
    </Box>
  );
}

/** Each place that the ladder is about opens to the facts behind it. */
const LEAST_SHOWN = 0.03;
const MOST_SHOWN = 4;

/** What may be wrong at each place, as Find holds it: the chances above are summed over it. */
function KnownOf({ advice, view, input }: { advice: Advice; view: UnitView; input: DecideView["input"] }) {
  const causesOf = (place: string) => {
    const shown = (input.causes?.[place] ?? [])
      .filter((c) => c.probability >= LEAST_SHOWN)
      .slice(0, MOST_SHOWN);
    return shown
      .map((c) =>
        say("causeShare", {
          what: allOf([...c.parts.map((p) => p.name), ...(c.elsewhere ? [say("somethingElse")] : [])]),
          share: Math.round(c.probability * 100),
        }),
      )
      .join(", ");
  };
  return (
    <Block before={1}>
      <Text color="text.secondary">{say("whatMayBeWrong")}</Text>
      <Box component="ul" aria-label={say("whatMayBeWrong")} sx={{ m: 0, pl: 2.5 }}>
        {advice.places
          .filter((p) => !p.twin)
          .map((p) => (
            <li key={p.place}>
              <Link href={`/units/${view.unit.tag}/case?of=${encodeURIComponent(p.place)}`}>{p.name}</Link>
              {": "}
              {causesOf(p.place) || say("onlyItsMeasureIsKnown")}
            </li>
          ))}
      </Box>
    </Block>
  );
}
