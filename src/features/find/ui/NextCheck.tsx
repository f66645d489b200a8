"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import type { Advice as DecideAdvice } from "@/core/decide/advise";
import type { Proposal } from "@/core/diagnosis/advise";
import type { Wiring } from "@/core/profile/wiring";
import type { NextView } from "@/features/decide/next";
import { NextAct } from "@/features/decide/ui/NextAct";
import { useAdvice } from "@/features/decide/ui/useAdvice";
import type { FindView } from "@/features/find/view";
import { checkTools, checkWords, OUTCOME_WORDS, outcomeWords, stopWords } from "@/features/find/words/text";
import { percent } from "@/text/measures";
import { Refusals } from "@/ui/deed/Refusals";
import { LookInside } from "@/features/practice/ui/LookInside";
import { usePractising } from "@/ui/state/practising";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { NumberField, readFigure } from "@/ui/fields/NumberField";
import { say } from "@/features/find/words/words";
import { figure } from "@/text/format";
import type { Id } from "@/core/base/ids";
import { SIZE } from "@/ui/tokens";
import { Block, Notice, Text, Words } from "@/ui/kit/layout";

type Props = {
  unitId: Id<"unit">;
  tag: string;
  find: FindView;
  /** what is next where faults are named: a check only when knowing pays more than doing */
  next: NextView | null;
  wiring: Wiring;
  shop: Settings;
  nameOf: (id: string) => string;
  canWork: boolean;
};

/** What NextCheck knows and does; the components below only show it. */
function useNextCheck({ tag, find, next }: Props) {
  const [all, setAll] = useState(false);
  const got = useAdvice(tag, next);
  const { proposals, stop } = find.advice;
  const act = got.fresh ? got.advice?.acts[0] : undefined;
  const asked = act?.do === "check" && isGoing(got.advice) ? got.advice?.checks[act.index]?.id : undefined;
  const wanted = proposals.find((p) => p.check.id === asked);
  // without a named fault there is nothing to weigh a check against: then the one that tells most a minute
  const first = wanted ?? proposals[0];
  const lead = next ? wanted !== undefined : stop === null;
  const others = proposals.filter((p) => p !== first);
  return { find, all, setAll, got, stop, first, lead, others };
}

/** The one act that is next; where it is a check, what each outcome would mean; and the checks behind it. */
export function NextCheck(props: Props) {
  const s = useNextCheck(props);
  const { unitId, tag, find, next, wiring, shop, nameOf, canWork } = props;
  const { all, setAll, stop, first, lead, others } = s;
  const common = { unitId, wiring, nameOf, canWork };
  return (
    <Block component="section" aria-label={say("theNextCheck")} around={2}>
      {next ? (
        <NextAct got={s.got} shop={shop}>
          {s.got.fresh && !lead && (
            <Button component={Link} href={`/units/${tag}/decide`} variant="contained">
              {say("goAndDecide")}
            </Button>
          )}
        </NextAct>
      ) : (
        stop !== null && (
          <Notice role="status" severity={stop === "certain" ? "success" : "info"} after={1.5}>
            {stopWords(find.advice)}
          </Notice>
        )
      )}
      {first && (
        <Box
          sx={{
            p: 2,
            border: 2,
            borderColor: lead ? "primary.main" : "divider",
            borderRadius: 1,
            bgcolor: "background.paper",
          }}
        >
          <OneCheck {...common} proposal={first} lead={lead} />
        </Box>
      )}
      {others.length > 0 && (
        <Block before={1}>
          <Button size="small" onClick={() => setAll(!all)} aria-expanded={all}>
            {all ? say("fewerChecks") : say("proposalsMoreChecksInOrderOf", { proposals: others.length })}
          </Button>
          {all &&
            others.map((p) => (
              <Box key={p.check.id} sx={{ py: 1, borderTop: 1, borderColor: "divider" }}>
                <OneCheck {...common} proposal={p} />
              </Box>
            ))}
        </Block>
      )}
    </Block>
  );
}

const isGoing = (advice: DecideAdvice | null): boolean =>
  advice !== null && (advice.best === "mend" || advice.best === "hold");

type CheckProps = Pick<Props, "unitId" | "wiring" | "nameOf" | "canWork"> & {
  proposal: Proposal;
  lead?: boolean;
};

/** What OneCheck knows and does; the components below only show it. */
function useOneCheck({ unitId, wiring, nameOf, canWork, proposal, lead = false }: CheckProps) {
  const observe = useDeed("find.observe");
  const [value, setValue] = useState("");
  const { check } = proposal;
  const point = wiring.points.find((p) => p.id === check.target);
  const partName = (id: string) => wiring.nodes.find((n) => n.id === id)?.name ?? id;
  const target = check.kind === "test" || point ? check.target : check.id;
  const saving = observe.pending.findLast((p) => p.unitId === unitId && p.target === target);
  const record = (outcome: string, figure: number | null = null) => {
    const kindOf = () => {
      if (check.kind === "test") return "function";
      if (point) return "point";
      return "check";
    };
    return void observe.run({
      unitId,
      kind: kindOf(),
      target,
      outcome,
      value: figure,
      note: "",
    });
  };
  return {
    wiring,
    nameOf,
    canWork,
    proposal,
    lead,
    observe,
    value,
    setValue,
    check,
    point,
    partName,
    saving,
    record,
  };
}
type OneCheckState = ReturnType<typeof useOneCheck>;

function OneCheck(props: CheckProps) {
  const s = useOneCheck(props);
  const { wiring, nameOf, proposal, lead, observe, check, point, saving, canWork } = s;
  // at the practice bench what is hidden answers
  const practising = usePractising();
  const own = practising ? { ...s, canWork: false } : s;

  return (
    <>
      <Typography
        component={lead ? "h3" : "div"}
        sx={{ fontSize: lead ? SIZE.head : SIZE.body, fontWeight: 700, lineHeight: 1.2 }}
      >
        {checkWords(check, wiring, nameOf)}
        {point?.expects != null &&
          say("shouldBeExpectsQuantity", {
            expects: point.expects,
            quantity: point.quantity === "volts" ? "V" : "Ω",
          })}
      </Typography>
      <Text color="text.secondary" after={1}>
        {say("minutesMinCostToolsSkillSkill", {
          minutes: figure(check.minutes, 1),
          cost: proposal.cost > check.minutes + check.risk ? say("andOpeningIt") : "",
          tools: checkTools(check),
          skill: check.skill,
          risk: check.risk >= 2 ? say("risky") : "",
          bits: figure(proposal.bits, 2),
          bitsPerMinute: figure(proposal.bitsPerMinute, 2),
        })}
      </Text>
      {practising && canWork && <LookInside unitId={props.unitId} check={check.id} lead={lead} />}
      <FigureOfPoint {...own} />
      <OutcomeKeys {...own} />
      {saving && (
        <Typography role="status" color="text.secondary">
          {say("outcomeSaving", { outcome: outcomeWords(saving.outcome) })}
        </Typography>
      )}
      <Refusals refusals={observe.refusals} />
    </>
  );
}

function FigureOfPoint({ point, canWork, value, record, setValue }: OneCheckState) {
  return (
    point &&
    canWork && (
      <Form
        sx={{ display: "flex", gap: 1, alignItems: "center", mb: 1 }}
        onSend={() => {
          const figure = readFigure(value);
          if (figure !== null) record("read", figure);
        }}
      >
        <NumberField
          label={point.name}
          unit={point.quantity === "volts" ? "V" : "Ω"}
          value={value}
          onChange={setValue}
        />
        <Button type="submit" variant="contained" disabled={readFigure(value) === null}>
          {say("keepTheFigure")}
        </Button>
      </Form>
    )
  );
}

function OutcomeKeys({
  proposal,
  canWork,
  point,
  lead,
  record,
  check,
  wiring,
  nameOf,
  partName,
}: OneCheckState) {
  return (
    <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "flex-start" }}>
      {proposal.outcomes.map((o) => (
        <Box key={o.code} sx={{ minWidth: 190 }}>
          {canWork && !point && (
            <Button
              variant={lead ? "contained" : "outlined"}
              onClick={() => record(o.code)}
              aria-label={`${checkWords(check, wiring, nameOf)}: ${outcomeWords(o.code)}`}
            >
              {outcomeWords(o.code)}
            </Button>
          )}
          {(point || !canWork) && <b>{outcomeWords(o.code)}</b>}
          <Words size="small" quiet>
            {say("chanceLikelyThenLeadsProbability", {
              chance: percent(o.chance),
              leads: partName(o.leads),
              probability: percent(o.probability),
            })}
          </Words>
        </Box>
      ))}
      {check.kind === "test" && canWork && (
        <Button variant="outlined" onClick={() => record("intermittent")}>
          {OUTCOME_WORDS.intermittent}
        </Button>
      )}
    </Box>
  );
}
