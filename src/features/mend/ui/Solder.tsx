"use client";

import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import { type ChipHeat, HEAT_CYCLES, JOINT_CHECKS } from "@/core/mend/solder";
import type { SolderJob } from "@/core/profile/guide";
import type { HeatView } from "@/features/mend/heat";
import { CAUTIONS } from "@/features/mend/words/text";
import { say } from "@/features/mend/words/words";
import { dayAndTime } from "@/text/format";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { MendTabs } from "./MendTabs";
import { Operation } from "./SolderOperation";
import { Notice, Text } from "@/ui/kit/layout";

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

/** What Solder knows and does; the components below only show it. */
function useSolder({ unit, jobs, chips, owned, heat, leads, shop, canWork }: Props) {
  const [jobId, setJobId] = useState(jobs[0]?.id ?? "");
  const job = jobs.find((j) => j.id === jobId);
  return { unit, jobs, chips, owned, heat, leads, shop, canWork, jobId, setJobId, job };
}

type SolderState = ReturnType<typeof useSolder>;

/**
 * Solder work: the setting of each operation under its ceiling, the holes, the joints, and what each chip has
 * been through.
 */
export function Solder(props: Props) {
  const s = useSolder(props);
  const { unit, jobs } = s;

  return (
    <>
      <MendTabs tag={unit.tag} />
      {jobs.length === 0 && <Typography>{say("theGuideOfThisModelHas")}</Typography>}
      <Box
        sx={{
          display: "grid",
          gap: 3,
          gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,3fr) minmax(0,2fr)" },
        }}
      >
        <ChooseOperation {...s} />
        <HeatTaken {...s} />
      </Box>
    </>
  );
}

function ChooseOperation({ job, jobId, setJobId, jobs, unit, chips, owned, canWork }: SolderState) {
  return (
    <Box>
      {job && (
        <>
          <NativeSelect
            label={say("operation")}
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
          <Notice severity="warning" role="note" after={2}>
            {CAUTIONS.iron} {CAUTIONS.fumes}
          </Notice>
          <Operation key={job.id} unitId={unit.id} job={job} chips={chips} owned={owned} canWork={canWork} />
        </>
      )}
    </Box>
  );
}

function HeatTaken({ heat, leads, jobs, shop }: SolderState) {
  return (
    <Box>
      <Typography component="h2" variant="h2">
        {say("heatTakenByEachChip")}
      </Typography>
      {heat.chips.length === 0 && <Typography color="text.secondary">{say("noneLogged")}</Typography>}
      {heat.chips.map((c) => (
        <Box
          key={c.chip}
          sx={{
            py: 0.5,
            color: c.state === "good" ? "text.primary" : "caution.main",
            fontWeight: c.state === "good" ? 400 : 700,
          }}
        >
          {say("chipCyclesOfHEATCYCLES", { chip: c.chip, cycles: c.cycles, hEATCYCLES: HEAT_CYCLES })}
          {c.state === "last" && say("noMoreHeatHere")}
          {c.state === "beyond" && say("beyondMoreLikelyHurtThanHelped")}
        </Box>
      ))}
      <Text component="h2" variant="h2" before={2}>
        {say("leadColours")}
      </Text>
      {leads.map((l) => (
        <div key={l.name}>
          <b>{l.name}</b>: {l.leads.map(([p, c]) => `${p} ${c}`).join(", ")}
        </div>
      ))}
      <Text component="h2" variant="h2" before={2}>
        {say("log")}
      </Text>
      {heat.entries.length === 0 && (
        <Typography color="text.secondary">{say("nothingWasSolderedYet")}</Typography>
      )}
      {heat.entries.map((e) => (
        <Box key={e.id} sx={{ py: 0.6, borderTop: 1, borderColor: "divider" }}>
          <b>
            {jobs.find((j) => j.id === e.job)?.name ?? e.job}, {e.celsius} °C
          </b>
          , {e.method}
          {e.holes > 0 && say("holesHolesGauged", { holes: e.holes })}
          {e.joints.length > 0 &&
            say("jointsJointsOfJOINTCHECKSChecks", {
              joints: e.joints.length,
              jOINTCHECKS: JOINT_CHECKS.length,
            })}
          {e.exception && say("hotterBecauseException", { exception: e.exception })}
          {e.shielded && say("shieldedWhat", { shielded: e.shielded })}. {e.by}, {dayAndTime(e.at, shop)}
        </Box>
      ))}
    </Box>
  );
}
