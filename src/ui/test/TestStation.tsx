"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";

import type { Refusal } from "@/contract/deeds";
import type { Drift } from "@/core/bench/drift";
import { placeName } from "@/core/profile/profile";
import type { ReferenceSheet } from "@/service/readings";
import type { StoredRecording } from "@/service/recordings";
import type { UnitView } from "@/service/views";
import { dayAndTime } from "@/text/format";
import { measureName, percent } from "@/text/measures";
import { TESTER_NAMES } from "@/text/words";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { PlanView } from "@/ui/plan/PlanView";
import { Result } from "@/ui/result/Result";
import { StateMark, stateOfGrade } from "@/ui/state/StateMark";
import { PlanFrame, Station } from "@/ui/unit/Station";
import { Functions } from "./Functions";
import { LiquidSignOff } from "./LiquidSignOff";

type Recording = Omit<StoredRecording, "startedAt"> & { startedAt: string };

/** What was measured of this unit, and the way to measure again. */
export function TestStation({
  view,
  recording,
  sheet,
  drift,
  canWork,
}: {
  view: UnitView;
  recording: Recording | null;
  sheet: ReferenceSheet | null;
  drift: Drift | null;
  canWork: boolean;
}) {
  const { unit, profile } = view;
  const wet = unit.liquid && !unit.liquid_cleared;
  const open = unit.ending === null && !unit.swollen;
  if (unit.swollen)
    return <Alert severity="error">Locked: this unit is in quarantine. A swollen cell is not powered, pressed or opened.</Alert>;
  if (wet) return <LiquidSignOff view={view} canWork={canWork} />;
  const actions = canWork && open && <Actions view={view} first={view.recordings.length === 0} />;
  const functions = <Functions view={view} canWork={canWork && open} />;
  if (!recording)
    return (
      <Station
        plan={
          <PlanFrame>
            <PlanView
              profile={profile}
              revision={unit.revision}
              states={Object.fromEntries(profile.controls.map((c) => [c.id, "untested" as const]))}
            />
          </PlanFrame>
        }
      >
        <Typography component="h2" sx={{ fontSize: "2rem", fontWeight: 800, mb: 1 }}>
          Not tested
        </Typography>
        {actions}
        {functions}
      </Station>
    );
  return (
    <Result
      key={recording.id}
      unitId={unit.id}
      profile={profile}
      revision={unit.revision}
      house={view.settings.limits}
      recording={recording}
      faults={view.faults}
      canName={canWork && open}
      sheet={sheet}
      spotBase={canWork && open ? `/units/${unit.tag}/test` : null}
      foundWhen={view.mends.length > 0 && recording.id === view.proofId ? "proof" : "test"}
      head={
        <>
          {actions}
          <Reference view={view} drift={drift} canWork={canWork && open} />
          <Typography variant="body2" color="text.secondary" sx={{ mb: 0.5 }}>
            {PURPOSE_WORDS[recording.purpose]}, {dayAndTime(recording.startedAt, view.settings)}, {recording.by},{" "}
            {TESTER_NAMES[recording.source]} ({recording.tester.label}
            {recording.tester.link && `, by ${recording.tester.link}`}
            {recording.tester.slot !== undefined && `, slot ${recording.tester.slot + 1}`}
            {recording.tester.version && `, Birdcage ${recording.tester.version}`}), {browserWords(recording.tester.host)}.{" "}
            <a href={`/api/recordings/${recording.id}`} download>
              Export as CSV
            </a>
            {" · "}
            <Link href={`/units/${unit.tag}/test/compare`}>Compare</Link>
          </Typography>
        </>
      }
      aside={
        <>
          <Recordings view={view} shown={recording.id} />
          {functions}
        </>
      }
    />
  );
}

const PURPOSE_WORDS = { full: "Full test", quick: "Quick look", spot: "Spot test" } as const;

/** The browser and the machine behind a user agent, as far as a person wants to know. */
function browserWords(agent: string): string {
  const browser = /(Firefox|Edg|Chrome|Chromium|Safari)\/(\d+)/.exec(agent);
  const system = /\(([^;)]+)/.exec(agent);
  return browser ? `${browser[1]} ${browser[2]}${system ? ` on ${system[1]}` : ""}` : agent.slice(0, 60);
}

/** A known-good unit that others are held against: making one, and whether the bench has drifted since. */
function Reference({ view, drift, canWork }: { view: UnitView; drift: Drift | null; canWork: boolean }) {
  const { unit } = view;
  const set = useDeed("unit.set-reference");
  const toggle = (on: boolean) => void set.run({ unitId: unit.id, version: unit.version, on });
  if (!unit.referenceSince)
    return canWork && view.proofId && view.nextAction !== "mend" && view.nextAction !== "name-faults" ? (
      <Box sx={{ mb: 1 }}>
        <Button size="small" onClick={() => toggle(true)} disabled={set.running}>
          Keep as a reference unit
        </Button>
        <Problem problem={set.problem} />
      </Box>
    ) : null;
  return (
    <Alert
      severity={drift?.verdict === "drifted" ? "warning" : "info"}
      sx={{ mb: 1.5 }}
      action={
        canWork && (
          <Button color="inherit" size="small" onClick={() => toggle(false)} disabled={set.running}>
            End
          </Button>
        )
      }
    >
      <b>Reference unit</b> since {dayAndTime(unit.referenceSince, view.settings)}. {drift && driftText(drift)}
      <Problem problem={set.problem} />
    </Alert>
  );
}

function driftText(d: Drift): string {
  if (d.verdict === "measured-once")
    return "Measured once: test it again after a repair to see whether the bench itself has drifted.";
  const l = d.largest;
  const largest = l
    ? ` Largest change: ${placeName({ id: l.control })}, ${measureName(l.measure)}, ${percent(l.change)} of travel (${percent(l.allowed)} allowed), against ${d.earlier} earlier.`
    : "";
  return (
    (d.verdict === "steady" ? "The bench has not drifted." : "The bench has drifted: check it before judging others.") + largest
  );
}

function Actions({ view, first }: { view: UnitView; first: boolean }) {
  const base = `/units/${view.unit.tag}/test/run`;
  return (
    <Box sx={{ display: "flex", gap: 1.2, alignItems: "center", flexWrap: "wrap", mb: 2 }}>
      <Button
        component={Link}
        href={`${base}?kind=full`}
        variant={first || view.proofId === null ? "contained" : "outlined"}
        size="large"
      >
        Full test
      </Button>
      <Button component={Link} href={`${base}?kind=quick`} variant="outlined" size="large">
        Quick look
      </Button>
      <Button component={Link} href={`/units/${view.unit.tag}/test/bench`} variant="outlined" size="large">
        Step by step
      </Button>
      <ImportRecording unitId={view.unit.id} tag={view.unit.tag} />
    </Box>
  );
}

function ImportRecording({ unitId, tag }: { unitId: string; tag: string }) {
  const router = useRouter();
  const [problem, setProblem] = useState<Refusal | null>(null);
  const [running, setRunning] = useState(false);
  async function take(file: File | undefined, field: HTMLInputElement) {
    if (!file) return;
    setRunning(true);
    setProblem(null);
    const id = crypto.randomUUID();
    const head = {
      id,
      unitId,
      purpose: "full",
      source: "import",
      tester: { label: file.name.slice(0, 200), host: "imported file" },
      startedAgoMs: 0,
    };
    try {
      const zipped = await new Response(file.stream().pipeThrough(new CompressionStream("gzip"))).blob();
      const response = await fetch("/api/recordings", {
        method: "POST",
        headers: { "x-recording": encodeURIComponent(JSON.stringify(head)) },
        body: zipped,
      });
      const reply = (await response.json()) as { ok: boolean; problem?: Refusal };
      if (reply.ok) {
        router.push(`/units/${tag}/test?r=${id}`);
        router.refresh();
      } else setProblem(reply.problem ?? { code: "busy" });
    } catch {
      setProblem({ code: "busy" });
    }
    field.value = "";
    setRunning(false);
  }
  return (
    <>
      <Button component="label" disabled={running}>
        {running ? "Reading" : "Import a recording"}
        <input
          type="file"
          accept=".csv,text/csv"
          hidden
          aria-label="Import a recording"
          onChange={(e) => void take(e.target.files?.[0], e.target)}
        />
      </Button>
      {problem && (
        <Box sx={{ flexBasis: "100%" }}>
          <Problem problem={problem} />
        </Box>
      )}
    </>
  );
}

function Recordings({ view, shown }: { view: UnitView; shown: string }) {
  if (view.recordings.length < 2) return null;
  return (
    <Box component="nav" aria-label="Recordings" sx={{ mt: 2 }}>
      <Typography component="h2" variant="h3">
        Recordings
      </Typography>
      {view.recordings.map((r) => (
        <Box
          key={r.id}
          component={Link}
          href={`/units/${view.unit.tag}/test?r=${r.id}`}
          aria-current={r.id === shown ? "true" : undefined}
          sx={{
            display: "flex",
            gap: 1,
            alignItems: "center",
            py: 0.6,
            color: "text.primary",
            textDecoration: "none",
            fontWeight: r.id === shown ? 700 : 400,
            borderBottom: 1,
            borderColor: "divider",
          }}
        >
          <StateMark state={stateOfGrade(r.grade)} size={13} />
          {PURPOSE_WORDS[r.purpose]}
          {r.spot && ` ${r.spot.controls.map((id) => placeName({ id })).join(", ")}`}
          {r.spot && r.spot.force !== "normal" && ` (${r.spot.force})`}, {dayAndTime(r.startedAt, view.settings)}
          {r.id === view.proofId && (
            <Box component="span" sx={{ ml: "auto", fontWeight: 700 }}>
              counts as proof
            </Box>
          )}
        </Box>
      ))}
    </Box>
  );
}
