"use client";

import Button from "@mui/material/Button";

import { isNamedIn } from "@/core/case/faults";
import { placeOfReading, readVerdict } from "@/core/diagnosis/readings";
import { controlsOf, functionsOf } from "@/core/profile/profile";
import type { ReadingView } from "@/features/test/readings";
import { benchResultText } from "@/features/test/words/text";
import { say } from "@/features/test/words/words";
import type { UnitView } from "@/features/units/view";
import { Refusals } from "@/ui/deed/Refusals";
import { useDeed } from "@/ui/deed/useDeed";
import { Kbd } from "@/ui/kit/Kbd";
import { useKeys } from "@/ui/kit/keys";
import { Row, Text } from "@/ui/kit/layout";
import { codeWords } from "@/words/codes";

/** A reading that failed, or lay too close to tell, is named as a fault by one key, as a measure is. */
export function NameReading({
  view,
  reading,
  foundWhen,
}: {
  view: UnitView;
  reading: ReadingView;
  foundWhen: "test" | "proof";
}) {
  const { unit, profile, faults } = view;
  const addFault = useDeed("fault.add");
  const verdict = readVerdict(reading.result);
  const place = placeOfReading(reading, {
    controls: controlsOf(profile, unit.revision),
    functions: functionsOf(profile, unit.revision),
  });
  const saving = addFault.pending.some(
    (p) => p.unitId === unit.id && p.place === place && p.measure === reading.kind,
  );
  const named =
    saving ||
    (place !== null &&
      faults.some((f) => f.status === "open" && isNamedIn(f, { place, measure: reading.kind })));
  const open = place !== null && verdict !== null && verdict !== "pass";
  const name = () => {
    if (!open || named) return;
    void addFault.run({
      unitId: unit.id,
      place,
      kind: codeWords(reading.kind),
      words: benchResultText(reading.result).slice(0, 600),
      foundWhen,
      measure: reading.kind,
      recordingId: null,
    });
  };
  useKeys(open && !named ? { n: name } : {});
  if (!open) return null;
  return (
    <Row gap={1} after={2} at="center">
      {named ? (
        <Text strong role="status">
          {saving ? say("savingAsAFault") : say("namedAsAFault")}
        </Text>
      ) : (
        <Button variant="outlined" onClick={name}>
          {say("nameItAsAFault")}&nbsp;
          <Kbd>n</Kbd>
        </Button>
      )}
      <Text color="text.secondary">{say("itBlocksTheReleaseUntil")}</Text>
      <Refusals refusals={addFault.refusals} />
    </Row>
  );
}
