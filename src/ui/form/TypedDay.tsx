"use client";

import type { ComponentProps } from "react";
import { useController } from "react-hook-form";

import { DateField } from "@/ui/fields/DateField";
import { fieldRule } from "./typed";
import type { DeedForm } from "./useDeedForm";

type Props<N extends string> = { form: DeedForm<N>; name: NoInfer<N> } & Pick<
  ComponentProps<typeof DateField>,
  "label" | "shop" | "max" | "helperText"
>;

/** A day of a deed's form, in the shop's way of writing days. */
export function TypedDay<N extends string>({ form, name, helperText, ...look }: Props<N>) {
  const { field, fieldState } = useController({ control: form.control, name });
  return (
    <DateField
      {...look}
      value={field.value ?? ""}
      onChange={field.onChange}
      required={!fieldRule(form.deed, name).empty}
      error={fieldState.error !== undefined}
      helperText={fieldState.error?.message ?? helperText}
    />
  );
}
