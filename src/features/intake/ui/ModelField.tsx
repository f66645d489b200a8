"use client";

import Autocomplete from "@mui/material/Autocomplete";
import TextField from "@mui/material/TextField";
import { type Ref, useRef } from "react";

import type { ModelProfile } from "@/core/profile/profile";
import { say } from "@/features/intake/words/words";

/**
 * The model that typed words mean: its whole name, with its maker or without, or the only one that begins with them or holds them. Null
 * when it is unclear.
 */
export function modelMeant(typed: string, models: readonly ModelProfile[]): ModelProfile | null {
  const words = typed.trim().toLowerCase();
  if (words === "") return null;
  const names = models.map((m) => ({ m, name: m.name.toLowerCase(), maker: m.maker.toLowerCase() }));
  const whole = names.filter(({ name, maker }) => name === words || `${maker} ${name}` === words);
  const begins = names.filter(({ name }) => name.startsWith(words));
  const holds = names.filter(({ name }) => name.includes(words));
  const meant = [whole, begins, holds].find((found) => found.length > 0) ?? [];
  return meant.length === 1 ? meant[0]!.m : null;
}

/** Why a typed model is none. */
export const modelProblem = (typed: string, models: readonly ModelProfile[]): string => {
  const words = typed.trim();
  if (words === "") return say("whichModelIsIt");
  const may = models.filter((m) => m.name.toLowerCase().includes(words.toLowerCase())).map((m) => m.name);
  return may.length > 1
    ? say("whichOfThemMay", { may: may.slice(0, 4).join(", ") })
    : say("noModelIsCalledWordsChoose", { words });
};

/**
 * Chooses only what was picked from the list or typed so that it is clear; anything else stays as typed, and
 * is an error.
 */
export function ModelField({
  models,
  value,
  text,
  onText,
  onPick,
  onLeave,
  problem,
  inputRef,
}: {
  models: readonly ModelProfile[];
  value: ModelProfile | null;
  /** what stands in the field */
  text: string;
  onText: (text: string) => void;
  onPick: (model: ModelProfile | null) => void;
  onLeave: () => void;
  problem: string | null;
  inputRef: Ref<HTMLInputElement>;
}) {
  const pointed = useRef<ModelProfile | null>(null);
  /** True when the words had to be read. */
  const settle = (): boolean => {
    if (value && value.name === text) return false;
    const meant = modelMeant(text, models);
    onPick(meant);
    if (meant) onText(meant.name);
    return true;
  };
  return (
    <Autocomplete
      options={[...models]}
      value={value}
      inputValue={text}
      openOnFocus={false}
      clearOnBlur={false}
      getOptionLabel={(m) => m.name}
      isOptionEqualToValue={(a, b) => a.id === b.id}
      onHighlightChange={(_e, m) => (pointed.current = m)}
      onInputChange={(_e, typed, why) => {
        if (why === "reset") return; // the value's own name, which `onChange` brings
        onText(typed);
        if (value && value.name !== typed) onPick(null);
      }}
      onChange={(_e, m) => {
        onPick(m);
        onText(m?.name ?? "");
      }}
      onKeyDown={(e) => {
        // Enter on an option of the list picks it; otherwise it reads what was typed, and sends nothing yet
        if (e.key !== "Enter" || pointed.current || !settle()) return;
        e.preventDefault();
        onLeave(); // what is unclear says so now
      }}
      onBlur={() => {
        settle();
        onLeave();
      }}
      renderInput={(params) => (
        <TextField
          {...params}
          label={say("model")}
          inputRef={inputRef}
          autoFocus
          error={problem !== null}
          helperText={problem}
          slotProps={{ ...params.slotProps, htmlInput: { ...params.slotProps.htmlInput, name: "model" } }}
        />
      )}
    />
  );
}
