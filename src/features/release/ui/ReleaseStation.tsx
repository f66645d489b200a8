"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import { readAmount } from "@/text/format";
import { controlsOf, functionsOf, placeName } from "@/core/profile/profile";
import { usualPartDays } from "@/core/prove/cover";
import { FIRM_BLOCKS, firmOf } from "@/core/record/standing";
import type { ReleaseView } from "@/features/release/view";
import { money, typedAmount } from "@/text/format";
import { GRADE_WORDS } from "@/text/measures";
import { refusalText } from "@/text/deed/refusals";
import { CONDITION_WORDS, conditionRule, disclosureText } from "@/features/release/words/text";
import { placeWords } from "@/text/names";
import { blockText } from "@/features/case/words/text";
import { Problem } from "@/ui/deed/Problem";
import { Form } from "@/ui/fields/Form";
import { TypedField } from "@/ui/form/TypedField";
import { numberIn } from "@/ui/form/typed";
import { useDeedForm, useTyped } from "@/ui/form/useDeedForm";
import { MarkedPlan } from "@/ui/plan/MarkedPlan";
import { BigFigure, PlanFrame, Station } from "@/features/units/ui/unit/Station";
import { Closed } from "./Closed";
import { LabelOf } from "./LabelOf";
import { OtherEnding } from "./OtherEnding";
import { say } from "@/features/release/words/words";
import type { ReleaseProps } from "./props";
import { BillLines } from "@/ui/bill/BillLines";
import { Block, Text } from "@/ui/kit/layout";

/**
 * The end of a unit's way through the shop: released with its certificate, or closed honestly in another way;
 * and what came after.
 */
export function ReleaseStation(props: ReleaseProps) {
  const { unit, profile } = props.view;
  return (
    <Station
      plan={
        <>
          <PlanFrame>
            <MarkedPlan
              profile={profile}
              revision={unit.revision}
              marks={unit.intake.marks.filter((m) => m.gone === null)}
            />
          </PlanFrame>
          {unit.ending === null && <Told release={props.release} />}
        </>
      }
    >
      {unit.ending ? <Closed {...props} /> : <Open {...props} />}
      <LabelOf view={props.view} />
    </Station>
  );
}

/** What a buyer will be told, from the record. */
function Told({ release }: { release: ReleaseView }) {
  return (
    <Block component="section" aria-label={say("whatABuyerIsTold")} before={2}>
      <Typography component="h2" variant="h2">
        {say("aBuyerIsTold")}
      </Typography>
      {release.disclosures.length === 0 ? (
        <Typography color="text.secondary">{say("nothingBesideTheFiguresNoForeign")}</Typography>
      ) : (
        <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
          {release.disclosures.map((d, i) => (
            <li key={i}>{disclosureText(d)}</li>
          ))}
        </Box>
      )}
    </Block>
  );
}

/** What Open knows and does; the components below only show it. */
function useOpen({ view, release: found, role }: ReleaseProps) {
  const { unit, profile, blocks, settings } = view;
  const names = new Map(
    [...controlsOf(profile, unit.revision), ...functionsOf(profile, unit.revision)].map((x) => [
      x.id,
      placeName(x),
    ]),
  );
  const { grade } = found;
  const { price: hint, condition } = found;
  const owed = found.bill && found.bill.lines.length > 0 ? found.bill.sumMinor : null;
  const suggested = unit.source === "customer" ? owed : hint.priceMinor;
  /** what was typed for a fitted part; the house's days for the others */
  const [typed, setTyped] = useState<Record<string, string>>({});
  const daysOf = (p: (typeof found.parts)[number]) =>
    typed[p.id] ?? String(usualPartDays(p.used, settings.prove));
  const form = useDeedForm("unit.release", {
    start: {
      priceMinor: typedAmount(suggested),
      warrantyDays: String(settings.warrantyDays),
      seal: "",
      known: "",
      limit: "",
      reason: "",
    },
    needed: blocks.length > 0 ? ["limit", "reason"] : [],
    rest: () => ({
      unitId: unit.id,
      version: unit.version,
      partDays: Object.fromEntries(
        found.parts.map((p) => [p.id, numberIn("unit.release", "warrantyDays", daysOf(p))!]),
      ),
    }),
  });
  const firm = blocks.filter((b) => (FIRM_BLOCKS as readonly string[]).includes(b.code));
  const canWork = role !== "viewer";
  const price = readAmount(useTyped(form, "priceMinor"));
  const isDays = (days: string) => numberIn("unit.release", "warrantyDays", days) !== null;
  const belowFloor = price !== null && unit.source !== "customer" && price < hint.floorMinor;
  const save = () => {
    if (found.parts.every((p) => isDays(daysOf(p)))) form.send();
  };
  const fromOf = () =>
    hint.missingMinor > 0
      ? say("fromLessMissing", { from: wholeFrom(), missing: money(hint.missingMinor, settings) })
      : wholeFrom();
  const wholeFrom = () => {
    if (hint.from === "own-sales")
      return say("middleOfCasesOwnSalesInterval", {
        cases: hint.cases,
        interval: money(hint.interval![0], settings),
        interval2: money(hint.interval![1], settings),
      });
    if (hint.from === "going-price")
      return say("whatGradeGradeGoesForCases", { grade: String(grade), cases: hint.cases });
    return say("noSaleAndNoGoingPrice");
  };
  return {
    view,
    found,
    role,
    unit,
    blocks,
    settings,
    names,
    grade,
    hint,
    condition,
    typed,
    setTyped,
    daysOf,
    form,
    firm,
    canWork,
    isDays,
    belowFloor,
    save,
    fromOf,
  };
}
type OpenState = ReturnType<typeof useOpen>;

function Open(props: ReleaseProps) {
  const s = useOpen(props);
  const { view, role, blocks, names, form, firm, canWork } = s;

  return (
    <>
      <Text component="h2" size="big" after={1} strong>
        {blocks.length === 0
          ? say("readyToRelease")
          : say("blocksThingBlocksTheRelease", { blocks: blocks.length })}
      </Text>
      {blocks.length > 0 && (
        <Box component="ul" sx={{ mt: 0, pl: 2.5, columns: { sm: blocks.length > 6 ? 2 : 1 } }}>
          {blocks.map((b, i) => (
            <li key={i}>{blockText(b, (id) => names.get(id) ?? placeWords(id), view.settings)}</li>
          ))}
        </Box>
      )}
      <WhatIsReleased {...s} />
      {s.found.bill && s.found.bill.lines.length > 0 && (
        <BillLines bill={s.found.bill} shop={view.settings} />
      )}
      <ReleaseForm {...s} />
      {canWork && blocks.length > 0 && firm.length === 0 && role !== "lead" && (
        <Alert severity="info">{say("settleWhatBlocksItALead")}</Alert>
      )}
      <FirmBlocks {...s} />
      <Problem problem={form.problem} />
      {canWork && <OtherEnding view={view} />}
    </>
  );
}

function WhatIsReleased({ grade, condition, unit, hint, settings, fromOf }: OpenState) {
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0,1fr)", sm: "1fr 1fr minmax(0,1.7fr)" },
        gap: 3,
        my: 1.5,
      }}
    >
      <BigFigure
        value={grade ? GRADE_WORDS[grade] : say("notProven")}
        label={say("function")}
        detail={say("theWorstOfItsControlsAnd")}
      />
      <BigFigure
        value={CONDITION_WORDS[condition.condition]}
        label={say("outside")}
        detail={
          condition.reasons.length
            ? condition.reasons.map(conditionRule).join("; ")
            : say("oneOrTwoMarksAreLight")
        }
      />
      {unit.source !== "customer" && (
        <BigFigure
          value={money(hint.priceMinor, settings)}
          label={say("suggestedPrice")}
          detail={say("fromFloorFloorMinorItCostCostsMinor", {
            from: fromOf(),
            floorMinor: money(hint.floorMinor, settings),
            costsMinor: money(hint.costsMinor, settings),
          })}
        />
      )}
    </Box>
  );
}

/** How long the shop stands behind each fitted part. */
const PartDays = ({ found, daysOf, setTyped, typed, isDays }: OpenState) =>
  found.parts.map((p) => (
    <TextField
      key={p.id}
      label={say("warrantyPlaceDays", { place: p.place })}
      value={daysOf(p)}
      onChange={(e) => setTyped({ ...typed, [p.id]: e.target.value })}
      error={!isDays(daysOf(p))}
      helperText={
        isDays(daysOf(p)) ? `${p.name}, ${p.used ? say("used") : say("new")}` : say("wholeDaysAtMost3650")
      }
    />
  ));

function ReleaseForm(s: OpenState) {
  const { canWork, firm, blocks, role, save, form, settings, belowFloor, hint } = s;
  return (
    canWork &&
    firm.length === 0 &&
    (blocks.length === 0 || role === "lead") && (
      <Form
        noValidate
        onSend={save}
        sx={{
          display: "grid",
          gap: 1.5,
          gridTemplateColumns: "repeat(auto-fit, minmax(min(100%, 230px), 1fr))",
          alignItems: "start",
          maxWidth: 760,
          my: 2,
        }}
      >
        {blocks.length > 0 && (
          <>
            <Typography sx={{ gridColumn: "1 / -1" }}>{say("asLeadYouCanReleaseIt")}</Typography>
            <TypedField
              form={form}
              name="limit"
              label={say("limitSuchAsByCableOnly")}
              sx={{ gridColumn: "1 / -1" }}
            />
            <TypedField form={form} name="reason" label={say("reason")} sx={{ gridColumn: "1 / -1" }} />
          </>
        )}
        <TypedField
          form={form}
          name="priceMinor"
          label={say("priceCurrencyMayStayEmpty", { currency: settings.currency })}
          helperText={
            belowFloor
              ? say("belowTheFloorOfFloorMinorIt", { floorMinor: money(hint.floorMinor, settings) })
              : undefined
          }
        />
        <TypedField form={form} name="warrantyDays" label={say("warrantyDays")} />
        <PartDays {...s} />
        <TypedField form={form} name="seal" label={say("sealMayStayEmpty")} />
        <TypedField
          form={form}
          name="known"
          label={say("worthKnowingPrinted")}
          sx={{ gridColumn: "1 / -1" }}
          multiline
        />
        <Box>
          <Button type="submit" variant="contained" size="large" disabled={form.running}>
            {blocks.length > 0 ? say("releaseWithThisLimit") : say("release")}
          </Button>
        </Box>
      </Form>
    )
  );
}

function FirmBlocks({ firm, unit }: OpenState) {
  return (
    firm.length > 0 &&
    !unit.swollen && (
      <Alert
        severity="info"
        action={
          <Button
            component={Link}
            href={`/units/${unit.tag}/${firm.some((b) => b.code === "no-proof") ? "prove" : "mend"}`}
            color="inherit"
          >
            {firm.some((b) => b.code === "no-proof") ? say("goToProve") : say("goToMend")}
          </Button>
        }
      >
        {firm.some((b) => b.code === "no-proof")
          ? say("withoutAProofNothingIsReleased")
          : refusalText({ code: "firm-block", block: firmOf(firm)[0]! })}
      </Alert>
    )
  );
}
