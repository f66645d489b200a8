"use client";

import TextField, { type TextFieldProps } from "@mui/material/TextField";
import { useController } from "react-hook-form";

import { slotsOf } from "./slots";
import { fieldRule, fieldWrong } from "./typed";
import type { DeedForm } from "./useDeedForm";

type Props<N extends string> = { form: DeedForm<N>; name: NoInfer<N>; unit?: string } & Pick<
  TextFieldProps,
  | "label"
  | "sx"
  | "multiline"
  | "minRows"
  | "autoFocus"
  | "helperText"
  | "placeholder"
  | "autoComplete"
  | "type"
  | "size"
>;

/**
 * A typed field of a deed's form: how long it may be, which keys a phone shows and whether it may be empty
 * are its schema's.
 */
export function TypedField<N extends string>({
  form,
  name,
  unit,
  helperText,
  autoComplete,
  ...look
}: Props<N>) {
  const { field, fieldState } = useController({ control: form.control, name });
  const rule = fieldRule(form.deed, name);
  const { ref, ...bound } = field;
  // digits are told at once, words when their field is left: half a sentence is not wrong yet
  const digits =
    rule.kind === "text" || (field.value ?? "").trim() === ""
      ? null
      : fieldWrong(form.deed, name, field.value);
  const wrong = fieldState.error?.message ?? digits;
  return (
    <TextField
      {...look}
      {...bound}
      inputRef={ref}
      required={form.needed.includes(name) || !(rule.empty || form.mayBeEmpty.includes(name))}
      error={wrong !== null}
      helperText={wrong ?? helperText}
      slotProps={slotsOf(rule, unit, autoComplete)}
    />
  );
}
