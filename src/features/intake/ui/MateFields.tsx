"use client";

import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";

import { type Mate, MATE_STATES, mateSchema } from "@/contract/intake";
import { type ModelProfile, placeName } from "@/core/profile/profile";
import { say } from "@/features/intake/words/words";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { codeWords } from "@/words/codes";

const WHERE = ["none", "here", "elsewhere"] as const;
type Where = (typeof WHERE)[number];

/** A mate that stands in the form: that it is here is known before its tag is. */
export type TypedMate = (Mate & { isHere: boolean }) | null;

export const typedMate = (mate: Mate | null): TypedMate =>
  mate && { ...mate, isHere: mate.tag.trim() !== "" };

/** What is sent of it; of one that is here its tag alone, and nothing until that is typed. */
export function mateOf(typed: TypedMate): Mate | null {
  if (!typed) return null;
  const { isHere, ...mate } = typed;
  if (!isHere) return { ...mate, tag: "" };
  return mate.tag.trim() ? mateSchema.parse({ tag: mate.tag }) : null;
}

/** Why it cannot be sent so: a unit that is here is known by its tag alone. Null where it can. */
export const mateProblem = (typed: TypedMate): string | null =>
  typed?.isHere && typed.tag.trim() === "" ? say("giveItsTag") : null;

const whereOf = (mate: TypedMate): Where => {
  if (!mate) return "none";
  return mate.isHere ? "here" : "elsewhere";
};

/** The other half, or another of its set: by its tag where it is here, else what is told of it. Items of a grid. */
export function MateFields({
  profile,
  mate,
  onChange,
}: {
  profile: ModelProfile | null;
  mate: TypedMate;
  onChange: (mate: TypedMate) => void;
}) {
  const set = (change: Partial<NonNullable<TypedMate>>) =>
    onChange({ ...typedMate(mateSchema.parse({}))!, ...mate, ...change });
  const NAMES: Record<Where, string> = {
    none: say("nothingNoted"),
    here: say("aUnitThatIsHere"),
    elsewhere: say("oneThatIsElsewhere"),
  };
  return (
    <>
      <NativeSelect
        label={say("belongsWith")}
        value={whereOf(mate)}
        onChange={(e) => {
          const where = e.target.value as Where;
          if (where === "none") onChange(null);
          else set({ isHere: where === "here" });
        }}
      >
        {WHERE.map((w) => (
          <option key={w} value={w}>
            {NAMES[w]}
          </option>
        ))}
      </NativeSelect>
      {mate?.isHere && (
        <TextField
          label={say("itsTag")}
          value={mate.tag}
          onChange={(e) => set({ tag: e.target.value })}
          error={mateProblem(mate) !== null}
          helperText={mateProblem(mate)}
          slotProps={{ htmlInput: { maxLength: 12 } }}
          sx={{ gridColumn: "1 / -1" }}
        />
      )}
      {mate && !mate.isHere && (
        <Box
          sx={{
            gridColumn: "1 / -1",
            display: "grid",
            gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr" },
            gap: 1.5,
          }}
        >
          <NativeSelect
            label={say("itsState")}
            value={mate.state}
            onChange={(e) => set({ state: e.target.value as Mate["state"] })}
          >
            {MATE_STATES.map((s) => (
              <option key={s} value={s}>
                {codeWords(s)}
              </option>
            ))}
          </NativeSelect>
          {mate.state === "faulty" && (
            <NativeSelect
              label={say("likePlaceHere")}
              value={mate.failedAt}
              onChange={(e) => set({ failedAt: e.target.value })}
            >
              <option value="">{say("notToldWhere")}</option>
              {[...(profile?.controls ?? []), ...(profile?.functions ?? [])].map((c) => (
                <option key={c.id} value={c.id}>
                  {placeName(c)}
                </option>
              ))}
            </NativeSelect>
          )}
          <TextField
            type="date"
            label={say("itsCoverUntil")}
            value={mate.coverUntil ?? ""}
            onChange={(e) => set({ coverUntil: e.target.value || null })}
            slotProps={{ inputLabel: { shrink: true } }}
          />
          <TextField
            label={say("mendedOnIt")}
            value={mate.mended}
            onChange={(e) => set({ mended: e.target.value })}
            slotProps={{ htmlInput: { maxLength: 200 } }}
          />
        </Box>
      )}
    </>
  );
}
