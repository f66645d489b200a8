"use client";

import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import { type ReactNode, useState } from "react";

import type { MendGuide } from "@/core/profile/guide";
import { say } from "@/features/models/words/words";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { BoundField } from "@/ui/form/BoundField";
import { codeWords } from "@/words/codes";
import { type Field, type ListName, valueAt, withValue } from "./guide-fields";
import { Block, Row } from "@/ui/kit/layout";

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

export type GuideRow = Record<string, unknown> & { id: string };

type FieldProps = {
  field: Field;
  row: Record<string, unknown>;
  disabled: boolean;
  onChange: (row: Record<string, unknown>) => void;
};
type InputProps = { field: Field; value: unknown; disabled: boolean; set: (value: unknown) => void };

const CheckField = ({ field, value, disabled, set }: InputProps) => (
  <FormControlLabel
    control={
      <Checkbox checked={value === true} disabled={disabled} onChange={(e) => set(e.target.checked)} />
    }
    label={field.label}
  />
);

function ChoicesField({ field, value, disabled, set }: InputProps) {
  const chosen = (value as string[] | undefined) ?? [];
  return (
    <Block role="group" aria-label={field.label} full>
      <b>{field.label}</b>
      <Row>
        {field.options!.map((o) => (
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
      </Row>
    </Block>
  );
}

const ChoiceField = ({ field, value, disabled, set }: InputProps) => (
  <NativeSelect
    label={field.label}
    disabled={disabled}
    value={String(value)}
    onChange={(e) => set(e.target.value)}
  >
    {field.options!.map((o) => (
      <option key={o} value={o}>
        {codeWords(o)}
      </option>
    ))}
  </NativeSelect>
);

/** A value as it stands in a line of text: lists by commas, pairs by semicolons. */
function asText({ kind }: Field, value: unknown): string {
  if (kind === "words") return ((value as string[] | undefined) ?? []).join(", ");
  if (kind === "pairs")
    return ((value as [string, string][] | undefined) ?? []).map(([p, c]) => `${p}: ${c}`).join("; ");
  return String(value ?? "");
}

const splitAt = (text: string, mark: string) => text.split(mark).map((x) => x.trim());

/** What a line of text says as a value; undefined where the field may be left out and is. */
function fromText({ kind, optional }: Field, text: string): unknown {
  const empty = text.trim() === "";
  switch (kind) {
    case "number":
      if (empty) return optional ? undefined : 0;
      return Number(text.replace(",", "."));
    case "words": {
      const list = splitAt(text, ",").filter(Boolean);
      return optional && list.length === 0 ? undefined : list;
    }
    case "pairs": {
      const pairs = text
        .split(";")
        .map((x) => splitAt(x, ":"))
        .filter((p) => p[0]);
      return pairs.length ? pairs.map((p) => [p[0], p[1] ?? ""]) : undefined;
    }
    default:
      return optional && empty ? undefined : text;
  }
}

function TextInput({ field, value, disabled, set }: InputProps) {
  const [text, setText] = useState(asText(field, value));
  return (
    <TextField
      label={field.label}
      value={text}
      disabled={disabled}
      multiline={field.kind === "long" || field.kind === "words"}
      onChange={(e) => {
        setText(e.target.value);
        set(fromText(field, e.target.value));
      }}
      slotProps={{ htmlInput: { inputMode: field.kind === "number" ? "decimal" : undefined } }}
      sx={field.kind === "long" ? { gridColumn: "1 / -1" } : undefined}
    />
  );
}

const OF_KIND: Partial<Record<Field["kind"], (props: InputProps) => ReactNode>> = {
  check: CheckField,
  choices: ChoicesField,
  choice: ChoiceField,
};

export function FieldInput({ field, row, disabled, onChange }: FieldProps) {
  const Input = OF_KIND[field.kind] ?? TextInput;
  return (
    <Input
      field={field}
      value={valueAt(row, field.path)}
      disabled={disabled}
      set={(v) => onChange(withValue(row, field.path, v))}
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
