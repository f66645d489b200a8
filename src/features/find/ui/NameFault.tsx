"use client";

import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Id } from "@/core/base/ids";
import { controlsOf, functionsOf, placeName } from "@/core/profile/profile";
import { placeWords } from "@/text/names";
import { say } from "@/features/find/words/words";
import type { FaultView, UnitView } from "@/features/units/view";
import { Refusals } from "@/ui/deed/Refusals";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { BoundField } from "@/ui/form/BoundField";
import { FOUND } from "./Fault";
import { Block } from "@/ui/kit/layout";

type NameFaultProps = {
  view: UnitView;
  place: string;
  onPlace: (id: string) => void;
};

/** What NameFault knows and does; the components below only show it. */
function useNameFault({ view, place, onPlace }: NameFaultProps) {
  const { unit, profile } = view;
  const add = useDeed("fault.add");
  const [kind, setKind] = useState("");
  const [words, setWords] = useState("");
  const [claimed, setClaimed] = useState(false);
  const [under, setUnder] = useState<string | null>(null);
  // what is named where a fault is open is most often its cause or another sign of it
  const there = view.faults.filter((f) => f.status === "open" && f.place === place && place !== "");
  const belongs = there.some((f) => f.id === under) || under === "own" ? under! : (there[0]?.id ?? "own");
  const [when, setWhen] = useState<FaultView["foundWhen"]>(
    view.mends.some((m) => m.opened) ? "opened" : "test",
  );
  // the form is free for the next fault at once; what was refused comes back into it as long as nothing new
  // is there
  const save = async () => {
    setKind("");
    setWords("");
    setClaimed(false);
    const done = await add.run({
      unitId: unit.id,
      place,
      kind,
      words,
      foundWhen: when,
      ...(claimed ? { claimed } : {}),
      measure: null,
      recordingId: null,
      ...(there.length > 0 ? { under: belongs as Id<"fault"> | "own" } : {}),
    });
    if (done === null || done.ok) return;
    setKind((now) => now || kind);
    setWords((now) => now || words);
  };
  return {
    place,
    onPlace,
    unit,
    profile,
    add,
    kind,
    setKind,
    words,
    setWords,
    claimed,
    setClaimed,
    there,
    belongs,
    setUnder,
    when,
    setWhen,
    save,
  };
}

type NameFaultState = ReturnType<typeof useNameFault>;

export function NameFault(props: NameFaultProps) {
  const s = useNameFault(props);
  const { add, kind, setKind, words, setWords, claimed, setClaimed, when, setWhen, save } = s;

  return (
    <Form
      onSend={save}
      sx={{ mt: 3, display: "grid", gap: 1.5, gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr 1fr" } }}
    >
      <Typography component="h2" variant="h2" sx={{ gridColumn: "1 / -1" }}>
        {say("nameAFaultByHand")}
      </Typography>
      <PlaceOfFault {...s} />
      <BoundField
        deed="fault.add"
        name="kind"
        label={say("kind")}
        placeholder={say("crackedJointWornDome")}
        required
        value={kind}
        onChange={setKind}
      />
      <NativeSelect
        label={say("found")}
        value={when}
        onChange={(e) => setWhen(e.target.value as FaultView["foundWhen"])}
      >
        {Object.entries(FOUND).map(([v, name]) => (
          <option key={v} value={v}>
            {name}
          </option>
        ))}
      </NativeSelect>
      <Belonging {...s} />
      <BoundField
        deed="fault.add"
        name="words"
        label={say("inWords")}
        value={words}
        onChange={setWords}
        sx={{ gridColumn: { sm: "1 / 3" } }}
      />
      <FormControlLabel
        control={<Checkbox checked={claimed} onChange={(e) => setClaimed(e.target.checked)} />}
        label={say("theClaimMeantThisInOther")}
      />
      <Block full>
        <Button type="submit" variant="contained">
          {say("nameTheFault")}
        </Button>
        <Refusals refusals={add.refusals} />
      </Block>
    </Form>
  );
}

/** Several symptoms of one cause are one fault. */
function Belonging({ there, belongs, setUnder }: NameFaultState) {
  if (there.length === 0) return null;
  return (
    <NativeSelect
      label={say("whoseSymptomItIs")}
      value={belongs}
      onChange={(e) => setUnder(e.target.value)}
      sx={{ gridColumn: "1 / -1" }}
    >
      {there.map((f) => (
        <option key={f.id} value={f.id}>
          {say("faultNumberPlaceKind", { number: f.number, place: placeWords(f.place), kind: f.kind })}
        </option>
      ))}
      <option value="own">{say("aCauseOfItsOwn")}</option>
    </NativeSelect>
  );
}

function PlaceOfFault({ place, onPlace, profile, unit }: NameFaultState) {
  return (
    <NativeSelect
      label={say("placeOrPickItOnThe")}
      required
      value={place}
      onChange={(e) => onPlace(e.target.value)}
    >
      <option value="">{say("choose")}</option>
      {controlsOf(profile, unit.revision).map((c) => (
        <option key={c.id} value={c.id}>
          {placeName(c)}
        </option>
      ))}
      {functionsOf(profile, unit.revision).map((f) => (
        <option key={f.id} value={f.id}>
          {f.name}
        </option>
      ))}
      <option value="shell">{say("shell")}</option>
      <option value="board">{say("board")}</option>
    </NativeSelect>
  );
}
