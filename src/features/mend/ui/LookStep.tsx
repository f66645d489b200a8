"use client";

import Button from "@mui/material/Button";
import { useState } from "react";

import type { Id } from "@/core/base/ids";
import { refTo } from "@/core/mend/ref";
import { outcomeWords } from "@/features/find/words/text";
import type { OrderView } from "@/features/mend/view";
import { say } from "@/features/mend/words/words";
import { LookInside } from "@/features/practice/ui/LookInside";
import { usePractising } from "@/ui/state/practising";
import { Refusals } from "@/ui/deed/Refusals";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { NumberField, readFigure } from "@/ui/fields/NumberField";
import { Column, Row, Text } from "@/ui/kit/layout";

type Props = {
  unit: { id: string };
  order: Pick<OrderView, "looks">;
  step: { key: string };
  canWork: boolean;
};

/** A check in the middle of a mend: its answer is what does it, and what it shows may change what comes next. */
export function LookStep({ unit, order, step, canWork }: Props) {
  const observe = useDeed("find.observe");
  const [value, setValue] = useState("");
  const practising = usePractising();
  const look = order.looks.find((l) => refTo("look", l.id) === step.key);
  if (!look) return null;
  const { kind, target } = look;
  // at the practice bench what is hidden answers
  const canAnswer = canWork && !practising;
  const record = (outcome: string, read: number | null = null) =>
    void observe.run({ unitId: unit.id as Id<"unit">, kind, target, outcome, value: read, note: "" });
  return (
    <Column gap={1}>
      <Text color="text.secondary">{look.answered ? say("thisWasAnswered") : say("answeringDoesIt")}</Text>
      {canWork && practising && <LookInside unitId={unit.id} check={look.id} />}
      {canAnswer && look.unit !== null && (
        <Form
          sx={{ display: "flex", gap: 1, alignItems: "center" }}
          onSend={() => {
            const read = readFigure(value);
            if (read !== null) record("read", read);
          }}
        >
          <NumberField label={look.name} unit={look.unit} value={value} onChange={setValue} />
          <Button type="submit" variant="contained" size="large" disabled={readFigure(value) === null}>
            {say("keepTheReading")}
          </Button>
        </Form>
      )}
      {canAnswer && look.unit === null && (
        <Row gap={1}>
          {look.outcomes.map((code) => (
            <Button
              key={code}
              variant="contained"
              size="large"
              disabled={observe.running}
              onClick={() => record(code)}
            >
              {outcomeWords(code)}
            </Button>
          ))}
        </Row>
      )}
      <Refusals refusals={observe.refusals} />
    </Column>
  );
}
