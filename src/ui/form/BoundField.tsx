"use client";

import TextField, { type TextFieldProps } from "@mui/material/TextField";

import type { DeedInput, DeedName } from "@/contract/deeds";
import { slotsOf } from "./slots";
import { fieldRule, fieldWrong, type TypedName } from "./typed";

type Props<D extends DeedName> = {
  deed: D;
  /** the field, or its way into a group of the deed */
  name: TypedName<D> | `${string & keyof DeedInput<D>}.${string}`;
  value: string;
  onChange: (text: string) => void;
  unit?: string;
} & Pick<
  TextFieldProps,
  | "label"
  | "sx"
  | "multiline"
  | "minRows"
  | "autoFocus"
  | "helperText"
  | "placeholder"
  | "required"
  | "size"
  | "autoComplete"
  | "error"
  | "maxRows"
>;

/** One typed field that several deeds share, or that stands alone: held to the schema of the deed that it is named for. */
export function BoundField<D extends DeedName>({
  deed,
  name,
  value,
  onChange,
  unit,
  helperText,
  error = false,
  autoComplete,
  ...look
}: Props<D>) {
  const rule = fieldRule(deed, name);
  const wrong = value.trim() === "" ? null : fieldWrong(deed, name, value);
  return (
    <TextField
      {...look}
      value={value}
      onChange={(e) => onChange(e.target.value)}
      error={wrong !== null || error}
      helperText={wrong ?? helperText}
      slotProps={slotsOf(rule, unit, autoComplete)}
    />
  );
}
