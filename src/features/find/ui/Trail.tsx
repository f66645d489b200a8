"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { Form } from "@/ui/fields/Form";
import type { Settings } from "@/contract/deeds";
import { PLACE_FINDINGS, type PlaceFinding } from "@/core/diagnosis/places";
import { TRY_ACTIONS, TRY_OUTCOMES, type TryAction } from "@/core/diagnosis/tries";
import { STATE_PAIRS, type StatePair } from "@/core/diagnosis/halving";
import type { Wiring } from "@/core/profile/wiring";
import type { FindView, FragmentView, HalvingView, TryView } from "@/features/find/view";
import {
  ACTION_WORDS,
  CURE_WORDS,
  differenceText,
  outcomeWords,
  PAIR_WORDS,
  PLACE_WORDS,
  TRY_WORDS,
} from "@/features/find/words/text";
import { dayAndTime } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { Refusals } from "@/ui/deed/Refusals";
import { useDeed } from "@/ui/deed/useDeed";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { FIGURES } from "@/ui/figures";
import { say } from "@/features/find/words/words";
import { codeWords } from "@/words/codes";
import { BoundField } from "@/ui/form/BoundField";
import type { Id } from "@/core/base/ids";

type Common = { unitId: Id<"unit">; find: FindView; wiring: Wiring; shop: Settings; canWork: boolean };

const partName = (wiring: Wiring, id: string) =>
  wiring.nodes.find((n) => n.id === id)?.name ?? wiring.points.find((p) => p.id === id)?.name ?? id;

export function PartSelect({
  wiring,
  label,
  value,
  onChange,
  empty,
}: {
  wiring: Wiring;
  label: string;
  value: string;
  onChange: (id: string) => void;
  empty?: string;
}) {
  return (
    <NativeSelect
      label={label}
      value={value}
      onChange={(e) => onChange(e.target.value)}
      sx={{ minWidth: 230 }}
    >
      <option value="">{empty ?? say("pickAPart")}</option>
      {wiring.nodes.map((n) => (
        <option key={n.id} value={n.id}>
          {n.name}
        </option>
      ))}
    </NativeSelect>
  );
}

/** What happens at it: state, deeds and keys of Observations. */
function useObservations({
  unitId,
  find,
  wiring,
  shop,
  canWork,
  picked,
}: Common & { picked: string | null }) {
  const observe = useDeed("find.observe");
  const withdraw = useDeed("find.withdraw");
  const [part, setPart] = useState<string | null>(null);
  const [finding, setFinding] = useState<PlaceFinding>("corrosion-slight");
  const at = part ?? picked ?? "";
  return { unitId, find, wiring, shop, canWork, observe, withdraw, setPart, finding, setFinding, at };
}
type ObservationsState = ReturnType<typeof useObservations>;

/** What was seen at places and by checks, and one more to write down. */
export function Observations(props: Common & { picked: string | null }) {
  const s = useObservations(props);
  const { find, observe, withdraw } = s;

  return (
    <Box component="section" aria-label={say("whatWasSeenInside")}>
      <Observed {...s} />
      {find.observations.length === 0 && (
        <Typography color="text.secondary">{say("nothingWasSeenInsideYet")}</Typography>
      )}
      <SeenInside {...s} />
      <Refusals refusals={[...observe.refusals, ...withdraw.refusals]} />
    </Box>
  );
}

function Observed({ find, wiring, shop, canWork, withdraw }: ObservationsState) {
  return find.observations.map((o) => (
    <Box
      key={o.id}
      sx={{
        display: "flex",
        gap: 1,
        alignItems: "center",
        borderBottom: 1,
        borderColor: "divider",
        py: 0.4,
      }}
    >
      <span>
        <b>
          {partName(
            wiring,
            o.target.replace(
              /^(look|probe|measure|compare|swap-twin|swap-donor|reseat|disconnect|flex|cool)\./,
              "",
            ),
          )}
        </b>
        {o.kind === "check" && ` (${codeWords(o.target.split(".")[0]!)})`}:{" "}
        {o.value !== null && `${o.value}, `}
        {o.outcome in PLACE_WORDS ? PLACE_WORDS[o.outcome as PlaceFinding] : outcomeWords(o.outcome)}. {o.by},{" "}
        {dayAndTime(o.at, shop)}
      </span>
      {canWork && (
        <Button
          size="small"
          sx={{ ml: "auto", flexShrink: 0 }}
          onClick={() => void withdraw.run({ observationId: o.id })}
        >
          {say("withdraw")}
        </Button>
      )}
    </Box>
  ));
}

function SeenInside({
  canWork,
  at,
  observe,
  unitId,
  finding,
  wiring,
  setPart,
  setFinding,
}: ObservationsState) {
  return (
    canWork && (
      <Form
        sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 1.5 }}
        onSend={() => {
          if (at)
            void observe.run({
              unitId,
              kind: "place",
              target: at,
              outcome: finding,
              value: null,
              note: "",
            });
        }}
      >
        <PartSelect wiring={wiring} label={say("seenAt")} value={at} onChange={setPart} />
        <NativeSelect
          label={say("what")}
          value={finding}
          onChange={(e) => setFinding(e.target.value as PlaceFinding)}
          sx={{ minWidth: 190 }}
        >
          {(Object.keys(PLACE_FINDINGS) as PlaceFinding[]).map((f) => (
            <option key={f} value={f}>
              {PLACE_WORDS[f]}
            </option>
          ))}
        </NativeSelect>
        <Button type="submit" variant="outlined" disabled={!at}>
          {say("writeItDown")}
        </Button>
      </Form>
    )
  );
}

/** Each try: suspect, what was expected, the one action, the retest and what it showed. */
export function Tries({ unitId, find, wiring, shop, canWork, picked }: Common & { picked: string | null }) {
  const add = useDeed("try.add");
  const [suspect, setSuspect] = useState<string | null>(null);
  const [action, setAction] = useState<TryAction>("clean");
  const [expects, setExpects] = useState("");
  const at = suspect ?? picked ?? find.causes[0]?.node ?? "";
  const failed = find.tries.filter(
    (t) => (t.outcome === "same" || t.outcome === "worse") && t.suspect === at && t.action === action,
  );
  const newer = find.observations.some((o) => failed.every((t) => o.at > t.at));
  return (
    <Box component="section" aria-label={say("tries")}>
      {find.untested > 1 && (
        <Alert severity="warning" role="alert" sx={{ mb: 1 }}>
          {say("untestedChangesAreNotTested", { untested: find.untested })}
        </Alert>
      )}
      {find.tries.map((t) => (
        <OneTry key={t.id} t={t} wiring={wiring} shop={shop} canWork={canWork} />
      ))}
      {find.tries.length === 0 && <Typography color="text.secondary">{say("nothingWasTriedYet")}</Typography>}
      {canWork && (
        <Form
          sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 1.5, alignItems: "center" }}
          onSend={() => {
            if (!at || !expects.trim()) return;
            setExpects("");
            void add
              .run({
                unitId,
                suspect: at,
                action,
                expects,
                what: say("actionTheWiring", { action: ACTION_WORDS[action], wiring: partName(wiring, at) }),
              })
              .then((done) => done?.ok === false && setExpects((now) => now || expects));
          }}
        >
          <PartSelect wiring={wiring} label={say("suspect")} value={at} onChange={setSuspect} />
          <NativeSelect
            label={say("theOneAction")}
            value={action}
            onChange={(e) => setAction(e.target.value as TryAction)}
          >
            {TRY_ACTIONS.map((a) => (
              <option key={a} value={a}>
                {ACTION_WORDS[a]}
              </option>
            ))}
          </NativeSelect>
          <BoundField
            deed="try.add"
            name="expects"
            label={say("whatIsExpected")}
            value={expects}
            onChange={setExpects}
            sx={{ minWidth: 220 }}
          />
          <Button type="submit" variant="outlined" disabled={!at || !expects.trim()}>
            {say("logTheTry")}
          </Button>
        </Form>
      )}
      {failed.length > 0 && !newer && (
        <Alert severity="warning" role="note" sx={{ mt: 1 }}>
          {say("thisTreatmentOfTheWiringFailed", { wiring: partName(wiring, at), number: failed[0]!.number })}
        </Alert>
      )}
      <Refusals refusals={add.refusals} />
    </Box>
  );
}

function OneTry({
  t,
  wiring,
  shop,
  canWork,
}: {
  t: TryView;
  wiring: Wiring;
  shop: Settings;
  canWork: boolean;
}) {
  const settle = useDeed("try.settle");
  return (
    <Box sx={{ py: 0.8, borderBottom: 1, borderColor: "divider" }}>
      <b>
        {say("numberActionTheWiring", {
          number: t.number,
          action: ACTION_WORDS[t.action as TryAction],
          wiring: partName(wiring, t.suspect),
        })}
      </b>
      {say("expectingExpectsOutcome", {
        expects: t.expects,
        outcome: t.outcome ? TRY_WORDS[t.outcome] : say("notRetestedYet"),
      })}
      {t.cure !== "none" && <b> ({CURE_WORDS[t.cure]})</b>}
      {t.secondTestDue &&
        say("secondTestFromSecondTestDue", { secondTestDue: dayAndTime(t.secondTestDue, shop) })}
      <Box component="span" sx={{ color: "text.secondary" }}>
        {" "}
        {t.by}, {dayAndTime(t.at, shop)}
      </Box>
      {canWork && (
        <Box sx={{ display: "flex", gap: 0.5, flexWrap: "wrap", mt: 0.5 }}>
          {t.outcome === null &&
            TRY_OUTCOMES.map((o) => (
              <Button
                key={o}
                size="small"
                variant="outlined"
                onClick={() => void settle.run({ tryId: t.id, version: t.version, outcome: o, undone: null })}
              >
                {TRY_WORDS[o]}
              </Button>
            ))}
          {t.outcome === "cured" && t.undone === null && (
            <>
              <Button
                size="small"
                variant="outlined"
                onClick={() =>
                  void settle.run({ tryId: t.id, version: t.version, outcome: "cured", undone: "came-back" })
                }
              >
                {say("undoneItCameBack")}
              </Button>
              <Button
                size="small"
                variant="outlined"
                onClick={() =>
                  void settle.run({
                    tryId: t.id,
                    version: t.version,
                    outcome: "cured",
                    undone: "stayed-away",
                  })
                }
              >
                {say("undoneItStayedAway")}
              </Button>
            </>
          )}
        </Box>
      )}
      <Problem problem={settle.problem} />
    </Box>
  );
}

/** Loose pieces: each numbered, with the place, and matched to a part or open. */
export function Fragments({ unitId, find, wiring, canWork }: Common) {
  const add = useDeed("fragment.add");
  const [what, setWhat] = useState("");
  const [foundAt, setFoundAt] = useState("");
  return (
    <Box component="section" aria-label={say("loosePieces")}>
      {find.fragments.map((f) => (
        <OneFragment key={f.id} f={f} wiring={wiring} canWork={canWork} />
      ))}
      {find.fragments.length === 0 && (
        <Typography color="text.secondary">{say("noLoosePieceWasFound")}</Typography>
      )}
      {canWork && (
        <Form
          sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 1.5 }}
          onSend={() => {
            if (!what.trim() || !foundAt.trim()) return;
            setWhat("");
            setFoundAt("");
            void add.run({ unitId, what, foundAt }).then((done) => {
              if (done === null || done.ok) return;
              setWhat((now) => now || what);
              setFoundAt((now) => now || foundAt);
            });
          }}
        >
          <BoundField
            deed="fragment.add"
            name="what"
            label={say("piece")}
            value={what}
            onChange={setWhat}
            sx={{ minWidth: 220 }}
          />
          <BoundField
            deed="fragment.add"
            name="foundAt"
            label={say("foundAt")}
            value={foundAt}
            onChange={setFoundAt}
          />
          <Button type="submit" variant="outlined" disabled={!what.trim() || !foundAt.trim()}>
            {say("numberIt")}
          </Button>
        </Form>
      )}
      <Refusals refusals={add.refusals} />
    </Box>
  );
}

function OneFragment({ f, wiring, canWork }: { f: FragmentView; wiring: Wiring; canWork: boolean }) {
  const match = useDeed("fragment.match");
  const [explained, setExplained] = useState("");
  const [from, setFrom] = useState("");
  const open = f.matchedTo === null && f.explained === "";
  return (
    <Box sx={{ py: 0.8, borderBottom: 1, borderColor: "divider" }}>
      <b>
        {f.number}. {f.what}
      </b>
      {say("foundAtFoundAtExplained", {
        foundAt: f.foundAt,
        explained: f.matchedTo
          ? say("fromTheWiring", { wiring: partName(wiring, f.matchedTo) })
          : f.explained || say("fitsNothingSoFarAnotherBreak"),
      })}
      {open && canWork && (
        <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 0.8 }}>
          <PartSelect wiring={wiring} label={say("itIsFrom")} value={from} onChange={setFrom} />
          <Button
            variant="outlined"
            disabled={!from}
            onClick={() =>
              void match.run({ fragmentId: f.id, version: f.version, matchedTo: from, explained: "" })
            }
          >
            {say("matchIt")}
          </Button>
          <BoundField
            deed="fragment.match"
            name="explained"
            label={say("orExplainIt")}
            value={explained}
            onChange={setExplained}
          />
          <Button
            variant="outlined"
            disabled={!explained.trim()}
            onClick={() =>
              void match.run({ fragmentId: f.id, version: f.version, matchedTo: null, explained })
            }
          >
            {say("explained")}
          </Button>
        </Box>
      )}
      <Problem problem={match.problem} />
    </Box>
  );
}

/** It works in one state and fails in the other: what differs, halved step by step. */
export function Halvings({ unitId, find, canWork }: Common) {
  const start = useDeed("halving.start");
  const [pair, setPair] = useState<StatePair>("open-closed");
  const running = find.halvings.some((h) => !h.closed);
  return (
    <Box component="section" aria-label={say("worksHereFailsThere")}>
      {find.halvings.map((h) => (
        <OneHalving key={h.id} h={h} canWork={canWork} />
      ))}
      {canWork && !running && (
        <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 1 }}>
          <TextField
            select
            label={say("itWorksAndFails")}
            value={pair}
            onChange={(e) => setPair(e.target.value as StatePair)}
            sx={{ minWidth: 240 }}
          >
            {STATE_PAIRS.map((p) => (
              <MenuItem key={p} value={p}>
                {say("worksPFailsP2", { p: PAIR_WORDS[p][0], p2: PAIR_WORDS[p][1] })}
              </MenuItem>
            ))}
          </TextField>
          <Button
            variant="outlined"
            onClick={() => void start.run({ unitId, pair })}
            disabled={start.running}
          >
            {say("listWhatDiffers")}
          </Button>
        </Box>
      )}
      <Problem problem={start.problem} />
    </Box>
  );
}

function OneHalving({ h, canWork }: { h: HalvingView; canWork: boolean }) {
  const step = useDeed("halving.step");
  const name = (id: string) =>
    differenceText(h.items.find((x) => x.id === id) ?? { id, what: id, node: null });
  const [works, fails] = PAIR_WORDS[h.pair];
  const tell = (result: "works" | "fails" | "give-up") =>
    void step.run({ halvingId: h.id, version: h.version, result });
  return (
    <Box sx={{ mb: 1.5 }}>
      <Typography sx={{ fontWeight: 700 }}>
        {say("worksWorksFailsFailsItemsThings", {
          works,
          fails,
          items: h.items.length,
          steps: h.steps.length,
        })}
      </Typography>
      {h.now.state === "found" && (
        <Alert role="status" severity="success">
          {say("itComesDownToItem", { item: name(h.now.item) })}
        </Alert>
      )}
      {h.now.state === "contradiction" && (
        <Alert severity="warning">{say("theResultsContradictEachOther")}</Alert>
      )}
      {h.now.state === "ask" && !h.closed && (
        <Box sx={{ p: 1.5, border: 1, borderColor: "primary.main", borderRadius: 1, mt: 0.5 }}>
          <Box sx={{ fontSize: "1.15rem", fontWeight: 700 }}>
            {say("bringOnlyTheseIntoTheState", { fails })}
          </Box>
          <ul style={{ margin: "4px 0" }}>
            {h.now.switch.map((id) => (
              <li key={id}>{name(id)}</li>
            ))}
          </ul>
          <Box sx={{ color: "text.secondary", mb: 1, fontFamily: FIGURES }}>
            {say("leftLeftAtMostStepsLeftMore", { left: h.now.left.length, stepsLeft: h.now.stepsLeft })}
          </Box>
          {canWork && (
            <Box sx={{ display: "flex", gap: 1 }}>
              <Button variant="contained" onClick={() => tell("fails")} disabled={step.running}>
                {say("itFails")}
              </Button>
              <Button variant="contained" onClick={() => tell("works")} disabled={step.running}>
                {say("itWorks")}
              </Button>
              <Button onClick={() => tell("give-up")} disabled={step.running}>
                {say("giveUp")}
              </Button>
            </Box>
          )}
        </Box>
      )}
      <Problem problem={step.problem} />
    </Box>
  );
}
