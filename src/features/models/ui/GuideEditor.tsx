"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import { type MendGuide } from "@/core/profile/guide";
import { type ModelProfile, profileSchema } from "@/core/profile/profile";
import type { TipView } from "@/features/mend/tips";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { Choice } from "@/ui/fields/Choice";
import {
  EMPTY_GUIDE,
  type Field,
  FIELDS,
  FRESH,
  type ListName,
  LISTS,
  valueAt,
  withValue,
} from "./guide-fields";
import { say } from "@/features/models/words/words";
import { codeWords } from "@/words/codes";
import { findingWords } from "@/text/findings";
import { BoundField } from "@/ui/form/BoundField";

const NAMES: Record<ListName | "other", string> = {
  steps: say("steps"),
  fasteners: say("fasteners"),
  clips: say("clips"),
  cables: say("cables"),
  pieces: say("pieces"),
  surfaces: say("cleaning"),
  solder: say("solder"),
  other: say("testAndCalibration"),
};
type Row = Record<string, unknown> & { id: string };

type Props = { profile: ModelProfile; version: number; proposals: TipView[]; canEdit: boolean };

/** The guide of a model, list by list; saved as a new version of its profile, so that it is exported with it. */
export function GuideEditor({ version, ...props }: Props) {
  // a new version begins its editing anew; that it was saved is said all the same
  const [saved, setSaved] = useState(false);
  return <Editing key={version} {...props} saved={saved} setSaved={setSaved} />;
}

/** What happens at it: state, deeds and keys of Editing. */
function useEditing({
  profile,
  proposals,
  canEdit,
  saved,
  setSaved,
}: Omit<Props, "version"> & { saved: boolean; setSaved: (saved: boolean) => void }) {
  const save = useDeed("profile.import");
  const settle = useDeed("tip.settle");
  const [guide, setGuide] = useState<MendGuide>(profile.guide ?? EMPTY_GUIDE);
  const [list, setList] = useState<ListName | "other">("steps");
  const [picked, setPicked] = useState(0);
  const [taken, setTaken] = useState<string[]>([]);
  const rows = list === "other" ? [] : (guide[list] as unknown as Row[]);
  const row = rows[picked];
  const next = { ...profile, guide };
  const parsed = profileSchema.safeParse(next);
  const changed = JSON.stringify(guide) !== JSON.stringify(profile.guide ?? null);
  const put = (to: Row[]) => {
    setSaved(false);
    setGuide({ ...guide, [list]: to } as MendGuide);
  };
  const send = async () => {
    if (!parsed.success) return;
    const done = await save.run({ profile: parsed.data });
    if (!done?.ok) return;
    for (const tipId of taken) await settle.run({ tipId, state: "adopted" });
    setTaken([]);
    setSaved(true);
  };
  const take = (t: TipView) => {
    const id = `step.${guide.steps.length + 1}`;
    const after =
      t.proposal?.after && guide.steps.some((s) => s.id === t.proposal!.after) ? [t.proposal.after] : [];
    const step = {
      ...FRESH.steps(id),
      title: t.words.slice(0, 60),
      does: t.words,
      after,
      minutes: t.proposal?.minutes ?? 2,
    };
    setGuide({ ...guide, steps: [...guide.steps, step] });
    setTaken([...taken, t.id]);
    setList("steps");
    setPicked(guide.steps.length);
    setSaved(false);
  };
  const savedWords = () => {
    if (saved) return say("savedWorkOrdersThatAreOpened");
    if (changed) return say("changedNotSavedYet");
    return "";
  };
  return {
    profile,
    proposals,
    canEdit,
    save,
    settle,
    guide,
    setGuide,
    list,
    setList,
    picked,
    setPicked,
    taken,
    rows,
    row,
    parsed,
    changed,
    put,
    send,
    take,
    savedWords,
  };
}
type EditingState = ReturnType<typeof useEditing>;

function Editing(props: Omit<Props, "version"> & { saved: boolean; setSaved: (saved: boolean) => void }) {
  const s = useEditing(props);
  const { canEdit, save, settle, guide, setGuide, list, setList, setPicked } = s;

  return (
    <Box sx={{ display: "grid", gap: 2, gridTemplateColumns: "minmax(0,1fr)" }}>
      <EditingHead {...s} />
      <GuideProblems {...s} />
      <Problem problem={save.problem ?? settle.problem} />
      <Proposals {...s} />
      <Choice
        label={say("partOfTheGuide")}
        value={list}
        onChange={(l) => {
          setList(l);
          setPicked(0);
        }}
        options={[...LISTS, "other" as const].map((l): [ListName | "other", string] => [
          l,
          l === "other" ? NAMES.other : `${NAMES[l]} ${guide[l].length}`,
        ])}
      />
      {list === "other" ? (
        <Other guide={guide} canEdit={canEdit} onChange={setGuide} />
      ) : (
        <Box
          sx={{
            display: "grid",
            gap: 3,
            gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(220px, 300px) minmax(0,1fr)" },
          }}
        >
          <RowList {...s} list={list} />
          <RowFields {...s} list={list} />
        </Box>
      )}
    </Box>
  );
}

function EditingHead({ profile, canEdit, changed, parsed, save, send, savedWords }: EditingState) {
  return (
    <Box sx={{ display: "flex", gap: 2, alignItems: "center", flexWrap: "wrap" }}>
      <Typography component="h1" variant="h1">
        {say("guideOfTheProfile", { profile: profile.name })}
      </Typography>
      <Link href={`/models/${profile.id}`}>{say("theModel")}</Link>
      {canEdit && (
        <Button
          variant="contained"
          disabled={!changed || !parsed.success || save.running}
          onClick={() => void send()}
        >
          {say("saveAsANewVersion")}
        </Button>
      )}
      <span role="status">{savedWords()}</span>
    </Box>
  );
}

function GuideProblems({ parsed }: EditingState) {
  return (
    !parsed.success && (
      <Alert severity="error">
        {say("issuesMendThisFirst", {
          issues: parsed.error.issues
            .slice(0, 4)
            .map(
              (i) => `${i.path.slice(1).join(".")}${i.path.length > 1 ? ": " : ""}${findingWords(i.message)}`,
            )
            .join("; "),
        })}
      </Alert>
    )
  );
}

function Proposals({ canEdit, proposals, taken, guide, take }: EditingState) {
  return (
    canEdit &&
    proposals.filter((t) => !taken.includes(t.id)).length > 0 && (
      <Box component="section" aria-label={say("proposedSteps")}>
        <Typography component="h2" variant="h2">
          {say("proposedByThoseWhoDidIt")}
        </Typography>
        {proposals
          .filter((t) => !taken.includes(t.id))
          .map((t) => (
            <Box key={t.id} sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
              <span>
                “{t.words}”{" "}
                {t.proposal?.after &&
                  say("afterTitle", {
                    title: guide.steps.find((s) => s.id === t.proposal!.after)?.title ?? t.proposal.after,
                  })}
                , {t.by}
              </span>
              <Button size="small" onClick={() => take(t)}>
                {say("takeItIntoTheGuide")}
              </Button>
            </Box>
          ))}
      </Box>
    )
  );
}

function RowList({ list, rows, picked, setPicked, canEdit, put }: EditingState & { list: ListName }) {
  return (
    <Box
      component="ul"
      aria-label={NAMES[list]}
      sx={{ listStyle: "none", p: 0, m: 0, maxHeight: 560, overflowY: "auto" }}
    >
      {rows.map((r, i) => (
        <li key={`${i} ${r.id}`}>
          <Button
            fullWidth
            variant={i === picked ? "contained" : "text"}
            color={i === picked ? "primary" : "inherit"}
            sx={{ justifyContent: "start", textAlign: "left", whiteSpace: "normal" }}
            onClick={() => setPicked(i)}
          >
            {String(r.title ?? r.name ?? r.id)}
          </Button>
        </li>
      ))}
      {canEdit && (
        <li>
          <Button
            fullWidth
            onClick={() => {
              put([...rows, FRESH[list](`new.${rows.length + 1}`) as unknown as Row]);
              setPicked(rows.length);
            }}
          >
            {say("add")}
          </Button>
        </li>
      )}
    </Box>
  );
}

function RowFields({ row, list, picked, canEdit, put, rows, setPicked }: EditingState & { list: ListName }) {
  return (
    row && (
      <Box
        component="section"
        aria-label={say("editTitle", { title: String(row.title ?? row.name ?? row.id) })}
        sx={{
          display: "grid",
          gap: 1.5,
          gridTemplateColumns: { xs: "minmax(0,1fr)", sm: "repeat(3, minmax(0,1fr))" },
          alignContent: "start",
        }}
      >
        {FIELDS[list].map((f) => (
          <FieldInput
            key={`${list} ${picked} ${f.path}`}
            field={f}
            row={row}
            disabled={!canEdit}
            onChange={(r) => put(rows.map((x, i) => (i === picked ? (r as Row) : x)))}
          />
        ))}
        {canEdit && (
          <Box sx={{ gridColumn: "1 / -1", display: "flex", gap: 1 }}>
            {list === "steps" && (
              <>
                <Button
                  size="small"
                  disabled={picked === 0}
                  onClick={() => (put(moved(rows, picked, -1)), setPicked(picked - 1))}
                >
                  {say("earlier")}
                </Button>
                <Button
                  size="small"
                  disabled={picked === rows.length - 1}
                  onClick={() => (put(moved(rows, picked, 1)), setPicked(picked + 1))}
                >
                  {say("later")}
                </Button>
              </>
            )}
            <Button
              size="small"
              color="error"
              onClick={() => (put(rows.filter((_, i) => i !== picked)), setPicked(Math.max(0, picked - 1)))}
            >
              {say("takeItOut")}
            </Button>
          </Box>
        )}
      </Box>
    )
  );
}

const moved = (rows: Row[], at: number, by: number): Row[] => {
  const to = [...rows];
  const [row] = to.splice(at, 1);
  to.splice(at + by, 0, row!);
  return to;
};

function FieldInput({
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

function Other({
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
