import TextField from "@mui/material/TextField";

import { parseAmount } from "@/core/money/money";
import { say } from "@/features/buying/words/words";

/** An amount of money as a person types it; what is no amount is said at the field. */
export function Amount({
  label,
  value,
  onChange,
  optional = false,
}: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  optional?: boolean;
}) {
  const bad = !(optional && value.trim() === "") && parseAmount(value) === null;
  return (
    <TextField
      label={label}
      value={value}
      error={bad}
      helperText={bad ? say("anAmountSuchAs1250") : undefined}
      onChange={(e) => onChange(e.target.value)}
      slotProps={{ htmlInput: { inputMode: "decimal", autoComplete: "off" } }}
    />
  );
}
