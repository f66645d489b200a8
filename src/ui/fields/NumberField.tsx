"use client";

import InputAdornment from "@mui/material/InputAdornment";
import TextField from "@mui/material/TextField";
import { say } from "@/words/kit";
import { SIZE } from "@/ui/tokens";

/** A figure typed by hand, with its unit; a decimal comma is read too. */
export const readFigure = (text: string): number | null => {
  const t = text.trim().replace(",", ".");
  return /^-?(\d+\.?\d*|\.\d+)$/.test(t) ? Number(t) : null;
};

/** A whole number between two bounds, typed by hand; null for anything else. */
export function readWhole(text: string, least: number, most: number): number | null {
  const value = readFigure(text);
  return value !== null && Number.isInteger(value) && value >= least && value <= most ? value : null;
}

export function NumberField({
  label,
  unit,
  value,
  onChange,
  required = false,
  autoFocus = false,
}: {
  label: string;
  unit: string;
  value: string;
  onChange: (text: string) => void;
  required?: boolean;
  autoFocus?: boolean;
}) {
  const bad = value.trim() !== "" && readFigure(value) === null;
  return (
    <TextField
      label={label}
      value={value}
      required={required}
      autoFocus={autoFocus}
      error={bad}
      helperText={bad ? say("digitsOnlySuchAs371") : undefined}
      onChange={(e) => onChange(e.target.value)}
      sx={{ maxWidth: 220, "& input": { fontSize: SIZE.head, fontWeight: 700, py: 1 } }}
      slotProps={{
        htmlInput: { inputMode: "decimal", autoComplete: "off" },
        input: { endAdornment: <InputAdornment position="end">{unit}</InputAdornment> },
      }}
    />
  );
}
