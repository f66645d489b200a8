"use client";

import Chip from "@mui/material/Chip";

import { TOLD, type ToldKind } from "@/contract/intake";
import { say } from "@/features/intake/words/words";
import { Row, Words } from "@/ui/kit/layout";
import { codeWords } from "@/words/codes";

type Props = { value: readonly ToldKind[]; onChange: (told: ToldKind[]) => void };

/** What is told of a unit's history, one tap each: a fact of its case, surer than the same read out of words. */
export function HistoryTicks({ value, onChange }: Props) {
  const flip = (kind: ToldKind) =>
    onChange(value.includes(kind) ? value.filter((v) => v !== kind) : [...value, kind]);
  return (
    <Row gap={0.5} at="center" role="group" aria-label={say("whatIsToldOfIt")}>
      <Words size="small" quiet>
        {say("whatIsToldOfIt")}
      </Words>
      {TOLD.map((kind) => (
        <Chip
          key={kind}
          label={codeWords(kind)}
          color={value.includes(kind) ? "primary" : "default"}
          variant={value.includes(kind) ? "filled" : "outlined"}
          aria-pressed={value.includes(kind)}
          onClick={() => flip(kind)}
        />
      ))}
    </Row>
  );
}
