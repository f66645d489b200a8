"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import type { MendGuide } from "@/core/profile/guide";
import { type ModelProfile, profileSchema } from "@/core/profile/profile";
import type { TipView } from "@/features/mend/tips";
import { say } from "@/features/models/words/words";
import { findingWords } from "@/text/findings";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Choice } from "@/ui/fields/Choice";
import { FieldInput, NAMES, Other, type GuideRow } from "./GuideFields";
import { EMPTY_GUIDE, FIELDS, FRESH, LISTS, type ListName } from "./guide-fields";
import { Row } from "@/ui/kit/layout";

type Props = { profile: ModelProfile; version: number; proposals: TipView[]; canEdit: boolean };

/**
 * The guide of a model, list by list; saved as a new version of its profile, so that it is exported with it.
 */
export function GuideEditor({ version, ...props }: Props) {
  // a new version begins its editing anew; that it was saved is said all the same
  const [saved, setSaved] = useState(false);
  return <Editing key={version} {...props} saved={saved} setSaved={setSaved} />;
}

/** What Editing knows and does; the components below only show it. */
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
  const rows = list === "other" ? [] : (guide[list] as unknown as GuideRow[]);
  const row = rows[picked];
  const next = { ...profile, guide };
  const parsed = profileSchema.safeParse(next);
  const changed = JSON.stringify(guide) !== JSON.stringify(profile.guide ?? null);
  const put = (to: GuideRow[]) => {
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
    <Row gap={2} at="center">
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
    </Row>
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
            <Row key={t.id} gap={1} at="center">
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
            </Row>
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
              put([...rows, FRESH[list](`new.${rows.length + 1}`) as unknown as GuideRow]);
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
            onChange={(r) => put(rows.map((x, i) => (i === picked ? (r as GuideRow) : x)))}
          />
        ))}
        {canEdit && (
          <Row gap={1} full oneLine>
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
          </Row>
        )}
      </Box>
    )
  );
}

const moved = (rows: GuideRow[], at: number, by: number): GuideRow[] => {
  const to = [...rows];
  const [row] = to.splice(at, 1);
  to.splice(at + by, 0, row!);
  return to;
};
