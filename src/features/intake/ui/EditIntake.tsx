"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import { Form } from "@/ui/fields/Form";
import type { Intake, Mark, MarkFace } from "@/contract/intake";
import { CELLS, COVERS, GRADES_OF_CONDITION, HANDS_LEFT, MARK_KINDS, RATTLES, TOLD } from "@/contract/intake";
import type { ModelProfile } from "@/core/profile/profile";
import type { UnitView } from "@/features/units/view";
import { readAmount, typedAmount } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { PlanOnPhoto } from "@/ui/plan/PlanOnPhoto";
import { MateFields, mateOf, mateProblem, typedMate } from "./MateFields";
import { FaceOfMark, markAt, ON_THE_CORD } from "./FaceOfMark";
import { HYGIENE_WORDS } from "@/features/intake/words/text";
import { Taps } from "./Taps";
import { say } from "@/features/intake/words/words";
import { codeWords } from "@/words/codes";
import { BoundField } from "@/ui/form/BoundField";
import { Row } from "@/ui/kit/layout";

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/**
 * What the person typed stands; what they left alone follows the new state. Field by field, also inside the
 * intake.
 */
function mergeTyped<T extends { intake: Intake }>(base: T, typed: T, stored: T): T {
  const keep = <R extends object>(b: R, t: R, s: R): R =>
    Object.fromEntries(
      Object.keys(t).map((k) => [
        k,
        same(b[k as keyof R], t[k as keyof R]) ? s[k as keyof R] : t[k as keyof R],
      ]),
    ) as R;
  return { ...keep(base, typed, stored), intake: keep(base.intake, typed.intake, stored.intake) };
}

type EditIntakeProps = {
  view: UnitView;
  models: ModelProfile[];
  onDone: () => void;
};

/** What EditIntake knows and does; the components below only show it. */
function useEditIntake({ view, models, onDone }: EditIntakeProps) {
  const { unit } = view;
  const deed = useDeed("unit.edit-intake");
  const stored = {
    profileKey: view.profile.id,
    revision: unit.revision ?? "",
    claim: unit.claim,
    swollen: unit.swollen,
    liquid: unit.liquid,
    intake: unit.intake,
  };
  const [base, setBase] = useState({ version: unit.version, values: stored, merged: false });
  const [v, setV] = useState(stored);
  if (unit.version !== base.version) {
    setBase({ version: unit.version, values: stored, merged: true });
    setV(mergeTyped(base.values, v, stored));
  }
  const profile = models.find((m) => m.id === v.profileKey) ?? view.profile;
  const touched = view.recordings.length + view.checks.length + view.faults.length + view.mends.length > 0;
  const setIntake = (change: Partial<Intake>) => setV({ ...v, intake: { ...v.intake, ...change } });
  const [kind, setKind] = useState<Mark["kind"]>("scratch");
  const [face, setFace] = useState<MarkFace>("front");
  const { costLimitMinor } = unit.intake;
  const [limit, setLimit] = useState(costLimitMinor === null ? "" : typedAmount(costLimitMinor));
  const [mate, setMate] = useState(() => typedMate(unit.intake.mate));
  const save = async () => {
    // the field itself says why
    if ((limit.trim() && readAmount(limit) === null) || mateProblem(mate) !== null) return;
    const done = await deed.run({
      unitId: unit.id,
      version: unit.version,
      ...v,
      revision: v.revision || null,
    });
    if (done?.ok) onDone();
  };
  return {
    models,
    onDone,
    deed,
    base,
    v,
    setV,
    profile,
    touched,
    setIntake,
    kind,
    setKind,
    face,
    setFace,
    mate,
    setMate,
    limit,
    setLimit,
    save,
  };
}
type EditIntakeState = ReturnType<typeof useEditIntake>;

/** Corrects what was written at the door, field by field; what others changed meanwhile is taken over. */
export function EditIntake(props: EditIntakeProps) {
  const s = useEditIntake(props);
  const { onDone, deed, base, v, setV, profile, setIntake, kind, face, mate, setMate, save } = s;

  return (
    <Form onSend={save} sx={{ display: "grid", gap: 1.7, maxWidth: 760 }}>
      <ModelChoice {...s} />
      <RevisionChoice {...s} />
      <BoundField
        deed="unit.edit-intake"
        name="claim"
        label={say("theClaimInItsOwnWords")}
        multiline
        minRows={2}
        value={v.claim}
        onChange={(claim) => setV({ ...v, claim })}
      />
      <Taps
        label={say("whatIsToldOfIt")}
        options={TOLD}
        value={v.intake.told}
        onChange={(told) => setIntake({ told })}
      />
      <BoundField
        deed="unit.edit-intake"
        name="intake.history"
        label={say("history")}
        value={v.intake.history}
        onChange={(history) => setIntake({ history })}
      />
      <BoundField
        deed="unit.edit-intake"
        name="intake.remark"
        label={say("remark")}
        value={v.intake.remark}
        onChange={(remark) => setIntake({ remark })}
      />
      <PlanOnPhoto
        profile={profile}
        revision={v.revision || null}
        marks={v.intake.marks}
        side={face === "back" ? "back" : "front"}
        onPlace={(x, y) => setIntake({ marks: [...v.intake.marks, markAt(kind, face, { x, y })] })}
        label={say("tapWhereAMarkIs")}
        photos={props.view.photos}
      />
      <MarksOutside {...s} />
      <SmellGrimeRattle {...s} />
      {props.view.unit.source === "customer" ? (
        <TheirWishes {...s} shop={props.view.settings} />
      ) : (
        <ParcelAgain {...s} />
      )}
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr" }, gap: 1.5 }}>
        <MateFields
          profile={profile}
          mate={mate}
          onChange={(m) => {
            setMate(m);
            setIntake({ mate: mateOf(m) });
          }}
        />
      </Box>
      <CameWith {...s} />
      {base.merged && <Alert severity="info">{say("whatOthersChangedIsTakenOver")}</Alert>}
      <Problem problem={base.merged ? null : deed.problem} />
      <Row gap={1} oneLine>
        <Button type="submit" variant="contained" disabled={deed.running}>
          {say("saveTheIntake")}
        </Button>
        <Button onClick={onDone}>{say("leaveItAsItWas")}</Button>
      </Row>
    </Form>
  );
}

function ModelChoice({ v, touched, models, setV }: EditIntakeState) {
  return (
    <NativeSelect
      label={say("model")}
      value={v.profileKey}
      disabled={touched}
      helperText={touched ? say("testedOrWorkedOnAsThis") : say("whatWasMarkedAndWhatCame")}
      onChange={(e) => {
        const other = models.find((m) => m.id === e.target.value)!;
        setV({
          ...v,
          profileKey: other.id,
          revision: other.revisions.length === 1 ? other.revisions[0]!.id : "",
          intake: { ...v.intake, marks: [], accessories: other.accessories.map((a) => a.id) },
        });
      }}
    >
      {models.map((m) => (
        <option key={m.id} value={m.id}>
          {m.name}
        </option>
      ))}
    </NativeSelect>
  );
}

function RevisionChoice({ v, setV, profile }: EditIntakeState) {
  return (
    <NativeSelect
      label={say("revision")}
      value={v.revision}
      onChange={(e) => setV({ ...v, revision: e.target.value })}
    >
      <option value="">{say("notKnownYet")}</option>
      {profile.revisions.map((r) => (
        <option key={r.id} value={r.id}>
          {say("insideOf", { name: r.name, inside: r.inside })}
        </option>
      ))}
    </NativeSelect>
  );
}

/** How the parcel came and what was not as promised: while a claim is possible somebody may look again. */
function ParcelAgain({ v, setIntake }: EditIntakeState) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "1fr 2fr" }, gap: 1.5 }}>
      <NativeSelect
        label={say("parcel")}
        value={v.intake.parcel}
        onChange={(e) => setIntake({ parcel: e.target.value as Intake["parcel"] })}
      >
        <option value="not-noted">{say("notNoted")}</option>
        <option value="sound">{say("wellPacked")}</option>
        <option value="poor">{say("poorlyPacked")}</option>
        <option value="damaged">{say("damaged")}</option>
      </NativeSelect>
      <BoundField
        deed="unit.edit-intake"
        name="intake.differs"
        label={say("notAsPromised")}
        value={v.intake.differs}
        onChange={(differs) => setIntake({ differs })}
      />
    </Box>
  );
}

/** What they pay at most while nothing is agreed, and what they use it for: both may change later. */
function TheirWishes({ v, setIntake, limit, setLimit, shop }: EditIntakeState & { shop: Settings }) {
  return (
    <Row gap={1} at="center">
      <BoundField
        deed="unit.edit-intake"
        name="intake.costLimitMinor"
        label={say("theyPayAtMostCurrency", { currency: shop.currency })}
        value={limit}
        onChange={(typed) => {
          setLimit(typed);
          const amount = typed.trim() ? readAmount(typed) : null;
          if (typed.trim() === "" || amount !== null) setIntake({ costLimitMinor: amount });
        }}
      />
      <NativeSelect
        label={say("usedFor")}
        value={v.intake.use}
        onChange={(e) => setIntake({ use: e.target.value as Intake["use"] })}
      >
        <option value="unknown">{say("notAsked")}</option>
        <option value="play">{say("casualPlay")}</option>
        <option value="precise">{say("preciseAiming")}</option>
        <option value="own-testing">{say("ownTesting")}</option>
      </NativeSelect>
    </Row>
  );
}

/** How it was in the hand: smell, grime, what rattles, and whether it was opened before. */
function SmellGrimeRattle({ v, setIntake }: EditIntakeState) {
  const pick = <K extends "smell" | "grime" | "rattle" | "hygiene">(
    name: K,
    label: string,
    options: readonly Intake[K][],
    word: (option: string) => string = codeWords,
  ) => (
    <NativeSelect
      label={label}
      value={v.intake[name]}
      onChange={(e) => setIntake({ [name]: e.target.value })}
    >
      {options.map((o) => (
        <option key={o} value={o}>
          {word(o)}
        </option>
      ))}
    </NativeSelect>
  );
  return (
    <Row gap={1} at="center">
      {pick("smell", say("smell"), GRADES_OF_CONDITION)}
      {pick("grime", say("grime"), GRADES_OF_CONDITION)}
      {pick("rattle", say("rattle"), RATTLES)}
      {pick("hygiene", say("hygiene"), GRADES_OF_CONDITION, (o) => HYGIENE_WORDS[o as Intake["hygiene"]])}
      <NativeSelect
        label={say("cellsOrPack")}
        value={v.intake.cells}
        onChange={(e) => setIntake({ cells: e.target.value as Intake["cells"] })}
      >
        {CELLS.map((c) => (
          <option key={c} value={c}>
            {codeWords(c)}
          </option>
        ))}
      </NativeSelect>
      {v.intake.cells === "taken-out" && (
        <BoundField
          deed="unit.edit-intake"
          name="intake.cellsAt"
          label={say("whereTheyLie")}
          value={v.intake.cellsAt}
          onChange={(cellsAt) => setIntake({ cellsAt })}
        />
      )}
      <NativeSelect
        label={say("makersCover")}
        value={v.intake.makersCover}
        onChange={(e) => setIntake({ makersCover: e.target.value as Intake["makersCover"] })}
      >
        {COVERS.map((c) => (
          <option key={c} value={c}>
            {codeWords(c)}
          </option>
        ))}
      </NativeSelect>
      {v.intake.makersCover === "runs" && (
        <TextField
          type="date"
          label={say("itsLastDay")}
          value={v.intake.coverUntil ?? ""}
          onChange={(e) => setIntake({ coverUntil: e.target.value || null })}
          slotProps={{ inputLabel: { shrink: true } }}
        />
      )}
      <FormControlLabel
        control={
          <Checkbox
            checked={v.intake.openedBefore}
            onChange={(e) => setIntake({ openedBefore: e.target.checked })}
          />
        }
        label={say("wasOpenedBefore")}
      />
      {(v.intake.openedBefore || v.intake.handsLeft.length > 0) && (
        <Taps
          label={say("whatEarlierHandsLeft")}
          options={HANDS_LEFT}
          value={v.intake.handsLeft}
          onChange={(handsLeft) => setIntake({ handsLeft })}
        />
      )}
    </Row>
  );
}

function MarksOutside({ kind, setKind, face, setFace, setIntake, v, profile }: EditIntakeState) {
  return (
    <Row gap={1} oneLine>
      <NativeSelect
        label={say("mark")}
        value={kind}
        onChange={(e) => setKind(e.target.value as Mark["kind"])}
        sx={{ maxWidth: 200 }}
      >
        {MARK_KINDS.map((k) => (
          <option key={k} value={k}>
            {codeWords(k)}
          </option>
        ))}
      </NativeSelect>
      <FaceOfMark profile={profile} face={face} onChange={setFace} />
      {face === "cord" && (
        <Button onClick={() => setIntake({ marks: [...v.intake.marks, markAt(kind, face, ON_THE_CORD)] })}>
          {say("markTheCord")}
        </Button>
      )}
      <Button
        onClick={() => setIntake({ marks: v.intake.marks.slice(0, -1) })}
        disabled={v.intake.marks.length === 0}
      >
        {say("undoMark")}
      </Button>
    </Row>
  );
}

function CameWith({ profile, v, setIntake, setV }: EditIntakeState) {
  return (
    <Box>
      {profile.accessories.map((a) => (
        <FormControlLabel
          key={a.id}
          control={
            <Checkbox
              checked={v.intake.accessories.includes(a.id)}
              onChange={(e) =>
                setIntake({
                  accessories: e.target.checked
                    ? [...v.intake.accessories, a.id]
                    : v.intake.accessories.filter((x) => x !== a.id),
                })
              }
            />
          }
          label={a.name}
        />
      ))}
      <FormControlLabel
        control={<Checkbox checked={v.swollen} onChange={(e) => setV({ ...v, swollen: e.target.checked })} />}
        label={say("cellSwollenHotOrPunctured")}
      />
      <FormControlLabel
        control={<Checkbox checked={v.liquid} onChange={(e) => setV({ ...v, liquid: e.target.checked })} />}
        label={say("tookLiquid")}
      />
    </Box>
  );
}
