"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import { TIP_KINDS, type TipKind } from "@/contract/mend";
import type { TipView } from "@/features/mend/tips";
import { day } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { say } from "@/features/mend/words/words";
import { BoundField } from "@/ui/form/BoundField";
import type { Id } from "@/core/base/ids";
import { SIZE } from "@/ui/tokens";
import { Row, Words } from "@/ui/kit/layout";

const TIP_WORDS: Record<TipKind, string> = {
  surprise: say("surprise"),
  "better-idea": say("betterIdea"),
  tip: say("tip"),
  missed: say("whatAPictureMissed"),
  step: say("stepForTheGuide"),
};
const STATE_WORDS: Record<TipView["state"], string> = {
  open: say("notConfirmed"),
  confirmed: say("confirmedHere"),
  refuted: say("didNotHold"),
  adopted: say("inTheGuide"),
};

type Props = {
  model: { key: string; name: string };
  unitId: Id<"unit"> | null;
  steps: { id: string; title: string }[];
  tips: TipView[];
  shop: Settings;
  canWork: boolean;
};

/** What helps next time, by step: offered on the next unit of this model. */
export function Notes({ model, unitId, steps, tips, shop, canWork }: Props) {
  const [step, setStep] = useState("");
  const shown = tips.filter((t) => step === "" || t.step === step);
  return (
    <Box sx={{ maxWidth: 980 }}>
      <Row gap={2} after={1} at="center">
        <Typography component="h2" variant="h1">
          {say("notesOnTheModel", { model: model.name })}
        </Typography>
        <NativeSelect
          label={say("step")}
          value={step}
          onChange={(e) => setStep(e.target.value)}
          sx={{ width: 260 }}
        >
          <option value="">{say("allSteps")}</option>
          {steps.map((s) => (
            <option key={s.id} value={s.id}>
              {s.title}
            </option>
          ))}
        </NativeSelect>
      </Row>
      {shown.length === 0 && (
        <Typography color="text.secondary">{say("nothingYetWasAGuideLooked")}</Typography>
      )}
      {shown.map((t) => (
        <Tip key={t.id} tip={t} steps={steps} shop={shop} canWork={canWork} />
      ))}
      {canWork && <AddTip model={model.key} unitId={unitId} steps={steps} step={step} />}
    </Box>
  );
}

function Tip({
  tip,
  steps,
  shop,
  canWork,
}: {
  tip: TipView;
  steps: Props["steps"];
  shop: Settings;
  canWork: boolean;
}) {
  const settle = useDeed("tip.settle");
  return (
    <Box sx={{ py: 1, borderTop: 1, borderColor: "divider", opacity: tip.state === "refuted" ? 0.75 : 1 }}>
      <Box
        sx={{
          fontSize: SIZE.lead,
          fontWeight: 600,
          textDecoration: tip.state === "refuted" ? "line-through" : "none",
        }}
      >
        {tip.words}
      </Box>
      <Words quiet>
        {TIP_WORDS[tip.kind]}
        {tip.step && say("atTitle", { title: steps.find((s) => s.id === tip.step)?.title ?? tip.step })}
        {tip.source && say("fromSource", { source: tip.source })}; <b>{STATE_WORDS[tip.state]}</b>; {tip.by},{" "}
        {day(tip.at, shop)}
        {tip.fromTag && say("onFromTag", { fromTag: tip.fromTag })}
      </Words>
      {canWork && tip.state === "open" && (
        <Row gap={1} oneLine>
          <Button
            size="small"
            disabled={settle.running}
            onClick={() => void settle.run({ tipId: tip.id, state: "confirmed" })}
          >
            {say("itHolds")}
          </Button>
          <Button
            size="small"
            color="inherit"
            disabled={settle.running}
            onClick={() => void settle.run({ tipId: tip.id, state: "refuted" })}
          >
            {say("itDoesNot")}
          </Button>
        </Row>
      )}
      <Problem problem={settle.problem} />
    </Box>
  );
}

type AddTipProps = {
  model: string;
  unitId: Id<"unit"> | null;
  steps: Props["steps"];
  step: string;
};

/** What AddTip knows and does; the components below only show it. */
function useAddTip({ model, unitId, steps, step }: AddTipProps) {
  const add = useDeed("tip.add");
  const [kind, setKind] = useState<TipKind>("tip");
  const [at, setAt] = useState("");
  const [words, setWords] = useState("");
  const [source, setSource] = useState("");
  const where = at || step;
  return { model, unitId, steps, add, kind, setKind, setAt, words, setWords, source, setSource, where };
}
type AddTipState = ReturnType<typeof useAddTip>;

function AddTip(props: AddTipProps) {
  const s = useAddTip(props);
  const { model, unitId, add, kind, setKind, words, setWords, source, setSource, where } = s;

  return (
    <Form
      aria-label={say("writeANote")}
      onSend={() =>
        void add
          .run({
            model,
            step: where || null,
            kind,
            words,
            source,
            unitId,
            ...(kind === "step" ? { after: where || null, minutes: 2 } : {}),
          })
          .then((d) => {
            if (!d?.ok) return;
            setWords("");
            setSource("");
          })
      }
      sx={{ display: "grid", gap: 1, gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr 1fr" }, mt: 2 }}
    >
      <NativeSelect label={say("kind")} value={kind} onChange={(e) => setKind(e.target.value as TipKind)}>
        {TIP_KINDS.map((k) => (
          <option key={k} value={k}>
            {TIP_WORDS[k]}
          </option>
        ))}
      </NativeSelect>
      <StepOfTip {...s} />
      <BoundField
        deed="tip.add"
        name="source"
        label={say("fromWhom")}
        value={source}
        onChange={setSource}
        placeholder={say("ownAPeerABuyer")}
      />
      <BoundField
        deed="tip.add"
        name="words"
        label={say("inYourWords")}
        value={words}
        onChange={setWords}
        multiline
        sx={{ gridColumn: "1 / -1" }}
      />
      <Box>
        <Button type="submit" variant="contained" disabled={add.running || words.trim() === ""}>
          {say("keepTheNote")}
        </Button>
      </Box>
      <Problem problem={add.problem} />
    </Form>
  );
}

function StepOfTip({ kind, where, setAt, steps }: AddTipState) {
  return (
    <NativeSelect
      label={kind === "step" ? say("afterStep") : say("atStep")}
      value={where}
      onChange={(e) => setAt(e.target.value)}
    >
      <option value="">{say("theModelAsAWhole")}</option>
      {steps.map((s) => (
        <option key={s.id} value={s.id}>
          {s.title}
        </option>
      ))}
    </NativeSelect>
  );
}
