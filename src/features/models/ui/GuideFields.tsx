"use client";

import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { MendGuide } from "@/core/profile/guide";
import { say } from "@/features/models/words/words";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { BoundField } from "@/ui/form/BoundField";
import { codeWords } from "@/words/codes";
import { type Field, type ListName, valueAt, withValue } from "./guide-fields";

export const NAMES: Record<ListName | "other", string> = {
  steps: say("steps"),
  fasteners: say("fasteners"),
  clips: say("clips"),
  cables: say("cables"),
  pieces: say("pieces"),
  surfaces: say("cleaning"),
  solder: say("solder"),
  other: say("testAndCalibration"),
};

export type Row = Record<string, unknown> & { id: string };

export function FieldInput({
  field: f,
  row,
  disabled,
  onChange,
}: {
  field: Field;
  row: Record<string, unknown>;
  disabled: boolean;
  onChange: (row: Record<string, unknown>) => void;
}) {
  const value = valueAt(row, f.path);
  const asText = () => {
    if (f.kind === "words") return ((value as string[] | undefined) ?? []).join(", ");
    if (f.kind === "pairs")
      return ((value as [string, string][] | undefined) ?? []).map(([p, c]) => `${p}: ${c}`).join("; ");
    return String(value ?? "");
  };
  const [text, setText] = useState(asText());
  const set = (v: unknown) => onChange(withValue(row, f.path, v));
  if (f.kind === "check")
    return (
      <FormControlLabel
        control={
          <Checkbox checked={value === true} disabled={disabled} onChange={(e) => set(e.target.checked)} />
        }
        label={f.label}
      />
    );
  if (f.kind === "choices") {
    const chosen = (value as string[] | undefined) ?? [];
    return (
      <Box role="group" aria-label={f.label} sx={{ gridColumn: "1 / -1" }}>
        <b>{f.label}</b>
        <Box sx={{ display: "flex", flexWrap: "wrap" }}>
          {f.options!.map((o) => (
            <FormControlLabel
              key={o}
              control={
                <Checkbox
                  size="small"
                  checked={chosen.includes(o)}
                  disabled={disabled}
                  onChange={(e) => set(e.target.checked ? [...chosen, o] : chosen.filter((x) => x !== o))}
                />
              }
              label={codeWords(o)}
            />
          ))}
        </Box>
      </Box>
    );
  }
  const change = (t: string) => {
    setText(t);
    const typedNumber = () => {
      if (t.trim() === "") {
        if (f.optional) return undefined;
        return 0;
      }
      return Number(t.replace(",", "."));
    };
    if (f.kind === "number") set(typedNumber());
    else if (f.kind === "words") {
      const list = t
        .split(",")
        .map((x) => x.trim())
        .filter(Boolean);
      set(f.optional && list.length === 0 ? undefined : list);
    } else if (f.kind === "pairs") {
      const pairs = t
        .split(";")
        .map((x) => x.split(":").map((y) => y.trim()))
        .filter((p) => p[0]);
      set(pairs.length ? pairs.map((p) => [p[0], p[1] ?? ""]) : undefined);
    } else set(f.optional && t.trim() === "" ? undefined : t);
  };
  if (f.kind === "choice")
    return (
      <NativeSelect
        label={f.label}
        disabled={disabled}
        value={String(value)}
        onChange={(e) => set(e.target.value)}
      >
        {f.options!.map((o) => (
          <option key={o} value={o}>
            {codeWords(o)}
          </option>
        ))}
      </NativeSelect>
    );
  return (
    <TextField
      label={f.label}
      value={text}
      disabled={disabled}
      multiline={f.kind === "long" || f.kind === "words"}
      onChange={(e) => change(e.target.value)}
      slotProps={{ htmlInput: { inputMode: f.kind === "number" ? "decimal" : undefined } }}
      sx={f.kind === "long" ? { gridColumn: "1 / -1" } : undefined}
    />
  );
}

export function Other({
  guide,
  canEdit,
  onChange,
}: {
  guide: MendGuide;
  canEdit: boolean;
  onChange: (g: MendGuide) => void;
}) {
  const c = guide.calibration;
  return (
    <Box sx={{ display: "grid", gap: 2, maxWidth: 760 }}>
      <BoundField
        deed="profile.import"
        name="profile.guide.enoughToTest"
        label={say("enoughToTestWhatMustBe")}
        multiline
        value={guide.enoughToTest}
        disabled={!canEdit}
        onChange={(enoughToTest) => onChange({ ...guide, enoughToTest })}
      />
      <FormControlLabel
        control={
          <Checkbox
            checked={c !== null}
            disabled={!canEdit}
            onChange={(e) =>
              onChange({
                ...guide,
                calibration: e.target.checked
                  ? { dueAfter: [], before: [], sticks: ["stick.left"], stepsPerUnit: 1024 }
                  : null,
              })
            }
          />
        }
        label={say("itsElectronicsKeepACalibration")}
      />
      {c && (
        <>
          {(
            [
              ["dueAfter", say("dueAfterAChangeOfThese")],
              ["sticks", say("sticks")],
            ] as const
          ).map(([key, label]) => (
            <FieldInput
              key={key}
              field={{ path: key, label, kind: "words" }}
              row={c}
              disabled={!canEdit}
              onChange={(r) => onChange({ ...guide, calibration: r as MendGuide["calibration"] })}
            />
          ))}
          <TextField
            label={say("madeReadyBeforeOneALine")}
            multiline
            value={c.before.join("\n")}
            disabled={!canEdit}
            onChange={(e) =>
              onChange({
                ...guide,
                calibration: { ...c, before: e.target.value.split("\n").filter((l) => l.trim() !== "") },
              })
            }
          />
          <FieldInput
            field={{ path: "stepsPerUnit", label: say("stepsOfItsMemoryAUnit"), kind: "number" }}
            row={c}
            disabled={!canEdit}
            onChange={(r) => onChange({ ...guide, calibration: r as MendGuide["calibration"] })}
          />
        </>
      )}
    </Box>
  );
}
