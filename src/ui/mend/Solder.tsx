"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import { HEAT_CYCLES, holesNotReady, JOINT_CHECKS, removalMethods, settingProblem } from "@/core/mend/solder";
import type { SolderJob } from "@/core/profile/guide";
import type { HeatView } from "@/service/heat";
import type { ChipHeat } from "@/core/mend/solder";
import { dayAndTime } from "@/text/format";
import { CAUTIONS, holeText } from "@/text/mend";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { BigFigure } from "@/ui/unit/Station";
import { MendTabs } from "./MendTabs";

const JOINT_WORDS: Record<(typeof JOINT_CHECKS)[number], string> = {
  filled: "filled through",
  shiny: "shiny",
  "no-bridge": "no bridge",
  "legs-cut": "legs cut",
  "flux-off": "flux cleaned off, looked at beneath",
  "both-sides": "seen from both sides",
};
type Props = {
  unit: { id: string; tag: string };
  jobs: SolderJob[];
  chips: string[];
  owned: string[];
  heat: { entries: HeatView[]; chips: ChipHeat[] };
  leads: { name: string; leads: [string, string][] }[];
  shop: Settings;
  canWork: boolean;
};

/** Solder work: the setting of each operation under its ceiling, the holes, the joints, and what each chip has been through. */
export function Solder({ unit, jobs, chips, owned, heat, leads, shop, canWork }: Props) {
  const [jobId, setJobId] = useState(jobs[0]?.id ?? "");
  const job = jobs.find((j) => j.id === jobId);
  return (
    <>
      <MendTabs tag={unit.tag} />
      {jobs.length === 0 && <Typography>The guide of this model has no solder operation yet.</Typography>}
      <Box sx={{ display: "grid", gap: 3, gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,3fr) minmax(0,2fr)" } }}>
        <Box>
          {job && (
            <>
              <NativeSelect
                label="Operation"
                value={jobId}
                onChange={(e) => setJobId(e.target.value)}
                sx={{ maxWidth: 360, mb: 2 }}
              >
                {jobs.map((j) => (
                  <option key={j.id} value={j.id}>
                    {j.name}
                  </option>
                ))}
              </NativeSelect>
              <Alert severity="warning" role="note" sx={{ mb: 2 }}>
                {CAUTIONS.iron} {CAUTIONS.fumes}
              </Alert>
              <Operation key={job.id} unitId={unit.id} job={job} chips={chips} owned={owned} canWork={canWork} />
            </>
          )}
        </Box>
        <Box>
          <Typography component="h2" variant="h2">
            Heat taken by each chip
          </Typography>
          {heat.chips.length === 0 && <Typography color="text.secondary">None logged.</Typography>}
          {heat.chips.map((c) => (
            <Box
              key={c.chip}
              sx={{
                py: 0.5,
                color: c.state === "good" ? "text.primary" : "caution.main",
                fontWeight: c.state === "good" ? 400 : 700,
              }}
            >
              {c.chip}: {c.cycles} of {HEAT_CYCLES}
              {c.state === "last" && ", no more heat here"}
              {c.state === "beyond" && ", beyond: more likely hurt than helped"}
            </Box>
          ))}
          <Typography component="h2" variant="h2" sx={{ mt: 2 }}>
            Lead colours
          </Typography>
          {leads.map((l) => (
            <div key={l.name}>
              <b>{l.name}</b>: {l.leads.map(([p, c]) => `${p} ${c}`).join(", ")}
            </div>
          ))}
          <Typography component="h2" variant="h2" sx={{ mt: 2 }}>
            Log
          </Typography>
          {heat.entries.length === 0 && <Typography color="text.secondary">Nothing was soldered yet.</Typography>}
          {heat.entries.map((e) => (
            <Box key={e.id} sx={{ py: 0.6, borderTop: 1, borderColor: "divider" }}>
              <b>
                {jobs.find((j) => j.id === e.job)?.name ?? e.job}, {e.celsius} °C
              </b>
              , {e.method}
              {e.holes > 0 && `, ${e.holes} holes gauged`}
              {e.joints.length > 0 && `, joints: ${e.joints.length} of ${JOINT_CHECKS.length} checks`}
              {e.exception && `. Hotter because: ${e.exception}`}
              {e.shielded && `. Shielded: ${e.shielded}`}. {e.by}, {dayAndTime(e.at, shop)}
            </Box>
          ))}
        </Box>
      </Box>
    </>
  );
}

function Operation({
  unitId,
  job,
  chips,
  owned,
  canWork,
}: {
  unitId: string;
  job: SolderJob;
  chips: string[];
  owned: string[];
  canWork: boolean;
}) {
  const add = useDeed("heat.add");
  const methods = removalMethods(job, new Set(owned));
  const [celsius, setCelsius] = useState(String(job.celsius));
  const [exception, setException] = useState("");
  const [method, setMethod] = useState(methods[0]?.name ?? "by hand");
  const [heated, setHeated] = useState<string[]>([]);
  const [gauge, setGauge] = useState<Record<number, { mm: string; ring: boolean }>>({});
  const [joints, setJoints] = useState<(typeof JOINT_CHECKS)[number][]>([]);
  const [shielded, setShielded] = useState(job.shield.join(", "));
  const numbers = Array.from({ length: job.holes }, (_, i) => i + 1);
  const holes = numbers.flatMap((hole) => {
    const g = gauge[hole];
    const mm = Number((g?.mm ?? "").replace(",", "."));
    return g && g.mm !== "" && Number.isFinite(mm) ? [{ hole, gaugeMm: mm, ringIntact: g.ring }] : [];
  });
  const open = holesNotReady(job, holes);
  const hot = settingProblem(job, Number(celsius), exception);
  const allOpen = () =>
    setGauge(Object.fromEntries(numbers.map((n) => [n, { mm: String(job.holeMm), ring: gauge[n]?.ring ?? true }])));
  return (
    <Form
      aria-label="Solder operation"
      onSend={() =>
        void add
          .run({ unitId, job: job.id, celsius: Number(celsius), exception, method, chips: heated, shielded, holes, joints })
          .then((d) => {
            if (!d?.ok) return;
            setGauge({});
            setJoints([]);
            setHeated([]);
            setException("");
          })
      }
      sx={{ display: "grid", gap: 2 }}
    >
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr 1fr", sm: "repeat(4, auto)" }, gap: 2 }}>
        <BigFigure value={`${job.celsius} °C`} label="setting" detail={`ceiling of the ${job.board} board ${job.ceiling} °C`} />
        <BigFigure
          value={job.joints}
          label="joints"
          detail={job.grounded ? `${job.grounded} on the ground plane: slow` : "none on the ground plane"}
        />
        <BigFigure value={job.holes} label="holes" detail={job.holes ? `${job.holeMm} mm bore` : "surface pads"} />
        <BigFigure
          value={methods[0] ? `${methods[0].minutes}` : "–"}
          label="minutes to remove"
          detail={methods[0]?.name ?? "no tool for it"}
        />
      </Box>
      <Typography>
        Tip {job.tip}, {job.alloy}, {job.flux}. Refresh the old joints first.
        {job.shield.length > 0 && ` Shield: ${job.shield.join(", ")}.`}
        {job.strong && " Daily load: make these joints strong."} Never press braid or force a pin: the ring tears.
      </Typography>
      {canWork && (
        <>
          <Box sx={{ display: "grid", gap: 1, gridTemplateColumns: { xs: "1fr", sm: "1fr 2fr" } }}>
            <TextField
              label="Iron, °C"
              value={celsius}
              onChange={(e) => setCelsius(e.target.value.replace(/\D/g, ""))}
              error={hot !== null}
              helperText={hot ?? undefined}
            />
            <NativeSelect label="Removal" value={method} onChange={(e) => setMethod(e.target.value)}>
              {methods.map((m) => (
                <option key={m.id} value={m.name}>
                  {`${m.name}, about ${m.minutes} min: ${m.why}`}
                </option>
              ))}
              <option value="by hand">none, joints only</option>
            </NativeSelect>
            {Number(celsius) > job.ceiling && (
              <TextField
                label="Why hotter this once"
                value={exception}
                onChange={(e) => setException(e.target.value)}
                sx={{ gridColumn: "1 / -1" }}
              />
            )}
            <TextField
              label="Shielded"
              value={shielded}
              onChange={(e) => setShielded(e.target.value)}
              sx={{ gridColumn: "1 / -1" }}
            />
          </Box>
          {chips.length > 0 && (
            <Box role="group" aria-label="Chips that took the heat">
              {chips.map((c) => (
                <FormControlLabel
                  key={c}
                  control={
                    <Checkbox
                      checked={heated.includes(c)}
                      onChange={(e) => setHeated(e.target.checked ? [...heated, c] : heated.filter((x) => x !== c))}
                    />
                  }
                  label={`${c} took heat`}
                />
              ))}
            </Box>
          )}
          {job.holes > 0 && (
            <Box>
              <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
                <b>Holes, by gauge pin</b>
                <Button size="small" onClick={allOpen}>
                  All take the {job.holeMm} mm pin
                </Button>
                <span>
                  {open.length === 0 ? "all ready for the new part" : `${open.length} not ready: ${holeText(open[0]!)}`}
                </span>
              </Box>
              <Box sx={{ display: "grid", gridTemplateColumns: "repeat(auto-fill, minmax(118px, 1fr))", gap: 1, mt: 1 }}>
                {numbers.map((n) => (
                  <Box key={n} sx={{ display: "flex", alignItems: "center" }}>
                    <TextField
                      label={`${n}, mm`}
                      value={gauge[n]?.mm ?? ""}
                      onChange={(e) => setGauge({ ...gauge, [n]: { mm: e.target.value, ring: gauge[n]?.ring ?? true } })}
                      slotProps={{ htmlInput: { inputMode: "decimal" } }}
                    />
                    <Checkbox
                      checked={gauge[n]?.ring ?? true}
                      onChange={(e) => setGauge({ ...gauge, [n]: { mm: gauge[n]?.mm ?? "", ring: e.target.checked } })}
                      slotProps={{ input: { "aria-label": `ring ${n} intact` } }}
                    />
                  </Box>
                ))}
              </Box>
            </Box>
          )}
          <Box role="group" aria-label="Joints checked">
            {JOINT_CHECKS.map((c) => (
              <FormControlLabel
                key={c}
                control={
                  <Checkbox
                    checked={joints.includes(c)}
                    onChange={(e) => setJoints(e.target.checked ? [...joints, c] : joints.filter((x) => x !== c))}
                  />
                }
                label={JOINT_WORDS[c]}
              />
            ))}
          </Box>
          <Box>
            <Button type="submit" variant="contained" size="large" disabled={add.running || !celsius}>
              Log this operation
            </Button>
          </Box>
          <Problem problem={add.problem} />
        </>
      )}
    </Form>
  );
}
