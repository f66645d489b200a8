"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import Checkbox from "@mui/material/Checkbox";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import type { Role } from "@/contract/deeds";
import { controlsOf, functionsOf, placeName } from "@/core/profile/profile";
import type { FaultView, UnitView } from "@/service/views";
import { dayAndTime } from "@/text/format";
import { placeWords } from "@/text/words";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { PlanView } from "@/ui/plan/PlanView";
import { type ShownState, StateMark } from "@/ui/state/StateMark";
import { PlanFrame, Station } from "@/ui/unit/Station";

const FOUND: Record<FaultView["foundWhen"], string> = {
  intake: "at intake",
  test: "on the closed test",
  opened: "after opening",
  proof: "on the proof",
};
const STATUS: Record<FaultView["status"], [string, ShownState]> = {
  open: ["open", "fail"],
  mended: ["mended", "pass"],
  accepted: ["accepted as a limit", "caution"],
  withdrawn: ["withdrawn", "not-fitted"],
};

/** What was claimed and what was found, side by side. */
export function FindStation({ view, role }: { view: UnitView; role: Role }) {
  const { unit, profile } = view;
  const canWork = role !== "viewer" && unit.ending === null && !unit.swollen;
  const [place, setPlace] = useState("");
  const states = Object.fromEntries(
    view.faults.filter((f) => f.status !== "withdrawn").map((f) => [f.place, STATUS[f.status][1]]),
  );
  return (
    <Station
      plan={
        <PlanFrame>
          <PlanView
            profile={profile}
            revision={unit.revision}
            states={states}
            selected={place || null}
            onPick={canWork ? setPlace : undefined}
            label="Faults by place. Pick a control to name one."
          />
        </PlanFrame>
      }
    >
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "1fr 1.6fr" }, gap: 3 }}>
        <section>
          <Typography component="h2" variant="h2">
            Claimed
          </Typography>
          <Typography sx={{ fontSize: "1.25rem", fontStyle: unit.claim ? "italic" : undefined, mt: 0.5 }}>
            {unit.claim ? `“${unit.claim}”` : "Nothing was claimed."}
          </Typography>
          {unit.intake.history && <Typography color="text.secondary">{unit.intake.history}</Typography>}
        </section>
        <section>
          <Typography component="h2" variant="h2">
            Found
          </Typography>
          {view.faults.length === 0 && (
            <Typography color="text.secondary" sx={{ mt: 0.5 }}>
              No fault is named yet. On a result, <b>n</b> names the failed measure; or name one below.
            </Typography>
          )}
          {view.faults.map((f) => (
            <Fault key={f.id} fault={f} view={view} role={role} canWork={canWork} />
          ))}
        </section>
      </Box>
      {canWork && <NameFault view={view} place={place} onPlace={setPlace} />}
    </Station>
  );
}

function Fault({ fault, view, role, canWork }: { fault: FaultView; view: UnitView; role: Role; canWork: boolean }) {
  const settle = useDeed("fault.settle");
  const [why, setWhy] = useState("");
  const [asking, setAsking] = useState<"accepted" | "withdrawn" | null>(null);
  const [word, state] = STATUS[fault.status];
  const set = async (status: FaultView["status"], reason = "") => {
    const done = await settle.run({ faultId: fault.id, version: fault.version, status, why: reason });
    if (done?.ok) setAsking(null);
  };
  return (
    <Box sx={{ py: 1.2, borderBottom: 1, borderColor: "divider" }}>
      <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
        <StateMark state={state} />
        <Box sx={{ fontWeight: 700, fontSize: "1.1rem" }}>
          {fault.number}. {placeWords(fault.place)}: {fault.kind}
        </Box>
        <Box sx={{ ml: "auto", fontWeight: 700 }}>{word}</Box>
      </Box>
      <Box sx={{ color: "text.secondary" }}>
        {fault.words && `${fault.words}. `}
        Found {FOUND[fault.foundWhen]}, {fault.claimed ? "as claimed" : "not in the claim"}, {fault.by},{" "}
        {dayAndTime(fault.at, view.settings)}
        {fault.statusWhy && `. ${fault.statusWhy}`}
        {fault.recordingId && (
          <>
            {" · "}
            <Link href={`/units/${view.unit.tag}/test?r=${fault.recordingId}`}>evidence</Link>
          </>
        )}
      </Box>
      {canWork && (
        <Box sx={{ display: "flex", gap: 1, mt: 0.5, flexWrap: "wrap" }}>
          {fault.status === "open" && (
            <>
              <Button size="small" component={Link} href={`/units/${view.unit.tag}/mend?fault=${fault.id}`}>
                Mend it
              </Button>
              {role === "lead" && (
                <Button size="small" onClick={() => setAsking("accepted")}>
                  Accept as a limit
                </Button>
              )}
              <Button size="small" onClick={() => setAsking("withdrawn")}>
                Withdraw
              </Button>
            </>
          )}
          {fault.status !== "open" && (
            <Button size="small" onClick={() => void set("open")}>
              Open it again
            </Button>
          )}
        </Box>
      )}
      {asking && (
        <Box
          component="form"
          onSubmit={(e) => {
            e.preventDefault();
            void set(asking, why);
          }}
          sx={{ display: "flex", gap: 1, mt: 1 }}
        >
          <TextField label="Why" value={why} onChange={(e) => setWhy(e.target.value)} autoFocus required />
          <Button type="submit" variant="contained" disabled={settle.running}>
            {asking === "accepted" ? "Accept" : "Withdraw"}
          </Button>
        </Box>
      )}
      <Problem problem={settle.problem} />
    </Box>
  );
}

function NameFault({ view, place, onPlace }: { view: UnitView; place: string; onPlace: (id: string) => void }) {
  const { unit, profile } = view;
  const add = useDeed("fault.add");
  const [kind, setKind] = useState("");
  const [words, setWords] = useState("");
  const [claimed, setClaimed] = useState(false);
  const [when, setWhen] = useState<FaultView["foundWhen"]>(view.mends.some((m) => m.opened) ? "opened" : "test");
  const save = async () => {
    const done = await add.run({
      unitId: unit.id,
      place,
      kind,
      words,
      foundWhen: when,
      claimed,
      measure: null,
      recordingId: null,
    });
    if (!done?.ok) return;
    setKind("");
    setWords("");
    setClaimed(false);
  };
  return (
    <Box
      component="form"
      onSubmit={(e) => {
        e.preventDefault();
        void save();
      }}
      sx={{ mt: 3, display: "grid", gap: 1.5, gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr 1fr" } }}
    >
      <Typography component="h2" variant="h2" sx={{ gridColumn: "1 / -1" }}>
        Name a fault by hand
      </Typography>
      <TextField
        select
        label="Place (or pick it on the plan)"
        required
        slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
        value={place}
        onChange={(e) => onPlace(e.target.value)}
      >
        <option value="">choose</option>
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
        <option value="shell">shell</option>
        <option value="board">board</option>
      </TextField>
      <TextField
        label="Kind"
        placeholder="cracked joint, worn dome, ..."
        required
        value={kind}
        onChange={(e) => setKind(e.target.value)}
      />
      <TextField
        select
        label="Found"
        slotProps={{ select: { native: true } }}
        value={when}
        onChange={(e) => setWhen(e.target.value as FaultView["foundWhen"])}
      >
        {Object.entries(FOUND).map(([v, name]) => (
          <option key={v} value={v}>
            {name}
          </option>
        ))}
      </TextField>
      <TextField label="In words" value={words} onChange={(e) => setWords(e.target.value)} sx={{ gridColumn: { sm: "1 / 3" } }} />
      <FormControlLabel
        control={<Checkbox checked={claimed} onChange={(e) => setClaimed(e.target.checked)} />}
        label="The claim named it"
      />
      <Box sx={{ gridColumn: "1 / -1" }}>
        <Button type="submit" variant="contained" disabled={add.running}>
          Name the fault
        </Button>
        <Problem problem={add.problem} />
      </Box>
    </Box>
  );
}
