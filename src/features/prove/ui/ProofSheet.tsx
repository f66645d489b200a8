"use client";

import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useRef, useState } from "react";

import type { ProofResult } from "@/core/prove/proof";
import type { ProofLine, UnitView } from "@/features/units/view";
import { dayAndTime } from "@/text/format";
import { chargeText, PROOF_RESULT_WORDS, proofWhyText, proofWords } from "@/features/release/words/text";
import { Refusals } from "@/ui/deed/Refusals";
import { useDeed } from "@/ui/deed/useDeed";
import { AnswerKeys } from "@/ui/fields/AnswerKeys";
import { Form } from "@/ui/fields/Form";
import { readFigure } from "@/ui/fields/NumberField";
import { Kbd } from "@/ui/kit/Kbd";
import { type ShownState, StateMark } from "@/ui/state/StateMark";
import { say } from "@/features/prove/words/words";
import { SIZE } from "@/ui/tokens";
import { Block, Row } from "@/ui/kit/layout";

const KEYS: [string, ProofResult][] = [
  ["y", "pass"],
  ["x", "fail"],
  ["n", "cannot"],
];
const STATE: Record<ProofResult, ShownState> = { pass: "pass", fail: "fail", cannot: "caution" };
const ANSWERS = KEYS.map(([key, answer]) => ({
  key,
  answer,
  words: PROOF_RESULT_WORDS[answer],
  state: STATE[answer],
}));
const stateOf = (l: ProofLine): ShownState =>
  l.answer && !l.answer.stale ? STATE[l.answer.result] : "untested";

type ProofSheetProps = { view: UnitView; canWork: boolean };

/** What ProofSheet knows and does; the components below only show it. */
function useProofSheet({ view, canWork }: ProofSheetProps) {
  const { unit, settings } = view;
  const deed = useDeed("proof.answer");
  const list = useRef<HTMLDivElement>(null);
  const done = view.proofSheet.filter((l) => stateOf(l) === "pass").length;
  const answer = (key: string, result: ProofResult, value: number | null, i: number) => {
    void deed.run({ unitId: unit.id, key, result, value });
    list.current?.querySelectorAll<HTMLElement>("[data-proof]")[i + 1]?.focus();
  };
  const savingOf = (key: string) =>
    deed.pending.findLast((p) => p.unitId === unit.id && p.key === key) ?? null;
  return { view, canWork, settings, deed, list, done, answer, savingOf };
}
type ProofSheetState = ReturnType<typeof useProofSheet>;

/** What the proof asks beside the test, each with why it is asked; answered by a key on its row. */
export function ProofSheet(props: ProofSheetProps) {
  const s = useProofSheet(props);
  const { view, canWork, settings, deed, list, answer, savingOf } = s;

  return (
    <Block component="section" aria-label={say("proofSheet")} around={2}>
      <SheetHead {...s} />
      <Refusals refusals={deed.refusals} />
      <div ref={list}>
        {view.proofSheet.map((l, i) => (
          <ProofRow
            key={l.key}
            line={l}
            saving={savingOf(l.key)}
            settings={settings}
            canWork={canWork}
            onAnswer={(result, value) => answer(l.key, result, value, i)}
          />
        ))}
      </div>
    </Block>
  );
}

type Saving = ReturnType<ProofSheetState["savingOf"]>;

/** What a line says was answered, by whom and when. */
function saidOf(l: ProofLine, saving: Saving, judged: boolean, shop: UnitView["settings"]): string {
  if (saving)
    return say("savingSaving", {
      saving: judged ? PROOF_RESULT_WORDS[saving.result] : chargeText(saving.value ?? null),
    });
  if (!l.answer) return say("notDone");
  const { result, value, by, at, stale } = l.answer;
  const charge = value === null ? "" : `, ${chargeText(value)}`;
  return `${PROOF_RESULT_WORDS[result]}${charge}, ${by}, ${dayAndTime(at, shop)}${stale ? say("beforeTheLastWorkDoIt") : ""}`;
}

type ProofRowProps = {
  line: ProofLine;
  saving: Saving;
  settings: UnitView["settings"];
  canWork: boolean;
  onAnswer: (result: ProofResult, value: number | null) => void;
};

function ProofRow({ line: l, saving, settings, canWork, onAnswer }: ProofRowProps) {
  const words = proofWords(l.key);
  // a charge is judged by the server: until then it is read, not passed
  const judged = saving !== null && l.key !== "storage" ? saving.result : null;
  const state: ShownState = judged ? STATE[judged] : stateOf(l);
  const given = judged ?? (state === "untested" ? null : l.answer!.result);
  const answered = given === null ? say("notDone") : PROOF_RESULT_WORDS[given];
  return (
    <Box
      data-proof={l.key}
      tabIndex={canWork ? 0 : undefined}
      aria-label={`${words.name}: ${judged ? say("resultSaving", { result: answered }) : answered}`}
      onKeyDown={(e) => {
        const hit = KEYS.find(([key]) => key === e.key);
        if (!hit || !canWork || e.target !== e.currentTarget || l.key === "storage") return;
        e.preventDefault();
        e.stopPropagation();
        onAnswer(hit[1], null);
      }}
      sx={{
        display: "grid",
        gridTemplateColumns: "20px minmax(0,1fr) auto",
        alignItems: "center",
        columnGap: 1,
        py: 0.6,
        borderBottom: 1,
        borderColor: "divider",
      }}
    >
      <StateMark state={state} />
      <Box sx={{ lineHeight: 1.25 }}>
        <b>{words.ask}</b>
        <Box sx={{ fontSize: SIZE.fine, color: l.answer?.stale ? "caution.main" : "text.secondary" }}>
          {say("saidWhyWhy", {
            said: saidOf(l, saving, judged !== null, settings),
            why: proofWhyText(l.why),
          })}
        </Box>
      </Box>
      {canWork && l.key === "storage" && (
        <Charge
          from={settings.prove.storageFrom}
          to={settings.prove.storageTo}
          onRead={(share) => onAnswer("pass", share)}
        />
      )}
      {canWork && l.key !== "storage" && (
        <AnswerKeys
          name={words.name}
          answers={ANSWERS}
          given={given}
          onGive={(result) => onAnswer(result, null)}
        />
      )}
    </Box>
  );
}

function SheetHead({ done, view, canWork }: ProofSheetState) {
  return (
    <Row gap={1.5} at="baseline">
      <Typography component="h3" variant="h2">
        {say("proofSheet")}
      </Typography>
      <Typography color="text.secondary">
        {say("doneOfProofSheetPassed", { done, proofSheet: view.proofSheet.length })}
      </Typography>
      {canWork && (
        <Typography variant="body2" color="text.secondary">
          {say("onARow")} <Kbd>y</Kbd> {say("pass")} <Kbd>x</Kbd> {say("fail")} <Kbd>n</Kbd>{" "}
          {say("cannotBeDone")}
        </Typography>
      )}
    </Row>
  );
}

/** The charge as the meter reads it, in percent; whether it is right for storing is worked out. */
function Charge({ from, to, onRead }: { from: number; to: number; onRead: (share: number) => void }) {
  const [text, setText] = useState("");
  const read = readFigure(text);
  const bad = text.trim() !== "" && (read === null || read < 0 || read > 100);
  return (
    <Form
      onSend={() => {
        if (read !== null && !bad) onRead(read / 100);
      }}
    >
      <TextField
        size="small"
        label={say("charge")}
        value={text}
        error={bad}
        helperText={
          bad ? say("from0To100") : say("fromToToEnter", { from: chargeText(from), to: chargeText(to) })
        }
        onChange={(e) => setText(e.target.value)}
        slotProps={{ htmlInput: { inputMode: "decimal", autoComplete: "off" } }}
        sx={{ width: 150 }}
      />
    </Form>
  );
}
