"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import { PART_STATES, type PartState } from "@/contract/parts";
import type { ModelProfile } from "@/core/profile/profile";
import type { DonorPart, DonorView } from "@/features/parts/donors";
import type { OpenNeed } from "@/features/parts/needs";
import { dayAndTime, money, figure } from "@/text/format";
import { measureName } from "@/text/measures";
import { readingText, STATE_WORDS } from "@/features/parts/words/text";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { PlanView } from "@/ui/plan/PlanView";
import { type ShownState, StateMark } from "@/ui/state/StateMark";
import { Figure } from "@/ui/kit/Table";
import { say } from "@/features/parts/words/words";
import { BoundField } from "@/ui/form/BoundField";
import { Block, Notice, Row, Words } from "@/ui/kit/layout";

type Props = {
  view: DonorView;
  profile: ModelProfile;
  needs: OpenNeed[];
  shop: Settings;
  canWork: boolean;
};

const SHOWN: Record<PartState, ShownState> = {
  good: "pass",
  worn: "caution",
  bad: "fail",
  unknown: "untested",
  gone: "not-fitted",
};
const WORST: PartState[] = ["bad", "gone", "unknown", "worn", "good"];

/** What DonorMap knows and does; the components below only show it. */
function useDonorMap({ view, profile, needs, shop, canWork }: Props) {
  const [slot, setSlot] = useState<string | null>(null);
  const states: Record<string, ShownState> = {};
  for (const state of [...WORST].reverse())
    for (const p of view.parts.filter((x) => x.state === state))
      for (const place of p.serves) states[place] = SHOWN[state];
  const picked = view.parts.find((p) => p.slot === slot) ?? null;
  const n = (s: PartState) => view.parts.filter((p) => p.state === s).length;
  return { view, profile, needs, shop, canWork, slot, setSlot, states, picked, n };
}
type DonorMapState = ReturnType<typeof useDonorMap>;

/**
 * A donor as a map of its parts: on the plan what each place is like, beside it each part with its evidence
 * and what it is worth.
 */
export function DonorMap(props: Props) {
  const s = useDonorMap(props);
  const { n } = s;

  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,5fr) minmax(0,7fr)" },
        gap: 3,
        alignItems: "start",
      }}
    >
      <DonorFigures {...s} />
      <Box>
        <Row gap={3} after={1}>
          <span>
            <Figure big>{n("good")}</Figure> {say("testedGood")}
          </span>
          <span>
            <Figure big>{n("unknown")}</Figure> {say("notTested")}
          </span>
          <span>
            <Figure big>{n("bad")}</Figure> {say("bad")}
          </span>
          <span>
            <Figure big>{n("gone")}</Figure> {say("gone")}
          </span>
        </Row>
        <PartsOfDonor {...s} />
      </Box>
    </Box>
  );
}

function DonorFigures({ view, shop, profile, states, picked, setSlot }: DonorMapState) {
  return (
    <Box>
      <Typography component="h1" variant="h1">
        {say("donorTag", { tag: view.unit.tag })}
      </Typography>
      <Block after={1}>
        {say("modelCostCostMinor", { model: view.unit.model, costMinor: money(view.costMinor, shop) })}{" "}
        <Link href={`/units/${view.unit.tag}/record`}>{say("itsRecord")}</Link>
      </Block>
      <PlanView
        profile={profile}
        revision={view.unit.revision}
        states={states}
        selected={picked?.serves[0] ?? null}
        onPick={(place) =>
          setSlot(view.parts.find((p) => p.serves[0] === place || p.serves.includes(place))?.slot ?? null)
        }
        label={say("partsOfDonorTag", { tag: view.unit.tag })}
      />
      <Notice severity="warning" role="note" before={1}>
        {say("beforeOpeningUnplugTheCellFirst")}
      </Notice>
    </Box>
  );
}

function PartsOfDonor({ view, setSlot, slot, shop, needs, canWork }: DonorMapState) {
  return (
    <Box component="ul" aria-label={say("itsParts")} sx={{ listStyle: "none", p: 0, m: 0 }}>
      {view.parts.map((p) => (
        <Box component="li" key={p.slot} sx={{ borderTop: 1, borderColor: "divider" }}>
          <Box
            component="button"
            onClick={() => setSlot(slot === p.slot ? null : p.slot)}
            aria-expanded={slot === p.slot}
            sx={{
              display: "grid",
              gridTemplateColumns: "24px minmax(0,1fr) auto auto",
              gap: 1.2,
              width: "100%",
              py: 0.9,
              alignItems: "center",
              font: "inherit",
              color: "inherit",
              textAlign: "left",
              bgcolor: slot === p.slot ? "background.paper" : "transparent",
              border: 0,
              cursor: "pointer",
            }}
          >
            <StateMark state={SHOWN[p.state]} />
            <span>
              <b>{p.name}</b>
              {p.promised && say("promisedToPromised", { promised: p.promised })}
              {p.taken && say("takenAsBatch", { batch: p.taken.batch })}
            </span>
            <span>{STATE_WORDS[p.state]}</span>
            <Figure>{money(p.shareMinor, shop)}</Figure>
          </Box>
          {slot === p.slot && (
            <PartPanel key={p.slot} part={p} view={view} needs={needs} shop={shop} canWork={canWork} />
          )}
        </Box>
      ))}
    </Box>
  );
}

/** What PartPanel knows and does; the components below only show it. */
function usePartPanel({
  part,
  view,
  needs,
  shop,
  canWork,
}: Omit<Props, "profile" | "names"> & { part: DonorPart }) {
  const judge = useDeed("donor.judge");
  const take = useDeed("donor.take");
  const [state, setState] = useState<PartState>("good");
  const [words, setWords] = useState("");
  const [bin, setBin] = useState("D1");
  const [why, setWhy] = useState("");
  const fitting = needs.filter(
    (n) =>
      part.parts.some((p) => n.parts.includes(p)) ||
      (n.modelKey === view.unit.modelKey && n.slot === part.slot),
  );
  const [target, setTarget] = useState("");
  const forNeed = fitting.find((n) => `${n.unitId} ${n.slot}` === target) ?? null;
  const open = canWork && part.state !== "gone";
  return {
    part,
    view,
    shop,
    judge,
    take,
    state,
    setState,
    words,
    setWords,
    bin,
    setBin,
    why,
    setWhy,
    fitting,
    target,
    setTarget,
    forNeed,
    open,
  };
}
type PartPanelState = ReturnType<typeof usePartPanel>;

function PartPanel(props: Omit<Props, "profile" | "names"> & { part: DonorPart }) {
  const s = usePartPanel(props);
  const { part, shop, judge, take } = s;

  return (
    <Box
      role="region"
      aria-label={part.name}
      sx={{ bgcolor: "background.paper", p: 1.5, display: "grid", gap: 1.2 }}
    >
      <div>
        {say("byItsOwnTestsStateTested", {
          state: STATE_WORDS[part.tested.state],
          tested: readingText(part.tested),
        })}
        {part.judged &&
          say("judgedAtByByJudged", {
            at: dayAndTime(part.judged.at, shop),
            by: part.judged.by,
            judged: part.judged.words,
          })}
      </div>
      {part.figures.length > 0 && (
        <Words size="small" quiet>
          {part.figures
            .map((f) => `${measureName(f.name.replace(/^\S+ /, ""))} ${figure(f.value, 3)}`)
            .join(", ")}
        </Words>
      )}
      <Words size="small" quiet>
        {say("aloneItGoesForWorthMinorIts", {
          worthMinor: money(part.worthMinor, shop),
          shareMinor: money(part.shareMinor, shop),
        })}
      </Words>
      <JudgePart {...s} />
      <Problem problem={judge.problem} />
      <TakePart {...s} />
      <Problem problem={take.problem} />
      {part.parts.length > 0 ? (
        <Words size="small" quiet>
          {say("goesOnTheShelfAs")} {part.parts[0]}, {part.goesAs}.
        </Words>
      ) : (
        <Words size="small" quiet>
          {say("theCatalogueHasNoPartFor")}
        </Words>
      )}
    </Box>
  );
}

function JudgePart({ open, judge, view, part, state, words, setState, setWords }: PartPanelState) {
  return (
    open && (
      <Form
        aria-label={say("judgeIt")}
        onSend={() => void judge.run({ unitId: view.unit.id, slot: part.slot, state, words })}
        sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "start" }}
      >
        <TextField
          select
          label={say("testedInTheDonor")}
          value={state}
          onChange={(e) => setState(e.target.value as PartState)}
          sx={{ width: 150 }}
        >
          {PART_STATES.map((s) => (
            <MenuItem key={s} value={s}>
              {STATE_WORDS[s]}
            </MenuItem>
          ))}
        </TextField>
        <BoundField
          deed="donor.judge"
          name="words"
          label={say("whatWasMeasuredOrSeen")}
          value={words}
          onChange={setWords}
          sx={{ flex: 1, minWidth: 180 }}
        />
        <Button type="submit" variant="outlined" disabled={words.trim() === "" || judge.running}>
          {say("writeItDown")}
        </Button>
      </Form>
    )
  );
}

function TakePart({
  open,
  part,
  take,
  view,
  forNeed,
  bin,
  why,
  target,
  setTarget,
  fitting,
  setBin,
  setWhy,
}: PartPanelState) {
  return (
    open &&
    part.state !== "bad" &&
    part.parts.length > 0 && (
      <Form
        aria-label={say("takeItOut")}
        onSend={() =>
          void take.run({
            unitId: view.unit.id,
            slot: part.slot,
            part: part.parts.find((p) => forNeed?.parts.includes(p)) ?? part.parts[0]!,
            bin: bin.trim(),
            untestedWhy: why,
            forUnitId: forNeed?.unitId ?? null,
            forSlot: forNeed?.slot ?? null,
          })
        }
        sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "start" }}
      >
        {part.promised ? (
          <Box sx={{ alignSelf: "center" }}>{say("itGoesToPromised", { promised: part.promised })}</Box>
        ) : (
          <TextField
            select
            label={say("for")}
            value={target}
            onChange={(e) => setTarget(e.target.value)}
            sx={{ minWidth: 210 }}
          >
            <MenuItem value="">{say("theShelf")}</MenuItem>
            {fitting.map((n) => (
              <MenuItem key={`${n.unitId} ${n.slot}`} value={`${n.unitId} ${n.slot}`}>
                {n.tag}, {n.slotName}
              </MenuItem>
            ))}
          </TextField>
        )}
        <BoundField
          deed="donor.take"
          name="bin"
          label={say("bin")}
          value={bin}
          onChange={setBin}
          sx={{ width: 90 }}
        />
        {part.state === "unknown" && (
          <BoundField
            deed="donor.take"
            name="untestedWhy"
            label={say("whyUntested")}
            value={why}
            onChange={setWhy}
            helperText={say("betterTestItInTheDonor")}
            sx={{ flex: 1, minWidth: 160 }}
          />
        )}
        <Button type="submit" variant="contained" disabled={take.running}>
          {say("takeItOut")}
        </Button>
      </Form>
    )
  );
}
