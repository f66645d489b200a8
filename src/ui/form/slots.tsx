import InputAdornment from "@mui/material/InputAdornment";

import type { FieldRule } from "./typed";

const KEYS = { text: undefined, whole: "numeric", amount: "decimal", figure: "decimal" } as const;

/** What a field's rule means for its input: how long, which keys a phone shows, and the unit behind it. */
export const slotsOf = ({ kind, maxLength }: FieldRule, unit: string | undefined, autoComplete = "off") => ({
  htmlInput: { maxLength, inputMode: KEYS[kind], autoComplete },
  input: unit ? { endAdornment: <InputAdornment position="end">{unit}</InputAdornment> } : undefined,
});
