"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import { isMark, type Mark, type MarkKey } from "@/contract/intake";
import { placeAt } from "@/core/profile/profile";
import type { UnitView } from "@/features/units/view";
import { Refusals } from "@/ui/deed/Refusals";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { say } from "@/features/intake/words/words";
import { codeWords } from "@/words/codes";
import { BoundField } from "@/ui/form/BoundField";
import { Words } from "@/ui/kit/layout";

const keyOf = ({ kind, x, y, face }: Mark): MarkKey => ({ kind, x, y, face });

/**
 * The marks outside, each with its place; one that went with a part or a cleaning counts no more, and stays
 * as how the unit came.
 */
export function MarkList({ view, canWork }: { view: Pick<UnitView, "unit" | "profile">; canWork: boolean }) {
  const { unit, profile } = view;
  const settle = useDeed("mark.settle");
  const [asked, setAsked] = useState<number | null>(null);
  const [why, setWhy] = useState("");
  const { marks } = unit.intake;
  if (marks.length === 0) return say("noneNoted");
  const goneOf = (m: Mark) => {
    const saving = settle.pending.findLast((p) => p.unitId === unit.id && isMark(p.mark, m));
    return saving ? saving.gone : m.gone;
  };
  const set = (m: Mark, gone: string | null) => {
    setAsked(null);
    setWhy("");
    void settle.run({ unitId: unit.id, mark: keyOf(m), gone });
  };
  return (
    <Box component="ol" sx={{ m: 0, pl: 2.5 }}>
      {marks.map((m, i) => (
        <li key={i}>
          {codeWords(m.kind)}, {placeAt(profile, m)}
          {m.words && `: ${m.words}`}
          {goneOf(m) !== null && (
            <Words component="span" quiet>
              {say("goneGoneOf", { goneOf: String(goneOf(m)) })}
            </Words>
          )}
          {canWork && (
            <Button size="small" onClick={() => (goneOf(m) === null ? setAsked(i) : set(m, null))}>
              {goneOf(m) === null ? say("gone") : say("stillThere")}
            </Button>
          )}
          {asked === i && (
            <Form onSend={() => why.trim() && set(m, why)} sx={{ display: "flex", gap: 1, my: 0.5 }}>
              <BoundField
                deed="mark.settle"
                name="gone"
                label={say("whyItIsGone")}
                value={why}
                onChange={setWhy}
                autoFocus
                required
              />
              <Button type="submit" variant="outlined" disabled={why.trim() === ""}>
                {say("gone")}
              </Button>
            </Form>
          )}
        </li>
      ))}
      <Refusals refusals={settle.refusals} />
    </Box>
  );
}
