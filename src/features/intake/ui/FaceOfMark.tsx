"use client";

import { type Mark, MARK_FACES, type MarkFace } from "@/contract/intake";
import type { ModelProfile } from "@/core/profile/profile";
import { say } from "@/features/intake/words/words";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { codeWords } from "@/words/codes";

/** The cord has no place of the plan. */
export const ON_THE_CORD = { x: 0, y: 0 };

export const markAt = (kind: Mark["kind"], face: MarkFace, at: { x: number; y: number }): Mark => ({
  kind,
  ...at,
  face,
  words: "",
  gone: null,
});

type Props = { profile: ModelProfile; face: MarkFace; onChange: (face: MarkFace) => void };

/** Which side the next mark is on: the plan turns over with it; a cord only where the model has one. */
export function FaceOfMark({ profile, face, onChange }: Props) {
  const hasCord = profile.power.some((p) => p.kind === "cord");
  return (
    <NativeSelect
      label={say("sideOfTheMark")}
      value={face}
      onChange={(e) => onChange(e.target.value as MarkFace)}
      sx={{ width: 110 }}
    >
      {MARK_FACES.filter((f) => f !== "cord" || hasCord).map((f) => (
        <option key={f} value={f}>
          {codeWords(f)}
        </option>
      ))}
    </NativeSelect>
  );
}
