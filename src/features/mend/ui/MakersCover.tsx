"use client";

import Button from "@mui/material/Button";
import { useState } from "react";

import { dayOf } from "@/core/days/days";
import { holdsTheShell } from "@/core/record/makers-cover";
import { say } from "@/features/mend/words/words";
import type { UnitView } from "@/features/units/view";
import { codeWords } from "@/words/codes";
import { day } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { BoundField } from "@/ui/form/BoundField";
import { Notice } from "@/ui/kit/layout";

/** Before the first screw: what earlier hands left, and what the unit asks of those that hold it. */
export function BeforeTheFirstScrew({ view }: { view: UnitView }) {
  const { handsLeft, hygiene } = view.unit.intake;
  return (
    <>
      {hygiene === "strong" && (
        <Notice severity="warning" role="note" after={1.5}>
          {say("glovesAndMask")}
        </Notice>
      )}
      {handsLeft.length > 0 && (
        <Notice severity="info" role="note" after={1.5}>
          {say("earlierHandsLeft", { what: handsLeft.map((h) => codeWords(h)).join(", ") })}
        </Notice>
      )}
    </>
  );
}

/** Before the first screw: the maker's cover runs, what opening would void, and who agreed to let it go. */
export function MakersCover({ view, canWork }: { view: UnitView; canWork: boolean }) {
  const { unit, settings } = view;
  const giveUp = useDeed("cover.give-up");
  const [by, setBy] = useState("");
  const { coverUntil, coverGiven, makersCover } = unit.intake;
  if (makersCover === "runs" && coverGiven)
    return (
      <Notice severity="info" role="note" after={1.5}>
        {say("theCoverWasLetGo", { by: coverGiven })}
      </Notice>
    );
  if (!holdsTheShell(unit.intake, dayOf(new Date(), settings.timeZone))) return null;
  return (
    <Notice severity="warning" role="note" after={1.5}>
      {coverUntil ? say("coverRunsUntil", { until: day(coverUntil, settings) }) : say("coverRunsAsTold")}{" "}
      {unit.source === "customer" ? say("itIsTheirsToLetGo") : say("sendItInFirst")}
      {canWork && (
        <Form
          onSend={() => void (by.trim() && giveUp.run({ unitId: unit.id, by }))}
          sx={{ display: "flex", gap: 1, mt: 1, flexWrap: "wrap" }}
        >
          <BoundField
            deed="cover.give-up"
            name="by"
            label={say("whoAgreedToLetItGo")}
            value={by}
            onChange={setBy}
            required
          />
          <Button
            type="submit"
            variant="outlined"
            color="inherit"
            disabled={by.trim() === "" || giveUp.running}
          >
            {say("letTheCoverGo")}
          </Button>
        </Form>
      )}
      <Problem problem={giveUp.problem} />
    </Notice>
  );
}
