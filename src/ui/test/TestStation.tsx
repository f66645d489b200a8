"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";

import type { Refusal } from "@/contract/deeds";
import type { StoredRecording } from "@/service/recordings";
import type { UnitView } from "@/service/views";
import { dayAndTime } from "@/text/format";
import { TESTER_NAMES } from "@/text/words";
import { Problem } from "@/ui/deed/Problem";
import { PlanView } from "@/ui/plan/PlanView";
import { Result } from "@/ui/result/Result";
import { StateMark, stateOfGrade } from "@/ui/state/StateMark";
import { PlanFrame, Station } from "@/ui/unit/Station";
import { Functions } from "./Functions";
import { LiquidSignOff } from "./LiquidSignOff";

type Recording = Omit<StoredRecording, "startedAt"> & { startedAt: string };

/** What was measured of this unit, and the way to measure again. */
export function TestStation({ view, recording, canWork }: { view: UnitView; recording: Recording | null; canWork: boolean }) {
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
      foundWhen={view.mends.length > 0 && recording.id === view.proofId ? "proof" : "test"}
      head={
        <>
          {actions}
          <Typography variant="body2" color="text.secondary" sx={{ mb: 0.5 }}>
            {recording.purpose === "full" ? "Full test" : "Quick look"}, {dayAndTime(recording.startedAt, view.settings)},{" "}
            {recording.by}, {TESTER_NAMES[recording.source]} ({recording.tester.label}).{" "}
            <a href={`/api/recordings/${recording.id}`} download>
              Export as CSV
            </a>
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
          {r.purpose === "full" ? "Full test" : "Quick look"}, {dayAndTime(r.startedAt, view.settings)}
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
