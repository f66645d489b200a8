"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import Checkbox from "@mui/material/Checkbox";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import { Form } from "@/ui/fields/Form";
import type { Role } from "@/contract/roles";
import { controlsOf, functionsOf, placeName } from "@/core/profile/profile";
import type { Wiring } from "@/core/profile/wiring";
import type { FindView } from "@/features/find/view";
import type { FaultView, UnitView } from "@/features/units/view";
import { dayAndTime } from "@/text/format";
import { placeWords } from "@/text/names";
import { Problem } from "@/ui/deed/Problem";
import { Refusals } from "@/ui/deed/Refusals";
import { useDeed } from "@/ui/deed/useDeed";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { PlanView } from "@/ui/plan/PlanView";
import { type ShownState, StateMark } from "@/ui/state/StateMark";
import { PlanFrame, Station } from "@/features/units/ui/unit/Station";
import { BoardView } from "./BoardView";
import { Causes } from "./Causes";
import { codeWords } from "@/words/codes";
import { say } from "@/features/find/words/words";
import { BoundField } from "@/ui/form/BoundField";

const FOUND: Record<FaultView["foundWhen"], string> = {
  intake: say("atIntake"),
  test: say("onTheClosedTest"),
  opened: say("afterOpening"),
  proof: say("onTheProof"),
};
const STATUS: Record<FaultView["status"], [string, ShownState]> = {
  open: [codeWords("open"), "fail"],
  mended: [codeWords("mended"), "pass"],
  accepted: [say("acceptedAsALimit"), "caution"],
  withdrawn: [codeWords("withdrawn"), "not-fitted"],
};

/** What was claimed and what was found, side by side. */
export function FindStation({ view, find, role }: { view: UnitView; find: FindView | null; role: Role }) {
  const { unit, profile } = view;
  const canWork = role !== "viewer" && unit.ending === null && !unit.swollen;
  const [place, setPlace] = useState("");
  const [node, setNode] = useState<string | null>(null);
  const things = [...controlsOf(profile, unit.revision), ...functionsOf(profile, unit.revision)];
  const nameOf = (id: string) => {
    const thing = things.find((t) => t.id === id);
    return thing ? placeName(thing) : placeWords(id);
  };
  // live and dead by what was seen; an open fault shows even where nothing was measured
  const states: Record<string, ShownState> = Object.fromEntries([
    ...(find?.seen ?? []).map((s): [string, ShownState] => [s.id, s.outcome === "works" ? "pass" : "fail"]),
    ...view.faults
      .filter((f) => f.status !== "withdrawn")
      .map((f): [string, ShownState] => [f.place, STATUS[f.status][1]]),
  ]);
  return (
    <Station
      plan={
        <>
          <PlanFrame>
            <PlanView
              profile={profile}
              revision={unit.revision}
              states={states}
              selected={place || null}
              onPick={canWork ? setPlace : undefined}
              label={say("liveAndDeadByPlacePick")}
            />
          </PlanFrame>
          {find && profile.wiring && (
            <Boards wiring={profile.wiring} find={find} states={states} picked={node} onPick={setNode} />
          )}
        </>
      }
    >
      {find && profile.wiring && (
        <Causes
          unitId={unit.id}
          find={find}
          wiring={profile.wiring}
          shop={view.settings}
          nameOf={nameOf}
          picked={node}
          onPick={setNode}
          canWork={canWork}
        />
      )}
      {!profile.wiring && (
        <Typography color="text.secondary" sx={{ mb: 2 }}>
          {say("thisModelHasNoWiringIn")}
        </Typography>
      )}
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "1fr 1.6fr" }, gap: 3 }}>
        <section>
          <Typography component="h2" variant="h2">
            {say("claimed")}
          </Typography>
          <Typography sx={{ fontSize: "1.25rem", fontStyle: unit.claim ? "italic" : undefined, mt: 0.5 }}>
            {unit.claim ? `“${unit.claim}”` : say("nothingWasClaimed")}
          </Typography>
          {unit.intake.history && <Typography color="text.secondary">{unit.intake.history}</Typography>}
        </section>
        <section>
          <Typography component="h2" variant="h2">
            {say("found")}
          </Typography>
          {view.faults.length === 0 && (
            <Typography color="text.secondary" sx={{ mt: 0.5 }}>
              {say("noFaultIsNamedYetOn")} <b>n</b> {say("namesTheFailedMeasureOrName")}
            </Typography>
          )}
          {view.faults.map((f) => (
            <Fault key={f.id} fault={f} view={view} role={role} canWork={canWork} />
          ))}
          <SavingFaults view={view} />
        </section>
      </Box>
      {canWork && <NameFault view={view} place={place} onPlace={setPlace} />}
    </Station>
  );
}

/** The boards, one face at a time: what is live and dead laid over the parts, suspects shaded. */
function Boards({
  wiring,
  find,
  states,
  picked,
  onPick,
}: {
  wiring: Wiring;
  find: FindView;
  states: Record<string, ShownState>;
  picked: string | null;
  onPick: (node: string) => void;
}) {
  const onBoard = (id: string | null) => wiring.nodes.find((n) => n.id === id && n.board);
  const suspect = onBoard(picked) ?? find.causes.map((c) => onBoard(c.node)).find(Boolean);
  const [chosen, setChosen] = useState<{ board: string; face: "top" | "bottom" } | null>(null);
  const board = chosen?.board ?? suspect?.board ?? wiring.boards[0]!.id;
  const face = chosen?.face ?? suspect?.face ?? "top";
  const live = new Map<string, ShownState>();
  const reach = (id: string, state: ShownState) => {
    const n = wiring.nodes.find((x) => x.id === id);
    if (!n) return;
    // a part that something working rests on is live; one that only dead things rest on is dead
    if (live.get(id) !== "pass") live.set(id, state);
    n.needs.forEach((need) => reach(need, state));
  };
  for (const [id, parts] of Object.entries(wiring.serves))
    if (states[id] === "fail") parts.forEach((part) => reach(part, "fail"));
  for (const [id, parts] of Object.entries(wiring.serves))
    if (states[id] === "pass") parts.forEach((part) => reach(part, "pass"));
  return (
    <Box sx={{ mt: 1.5 }}>
      <Box sx={{ display: "flex", gap: 0.5, flexWrap: "wrap", mb: 0.5 }}>
        {wiring.boards.map((b) => (
          <Button
            key={b.id}
            size="small"
            variant={b.id === board ? "contained" : "outlined"}
            aria-pressed={b.id === board}
            onClick={() => setChosen({ board: b.id, face })}
          >
            {b.name}
          </Button>
        ))}
        <Button size="small" onClick={() => setChosen({ board, face: face === "top" ? "bottom" : "top" })}>
          {say("turnOver")}
        </Button>
      </Box>
      <PlanFrame height={220}>
        <BoardView
          wiring={wiring}
          board={board}
          face={face}
          states={Object.fromEntries(live)}
          suspicion={Object.fromEntries(find.causes.map((c) => [c.node, c.probability]))}
          readings={Object.fromEntries(find.points.map((p) => [p.id, p.off]))}
          selected={picked}
          onPick={onPick}
        />
      </PlanFrame>
    </Box>
  );
}

type FaultProps = {
  fault: FaultView;
  view: UnitView;
  role: Role;
  canWork: boolean;
};

/** What happens at it: state, deeds and keys of Fault. */
function useFault({ fault, view, role, canWork }: FaultProps) {
  const settle = useDeed("fault.settle");
  const [why, setWhy] = useState("");
  const [asking, setAsking] = useState<"accepted" | "withdrawn" | "mended" | null>(null);
  // no test speaks of what was judged by hand: the hand that judged it says that it is cured, once something was done
  const byHand = fault.measure === null && view.mends.some((m) => m.at > fault.at);
  const [word, state] = STATUS[fault.status];
  const set = async (status: FaultView["status"], reason = "") => {
    const done = await settle.run({ faultId: fault.id, version: fault.version, status, why: reason });
    if (done?.ok) setAsking(null);
  };
  const askedWords = () => {
    if (asking === "accepted") return say("accept");
    if (asking === "mended") return say("itIsCured");
    return say("withdraw");
  };
  return {
    fault,
    view,
    role,
    canWork,
    settle,
    why,
    setWhy,
    asking,
    setAsking,
    byHand,
    word,
    state,
    set,
    askedWords,
  };
}
type FaultState = ReturnType<typeof useFault>;

function Fault(props: FaultProps) {
  const s = useFault(props);
  const { fault, settle, word, state } = s;

  return (
    <Box sx={{ py: 1.2, borderBottom: 1, borderColor: "divider" }}>
      <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
        <StateMark state={state} />
        <Box sx={{ fontWeight: 700, fontSize: "1.1rem" }}>
          {fault.number}. {placeWords(fault.place)}: {fault.kind}
        </Box>
        <Box sx={{ ml: "auto", fontWeight: 700 }}>{word}</Box>
      </Box>
      <FaultWords {...s} />
      <FaultKeys {...s} />
      <WhyAsked {...s} />
      <Problem problem={settle.problem} />
    </Box>
  );
}

function FaultWords({ fault, view }: FaultState) {
  return (
    <Box sx={{ color: "text.secondary" }}>
      {say("faultFoundFoundWhenClaimedBy", {
        fault: fault.words && `${fault.words}. `,
        foundWhen: FOUND[fault.foundWhen],
        claimed: fault.claimed ? say("asClaimed") : say("notInTheClaim"),
        by: fault.by,
        at: dayAndTime(fault.at, view.settings),
        statusWhy: fault.statusWhy && `. ${fault.statusWhy}`,
      })}
      {fault.recordingId && (
        <>
          {" · "}
          <Link href={`/units/${view.unit.tag}/test?r=${fault.recordingId}`}>{say("evidence")}</Link>
        </>
      )}
    </Box>
  );
}

function FaultKeys({ canWork, fault, view, byHand, setAsking, role, set }: FaultState) {
  return (
    canWork && (
      <Box sx={{ display: "flex", gap: 1, mt: 0.5, flexWrap: "wrap" }}>
        {fault.status === "open" && (
          <>
            <Button size="small" component={Link} href={`/units/${view.unit.tag}/mend?fault=${fault.id}`}>
              {say("mendIt")}
            </Button>
            {byHand && (
              <Button size="small" onClick={() => setAsking("mended")}>
                {say("curedLookedAtAgain")}
              </Button>
            )}
            {role === "lead" && (
              <Button size="small" onClick={() => setAsking("accepted")}>
                {say("acceptAsALimit")}
              </Button>
            )}
            <Button size="small" onClick={() => setAsking("withdrawn")}>
              {say("withdraw")}
            </Button>
          </>
        )}
        {fault.status !== "open" && (
          <Button size="small" onClick={() => void set("open")}>
            {say("openItAgain")}
          </Button>
        )}
      </Box>
    )
  );
}

function WhyAsked({ asking, set, why, setWhy, settle, askedWords }: FaultState) {
  return (
    asking && (
      <Form onSend={() => void set(asking, why)} sx={{ display: "flex", gap: 1, mt: 1 }}>
        <BoundField
          deed="fault.settle"
          name="why"
          label={asking === "mended" ? say("whatShowsIt") : say("why")}
          value={why}
          onChange={setWhy}
          autoFocus
          required
        />
        <Button type="submit" variant="contained" disabled={settle.running}>
          {askedWords()}
        </Button>
      </Form>
    )
  );
}

/** Faults that were named and are on their way. */
function SavingFaults({ view }: { view: UnitView }) {
  const { pending } = useDeed("fault.add");
  return pending
    .filter(
      (p) => p.unitId === view.unit.id && !view.faults.some((f) => f.place === p.place && f.kind === p.kind),
    )
    .map((p) => (
      <Box
        key={`${p.place} ${p.kind}`}
        sx={{ py: 1.2, borderBottom: 1, borderColor: "divider", fontWeight: 700 }}
      >
        {placeWords(p.place)}: {p.kind}
        <Box component="span" sx={{ color: "text.secondary", fontWeight: 400 }}>
          {say("saving")}
        </Box>
      </Box>
    ));
}

type NameFaultProps = {
  view: UnitView;
  place: string;
  onPlace: (id: string) => void;
};

/** What happens at it: state, deeds and keys of NameFault. */
function useNameFault({ view, place, onPlace }: NameFaultProps) {
  const { unit, profile } = view;
  const add = useDeed("fault.add");
  const [kind, setKind] = useState("");
  const [words, setWords] = useState("");
  const [claimed, setClaimed] = useState(false);
  const [when, setWhen] = useState<FaultView["foundWhen"]>(
    view.mends.some((m) => m.opened) ? "opened" : "test",
  );
  // the form is free for the next fault at once; what was refused comes back into it as long as nothing new is there
  const save = async () => {
    setKind("");
    setWords("");
    setClaimed(false);
    const done = await add.run({
      unitId: unit.id,
      place,
      kind,
      words,
      foundWhen: when,
      ...(claimed ? { claimed } : {}),
      measure: null,
      recordingId: null,
    });
    if (done === null || done.ok) return;
    setKind((now) => now || kind);
    setWords((now) => now || words);
  };
  return {
    place,
    onPlace,
    unit,
    profile,
    add,
    kind,
    setKind,
    words,
    setWords,
    claimed,
    setClaimed,
    when,
    setWhen,
    save,
  };
}
type NameFaultState = ReturnType<typeof useNameFault>;

function NameFault(props: NameFaultProps) {
  const s = useNameFault(props);
  const { add, kind, setKind, words, setWords, claimed, setClaimed, when, setWhen, save } = s;

  return (
    <Form
      onSend={save}
      sx={{ mt: 3, display: "grid", gap: 1.5, gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr 1fr" } }}
    >
      <Typography component="h2" variant="h2" sx={{ gridColumn: "1 / -1" }}>
        {say("nameAFaultByHand")}
      </Typography>
      <PlaceOfFault {...s} />
      <BoundField
        deed="fault.add"
        name="kind"
        label={say("kind")}
        placeholder={say("crackedJointWornDome")}
        required
        value={kind}
        onChange={setKind}
      />
      <NativeSelect
        label={say("found")}
        value={when}
        onChange={(e) => setWhen(e.target.value as FaultView["foundWhen"])}
      >
        {Object.entries(FOUND).map(([v, name]) => (
          <option key={v} value={v}>
            {name}
          </option>
        ))}
      </NativeSelect>
      <BoundField
        deed="fault.add"
        name="words"
        label={say("inWords")}
        value={words}
        onChange={setWords}
        sx={{ gridColumn: { sm: "1 / 3" } }}
      />
      <FormControlLabel
        control={<Checkbox checked={claimed} onChange={(e) => setClaimed(e.target.checked)} />}
        label={say("theClaimMeantThisInOther")}
      />
      <Box sx={{ gridColumn: "1 / -1" }}>
        <Button type="submit" variant="contained">
          {say("nameTheFault")}
        </Button>
        <Refusals refusals={add.refusals} />
      </Box>
    </Form>
  );
}

function PlaceOfFault({ place, onPlace, profile, unit }: NameFaultState) {
  return (
    <NativeSelect
      label={say("placeOrPickItOnThe")}
      required
      value={place}
      onChange={(e) => onPlace(e.target.value)}
    >
      <option value="">{say("choose")}</option>
      {controlsOf(profile, unit.revision).map((c) => (
        <option key={c.id} value={c.id}>
          {placeName(c)}
        </option>
      ))}
      {functionsOf(profile, unit.revision).map((f) => (
        <option key={f.id} value={f.id}>
          {f.name}
        </option>
      ))}
      <option value="shell">{say("shell")}</option>
      <option value="board">{say("board")}</option>
    </NativeSelect>
  );
}
