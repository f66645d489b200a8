"use client";

import Chip from "@mui/material/Chip";
import { type KeyboardEvent, useRef, useState } from "react";

import { Row, Words } from "@/ui/kit/layout";
import { codeWords } from "@/words/codes";

type Props<K extends string> = {
  label: string;
  options: readonly K[];
  value: readonly K[];
  onChange: (picked: K[]) => void;
};

const STEP: Partial<Record<string, number>> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };

/**
 * What is told or seen of a unit, one tap each: facts of its case, surer than the same read out of words. One stop for the
 * Tab key; arrows lead along.
 */
export function Taps<K extends string>({ label, options, value, onChange }: Props<K>) {
  const [at, setAt] = useState(0);
  const row = useRef<HTMLDivElement>(null);
  const flip = (kind: K) =>
    onChange(value.includes(kind) ? value.filter((v) => v !== kind) : [...value, kind]);
  const move = (e: KeyboardEvent) => {
    const step = STEP[e.key];
    if (!step) return;
    e.preventDefault();
    const next = (at + step + options.length) % options.length;
    setAt(next);
    row.current?.querySelectorAll<HTMLElement>("[aria-pressed]")[next]?.focus();
  };
  return (
    <Row gap={0.5} at="center">
      <Words size="small" quiet>
        {label}
      </Words>
      <div
        ref={row}
        role="group"
        aria-label={label}
        onKeyDown={move}
        style={{ display: "flex", flexWrap: "wrap", gap: 4 }}
      >
        {options.map((kind, i) => (
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
