import TextField from "@mui/material/TextField";

import { amountExample, readAmount } from "@/text/format";
import { say as sayKit } from "@/words/kit";

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
  const bad = !(optional && value.trim() === "") && readAmount(value) === null;
  return (
    <TextField
      label={label}
      value={value}
      error={bad}
      helperText={bad ? sayKit("anAmountSuchAs", { example: amountExample() }) : undefined}
      onChange={(e) => onChange(e.target.value)}
      slotProps={{ htmlInput: { inputMode: "decimal", autoComplete: "off" } }}
    />
  );
}
