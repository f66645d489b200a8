"use client";

import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { Settings } from "@/contract/deeds";
import type { EventView } from "@/service/views";
import { dayAndTime } from "@/text/format";

const KINDS: Record<string, string> = {
  "unit-taken-in": "took it in",
  "intake-changed": "changed the intake",
  tray: "moved it",
  "liquid-cleared": "signed it off as dry",
  "recording-stored": "tested it",
  "function-checked": "checked a function",
  "fault-named": "named a fault",
  "fault-settled": "settled a fault",
  "mend-logged": "logged a mend",
  "mend-changed": "changed a mend entry",
  "work-opened": "opened a work order",
  "work-changed": "changed the work order",
  "work-dropped": "dropped the work order",
  "work-undone": "took a step back",
  "work-step": "worked on it",
  "revision-seen": "saw the revision inside",
  "damage-noted": "noted damage on the way",
  "damage-made-good": "made damage good",
  "wait-started": "started a wait",
  "wait-moved": "moved the end of a wait",
  "wait-ended": "saw a wait end",
  soldered: "soldered",
  "calibration-written": "wrote a calibration",
  "calibration-kept": "saw the calibration kept",
  "tip-written": "wrote a note for next time",
  "due-set": "set when it is due",
  "photo-kept": "added a photograph",
  "photo-removed": "removed a photograph",
  "unit-ended": "closed it",
  "unit-reopened": "opened it again",
  "certificate-revoked": "revoked the certificate",
};

const text = (v: unknown): string =>
  v === null || v === "" ? "none" : typeof v === "object" ? JSON.stringify(v) : String(v).replaceAll("-", " ");
const detail = (body: Record<string, unknown>): string =>
  Object.entries(body)
    .filter(([k, v]) => k !== "recording" && k !== "photo" && v !== "" && !(Array.isArray(v) && v.length === 0))
    .map(([k, v]) => `${k} ${text(v)}`)
    .join(", ");

/** Who did what when; only ever added to. */
export function UnitRecord({ events, shop }: { events: EventView[]; shop: Settings }) {
  return (
    <Box sx={{ maxWidth: 900 }}>
      <Typography component="h2" variant="h2" sx={{ mb: 1 }}>
        Who did what
      </Typography>
      {events.map((e) => (
        <Box
          key={e.id}
          sx={{ display: "grid", gridTemplateColumns: "130px 1fr", gap: 2, py: 0.7, borderTop: 1, borderColor: "divider" }}
        >
          <Box sx={{ color: "text.secondary" }}>{dayAndTime(e.at, shop)}</Box>
          <Box sx={{ minWidth: 0, overflowWrap: "anywhere" }}>
            <b style={{ textTransform: "capitalize" }}>{e.by}</b> {KINDS[e.kind] ?? e.kind}
            <Box component="span" sx={{ color: "text.secondary" }}>
              {" "}
              {detail(e.body)}
            </Box>
          </Box>
        </Box>
      ))}
    </Box>
  );
}
