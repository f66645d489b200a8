"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";

type Named = Pick<Settings, "shopName" | "town" | "currency" | "locale" | "timeZone">;
const FIELDS: [keyof Named, string, string][] = [
  ["shopName", "What the shop is called", "stands on every certificate, label and letter"],
  ["town", "Town", "beside the name"],
  ["currency", "Currency", "three capital letters; all amounts are in it"],
  ["locale", "Language and country", "how dates and amounts are written, such as en-IE"],
  ["timeZone", "Time zone", "such as Europe/Dublin"],
];

/** Before anything else a new workshop says who it is: nothing may go out under another's name. */
export function FirstStart({ settings, version }: { settings: Settings; version: number }) {
  const deed = useDeed("settings.save");
  const [v, setV] = useState<Named>(settings);
  const ready = v.shopName.trim() !== "" && v.town.trim() !== "";
  return (
    <Form
      aria-label="The shop"
      onSend={() => {
        if (ready) void deed.run({ version, settings: { ...settings, ...v } });
      }}
      sx={{ display: "grid", gap: 2, maxWidth: 480 }}
    >
      <Typography component="h1" variant="h1">
        First, the shop
      </Typography>
      {FIELDS.map(([key, label, help], i) => (
        <TextField
          key={key}
          label={label}
          helperText={help}
          value={v[key]}
          onChange={(e) => setV({ ...v, [key]: e.target.value })}
          autoFocus={i === 0}
          required={key === "shopName" || key === "town"}
        />
      ))}
      <Box>
        <Button type="submit" variant="contained" size="large" disabled={!ready || deed.running}>
          Go on to the bench
        </Button>
      </Box>
      <Problem problem={deed.problem} />
      <Typography color="text.secondary">
        All of it, and limits, rates and rules, can be changed later under Shop and limits.
      </Typography>
    </Form>
  );
}
