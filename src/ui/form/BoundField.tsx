"use client";

import TextField, { type TextFieldProps } from "@mui/material/TextField";

import type { DeedInput, DeedName } from "@/contract/deeds";
import { slotsOf } from "./slots";
import { fieldRule, fieldWrong, type TypedName } from "./typed";

/** A field of a deed, or its way into a group of it; "*" is any entry of a list. */
type OfDeed = {
  [D in DeedName]: { deed: D; name: TypedName<D> | `${string & keyof DeedInput<D>}.${string}` };
}[DeedName];

type Props = OfDeed & {
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
    | "disabled"
  >;

/**
 * One typed field that several deeds share, or that stands alone: held to the schema of the deed that it is
 * named for.
 */
export function BoundField({
  deed,
  name,
  value,
  onChange,
  unit,
  helperText,
  error = false,
  autoComplete,
  ...look
}: Props) {
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
