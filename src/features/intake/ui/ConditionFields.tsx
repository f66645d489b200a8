"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { type Control, Controller, type UseFormRegister } from "react-hook-form";

import {
  GRADES_OF_CONDITION,
  HANDS_LEFT,
  type Mark,
  type MarkFace,
  MARK_KINDS,
  RATTLES,
  TOLD,
} from "@/contract/intake";
import { type ModelProfile, placeName } from "@/core/profile/profile";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { PlanView } from "@/ui/plan/PlanView";
import type { IntakeFields } from "./fields";
import { FaceOfMark, markAt, ON_THE_CORD } from "./FaceOfMark";
import { HYGIENE_WORDS } from "@/features/intake/words/text";
import { Taps } from "./Taps";
import { say } from "@/features/intake/words/words";
import { codeWords } from "@/words/codes";
import { Row } from "@/ui/kit/layout";

type Props = {
  control: Control<IntakeFields>;
  register: UseFormRegister<IntakeFields>;
  profile: ModelProfile | null;
  revision: string | null;
  swollen: boolean;
  liquid: boolean;
  opened: boolean;
  hands: readonly string[];
  history: string;
};

/** What can hurt first, then marks by place on the plan, then smell, grime and rattle. */
export function ConditionFields(props: Props) {
  const { control, register, profile, revision, swollen, liquid, opened, hands, history } = props;
  return (
    <>
      <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 3 }}>
        <Tick control={control} name="swollen" label={say("cellSwollenHotOrPunctured")} />
        <Tick control={control} name="liquid" label={say("tookLiquid")} />
        <Tick control={control} name="openedBefore" label={say("wasOpenedBefore")} />
      </Box>
      {swollen && (
        <Alert severity="error" variant="filled">
          {say("stopDoNotPressPunctureCharge")}
        </Alert>
      )}
      {liquid && !swollen && <Alert severity="warning">{say("doNotPowerOrChargeIt")}</Alert>}
      <Controller
        control={control}
        name="marks"
        render={({ field }) => (
          <Marks profile={profile} revision={revision} marks={field.value} onChange={field.onChange} />
        )}
      />
      {(opened || hands.length > 0) && (
        <Controller
          control={control}
          name="handsLeft"
          render={({ field }) => (
            <Taps
              label={say("whatEarlierHandsLeft")}
              options={HANDS_LEFT}
              value={field.value}
              onChange={field.onChange}
            />
          )}
        />
      )}
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr 1fr", sm: "repeat(4, 1fr)" }, gap: 1.5 }}>
        <Pick register={register} name="smell" label={say("smell")} options={GRADES_OF_CONDITION} />
        <Pick register={register} name="grime" label={say("grime")} options={GRADES_OF_CONDITION} />
        <Pick register={register} name="rattle" label={say("rattle")} options={RATTLES} />
        <Pick
          register={register}
          name="hygiene"
          label={say("hygiene")}
          options={GRADES_OF_CONDITION}
          word={(o) => HYGIENE_WORDS[o as keyof typeof HYGIENE_WORDS]}
        />
      </Box>
      <Controller
        control={control}
        name="told"
        render={({ field }) => (
          <Taps label={say("whatIsToldOfIt")} options={TOLD} value={field.value} onChange={field.onChange} />
        )}
      />
      <TextField
        label={say("historyFallLiquidSinceWhenHow")}
        {...register("history")}
        slotProps={history ? { inputLabel: { shrink: true } } : {}}
      />
    </>
  );
}

function Tick({
  control,
  name,
  label,
}: {
  control: Control<IntakeFields>;
  name: "swollen" | "liquid" | "openedBefore";
  label: string;
}) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field }) => (
        <FormControlLabel
          control={<Checkbox checked={field.value} onChange={(e) => field.onChange(e.target.checked)} />}
          label={label}
        />
      )}
    />
  );
}

function Pick({
  register,
  name,
  label,
  options,
  word = codeWords,
}: {
  register: UseFormRegister<IntakeFields>;
  name: "smell" | "grime" | "rattle" | "hygiene";
  label: string;
  options: readonly string[];
  word?: (option: string) => string;
}) {
  return (
    <NativeSelect label={label} {...register(name)} defaultValue="none">
      {options.map((o) => (
        <option key={o} value={o}>
          {word(o)}
        </option>
      ))}
    </NativeSelect>
  );
}

type MarksProps = {
  profile: ModelProfile | null;
  revision: string | null;
  marks: Mark[];
  onChange: (m: Mark[]) => void;
};

/** What Marks knows and does; the components below only show it. */
function useMarks({ profile, revision, marks, onChange }: MarksProps) {
  const [kind, setKind] = useState<Mark["kind"]>("scratch");
  const [at, setAt] = useState("");
  const [face, setFace] = useState<MarkFace>("front");
  return { profile, revision, marks, onChange, kind, setKind, at, setAt, face, setFace };
}
type MarksState = ReturnType<typeof useMarks>;

/** Marks by place: tap the plan, or choose a control by keyboard. */
function Marks(props: MarksProps) {
  const s = useMarks(props);
  const { profile, revision, marks, onChange, kind, at, face } = s;

  if (!profile)
    return (
      <Box
        sx={{
          border: "2px dashed",
          borderColor: "divider",
          borderRadius: 1,
          height: 220,
          display: "grid",
          placeItems: "center",
          color: "text.secondary",
          p: 2,
          textAlign: "center",
        }}
      >
        {say("chooseTheModelItsPlanAppears")}
      </Box>
    );
  const add = (x: number, y: number) => onChange([...marks, markAt(kind, face, { x, y })]);
  const byKeyboard = () => {
    const c = profile.controls.find((x) => x.id === at);
    if (face === "cord") onChange([...marks, markAt(kind, face, ON_THE_CORD)]);
    else if (c) add(c.at.x + 3, c.at.y + 3);
  };
  return (
    <Box>
      <Box
        sx={{ height: 230, bgcolor: "background.paper", border: 1, borderColor: "divider", borderRadius: 1 }}
      >
        <PlanView
          profile={profile}
          revision={revision}
          marks={marks}
          onPlace={add}
          side={face === "back" ? "back" : "front"}
          label={say("tapWhereAMarkIs")}
        />
      </Box>
      <MarkKeys {...s} profile={profile} byKeyboard={byKeyboard} />
      {marks.length > 0 && (
        <Typography variant="body2" color="text.secondary">
          {marks.map((m, i) => `${i + 1} ${codeWords(m.kind)}`).join(", ")}
        </Typography>
      )}
    </Box>
  );
}

function MarkKeys({
  kind,
  setKind,
  at,
  setAt,
  face,
  setFace,
  profile,
  onChange,
  marks,
  byKeyboard,
}: MarksState & { byKeyboard: () => void } & { profile: NonNullable<MarksState["profile"]> }) {
  return (
    <Row gap={1} before={1} at="center">
      <NativeSelect
        label={say("mark")}
        value={kind}
        onChange={(e) => setKind(e.target.value as Mark["kind"])}
        sx={{ width: 150 }}
      >
        {MARK_KINDS.map((k) => (
          <option key={k} value={k}>
            {codeWords(k)}
          </option>
        ))}
      </NativeSelect>
      <FaceOfMark profile={profile} face={face} onChange={setFace} />
      <NativeSelect
        label={say("atOrTapThePlan")}
        value={at}
        onChange={(e) => setAt(e.target.value)}
        sx={{ width: 170 }}
      >
        <option value="">{say("chooseAPlace")}</option>
        {profile.controls.map((c) => (
          <option key={c.id} value={c.id}>
            {placeName(c)}
          </option>
        ))}
      </NativeSelect>
      <Button onClick={byKeyboard} disabled={!at && face !== "cord"}>
        {say("mark")}
      </Button>
      <Button onClick={() => onChange(marks.slice(0, -1))} disabled={marks.length === 0}>
        {say("undo")}
      </Button>
    </Row>
  );
}
