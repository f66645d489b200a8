import Box from "@mui/material/Box";
import Link from "next/link";
import { Fragment } from "react";

import { likeliestFirst } from "@/core/guide/likeliest";
import { type Prepare, prepareFor } from "@/core/protocol/prepare";
import type { ModelProfile } from "@/core/profile/profile";
import { say } from "@/features/test/words/words";
import { percent } from "@/text/measures";
import { placeWords } from "@/text/names";
import { Block, Text, Words } from "@/ui/kit/layout";

const WORDS: { [C in Prepare["code"]]: (p: Extract<Prepare, { code: C }>) => string } = {
  charged: () => say("itsCellCharged"),
  "fresh-cells": (p) => say("freshCellsIn", { cells: p.cells }),
  bond: (p) => (p.steps ? say("bondClearedBy", { steps: p.steps }) : say("bondClearedPlain")),
  cable: () => say("dataCable"),
  headset: () => say("headsetAtHand"),
  quiet: () => say("quietAround"),
  drivers: (p) => p.words,
  "two-ways": () => say("twoWays"),
  "side-effect": (p) => p.words,
};
const wordsOf = <C extends Prepare["code"]>(p: Extract<Prepare, { code: C }>): string =>
  (WORDS[p.code as C] as (p: Extract<Prepare, { code: C }>) => string)(p);

export type Odds = { place: string; bad: number };

/** What the tester needs before a unit is plugged in, and what is asked for first, with why. */
export function BeforeTest({
  profile,
  revision,
  odds,
  alike,
}: {
  profile: ModelProfile;
  revision: string | null;
  odds: readonly Odds[];
  /** tags of others that want the very same on the table */
  alike: readonly string[];
}) {
  const first = likeliestFirst(odds);
  return (
    <Block component="section" aria-label={say("beforeItIsPluggedIn")}>
      <Text component="h3" size="lead" strong>
        {say("beforeItIsPluggedIn")}
      </Text>
      <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
        {prepareFor(profile, revision).map((p, i) => (
          <li key={i}>{wordsOf(p)}</li>
        ))}
      </Box>
      {first.length > 0 && (
        <Words before={1}>
          {say("testedFirst", {
            places: first
              .map((o) => say("placeByOdds", { place: placeWords(o.place), odds: percent(o.bad) }))
              .join(", "),
          })}
        </Words>
      )}
      {alike.length > 0 && (
        <Words before={1}>
          {say("sameOnTheTable")}{" "}
          {alike.map((tag, i) => (
            <Fragment key={tag}>
              {i > 0 && ", "}
              <Link href={`/units/${tag}/test/run?kind=full`}>{tag}</Link>
            </Fragment>
          ))}
        </Words>
      )}
    </Block>
  );
}
