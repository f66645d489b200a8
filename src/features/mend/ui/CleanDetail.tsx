import Box from "@mui/material/Box";

import { AGENTS, type CleaningJob } from "@/core/mend/cleaning";
import { CLEANING_NOTES } from "@/features/mend/words/text";
import { say } from "@/features/mend/words/words";
import { SIZE } from "@/ui/tokens";

/** How a surface is cleaned: agent, tool, what never, and what soaks and dries afterwards. */
export function CleanDetail({ job }: { job: CleaningJob }) {
  return (
    <Box sx={{ fontSize: { xs: SIZE.lead, md: SIZE.head }, display: "grid", gap: 0.5 }}>
      <div>
        <b>{AGENTS[job.agent].name}</b>, {job.tool}.
      </div>
      <Box sx={{ color: "caution.main", fontWeight: 600 }}>{say("neverNever", { never: job.never })}</Box>
      {job.also.map((a) => (
        <div key={a}>{CLEANING_NOTES[a]}</div>
      ))}
      {job.soakMinutes + job.dryMinutes > 0 && (
        <div>
          {say("then")}{" "}
          {job.soakMinutes > 0 && say("soakMinutesMinInTheBath", { soakMinutes: job.soakMinutes })}
          {say("dryMinutesMinToDryTheTimer", { dryMinutes: job.dryMinutes })}
        </div>
      )}
    </Box>
  );
}
