"use client";

import { useForm, useWatch } from "react-hook-form";

import type { DeedInput, DeedName, ValueOf } from "@/contract/deeds";
import { useDeed } from "@/ui/deed/useDeed";
import { say } from "@/words/kit";
import { readTyped, type TypedName } from "./typed";
import { findingWords } from "@/text/findings";

/** What stands in the typed fields of a form, by the names that the deed's schema gives them. */
type Typed<D extends DeedName> = Partial<Record<TypedName<D>, string>>;

/**
 * A form that does a deed. `start` is what its typed fields begin with; `rest` gives what no field is typed
 * for (ids, choices); the schema says of each field what fits, when it is left and while it is mended, in the
 * words that the server would use. Nothing is sent before.
 */
export function useDeedForm<D extends DeedName, F extends Typed<D>>(
  deed: D,
  {
    start,
    rest,
    emptyIs = {},
    needed = [],
    onDone,
  }: {
    start: F & Record<Exclude<keyof F, TypedName<D>>, never>;
    rest: () => Omit<DeedInput<D>, keyof F>;
    /** what a field that is left empty means, where the schema says nothing of it: no fees are fees of 0 */
    emptyIs?: Partial<Pick<DeedInput<D>, keyof F & keyof DeedInput<D>>>;
    /**
     * fields that must be filled in as things stand, though the schema lets them be empty: a reason for
     * passing a block
     */
    needed?: readonly (keyof F & string)[];
    onDone?: (value: ValueOf<D>) => void;
  },
) {
  const act = useDeed(deed);
  const read = (typed: Record<string, string>) =>
    readTyped(deed, typed, rest() as Partial<DeedInput<D>>, emptyIs as Partial<DeedInput<D>>);
  const { control, getValues, handleSubmit, reset, setError, setValue } = useForm<Record<string, string>>({
    defaultValues: start as Record<string, string>,
    mode: "onTouched",
    resolver: (typed) => {
      // what no field of this form holds is the server's to refuse
      const lacks = needed
        .filter((name) => (typed[name] ?? "").trim() === "")
        .map((name) => [name, say("isMissing")] as const);
      const wrong = [...Object.entries(read(typed).wrong).filter(([name]) => name in typed), ...lacks];
      const errors = Object.fromEntries(wrong.map(([name, message]) => [name, { type: "schema", message }]));
      return wrong.length > 0 ? { values: {}, errors } : { values: typed, errors: {} };
    },
  });
  const send = handleSubmit(async (sent) => {
    const outcome = await act.run(read(sent).input);
    if (outcome?.ok) onDone?.(outcome.value);
    else if (outcome?.problem.code === "bad-input")
      for (const { path, message } of outcome.problem.issues)
        if (path in sent) setError(path, { type: "server", message: findingWords(message) });
  });
  return {
    deed: deed as DeedName,
    mayBeEmpty: Object.keys(emptyIs),
    needed: needed as readonly string[],
    control,
    /**
     * what stands in a field now; a key in it draws that field anew and not the form (useTyped listens to
     * one)
     */
    now: (name: keyof F & string): string => getValues(name as string),
    send: () => void send(),
    running: act.running,
    problem: act.problem,
    clear: act.clear,
    /** writes into a field, as when a choice elsewhere says what it should hold */
    set: (name: keyof F & string, text: string) =>
      setValue(name as string, text, { shouldDirty: true, shouldValidate: true }),
    /** back to what the fields began with, or to other texts */
    again: (texts: Partial<Record<keyof F, string>> = {}) =>
      reset({ ...start, ...texts } as Record<string, string>),
  };
}

/** What a field needs of its form. */
export type DeedForm<N extends string> = Pick<
  ReturnType<typeof useDeedForm>,
  "deed" | "control" | "mayBeEmpty" | "needed"
> & {
  now: (name: N) => string;
};

/** What is typed into one field, drawn anew with every key. */
export const useTyped = <N extends string>(form: DeedForm<N>, name: NoInfer<N>): string =>
  useWatch({ control: form.control, name: name as string }) as string;
