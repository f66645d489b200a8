"use client";

import Chip from "@mui/material/Chip";
import { type KeyboardEvent, useRef, useState } from "react";

import { TOLD, type ToldKind } from "@/contract/intake";
import { say } from "@/features/intake/words/words";
import { Row, Words } from "@/ui/kit/layout";
import { codeWords } from "@/words/codes";

type Props = { value: readonly ToldKind[]; onChange: (told: ToldKind[]) => void };

const STEP: Partial<Record<string, number>> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };

/**
 * What is told of a unit's history, one tap each: a fact of its case, surer than the same read out of words. One stop for
 * the Tab key; arrows lead along.
 */
export function HistoryTicks({ value, onChange }: Props) {
  const [at, setAt] = useState(0);
  const row = useRef<HTMLDivElement>(null);
  const flip = (kind: ToldKind) =>
    onChange(value.includes(kind) ? value.filter((v) => v !== kind) : [...value, kind]);
  const move = (e: KeyboardEvent) => {
    const step = STEP[e.key];
    if (!step) return;
    e.preventDefault();
    const next = (at + step + TOLD.length) % TOLD.length;
    setAt(next);
    row.current?.querySelectorAll<HTMLElement>("[aria-pressed]")[next]?.focus();
  };
  return (
    <Row gap={0.5} at="center">
      <Words size="small" quiet>
        {say("whatIsToldOfIt")}
      </Words>
      <div
        ref={row}
        role="group"
        aria-label={say("whatIsToldOfIt")}
        onKeyDown={move}
        style={{ display: "flex", flexWrap: "wrap", gap: 4 }}
      >
        {TOLD.map((kind, i) => (
          <Chip
            key={kind}
            label={codeWords(kind)}
            color={value.includes(kind) ? "primary" : "default"}
            variant={value.includes(kind) ? "filled" : "outlined"}
            aria-pressed={value.includes(kind)}
            tabIndex={i === at ? 0 : -1}
            onFocus={() => setAt(i)}
            onClick={() => flip(kind)}
          />
        ))}
      </div>
    </Row>
  );
}
