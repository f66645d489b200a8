import Box from "@mui/material/Box";
import Link from "next/link";

import type { MateHere, MatesOf, UnitMoney } from "@/features/case/mates";
import { ENDING_NAMES, NEXT_WORDS } from "@/features/case/words/text";
import { say } from "@/features/units/words/words";
import type { UnitView } from "@/features/units/view";
import type { Settings } from "@/contract/deeds";
import { day, money } from "@/text/format";
import { allOf } from "@/text/lists";
import { placeWords } from "@/text/names";
import { Block, Notice, Text, Words } from "@/ui/kit/layout";
import { codeWords } from "@/words/codes";

const stands = (m: MateHere): string => (m.ending ? ENDING_NAMES[m.ending] : NEXT_WORDS[m.next]);

function coverWords({ makersCover, ourCover }: MateHere, shop: Settings): string[] {
  const until = makersCover.until === null ? null : day(makersCover.until, shop);
  const makers = until === null ? say("makersCoverRuns") : say("makersCoverUntil", { day: until });
  return [
    ...(makersCover.runs ? [makers] : []),
    ...(ourCover === null ? [] : [say("ourCoverUntil", { day: day(ourCover, shop) })]),
  ];
}

function toldWords(told: NonNullable<MatesOf["told"]>, shop: Settings): string[] {
  return [
    say("mateElsewhere", { state: codeWords(told.state) }),
    ...(told.state === "faulty" && told.failedAt
      ? [say("toldFailedAt", { place: placeWords(told.failedAt) })]
      : []),
    ...(told.coverUntil === null ? [] : [say("makersCoverUntil", { day: day(told.coverUntil, shop) })]),
    ...(told.mended === "" ? [] : [say("toldMended", { what: told.mended })]),
  ];
}

/** The units that this one belongs with: how they stand, what failed and was mended on them, and their cover. */
export function Mates({ view }: { view: UnitView }) {
  const { mates, settings: shop, faults } = view;
  if (mates.here.length === 0 && mates.told === null) return null;
  const open = mates.here.filter((m) => m.ending === null || m.ending === "released");
  const failsHere = faults.some((f) => f.status !== "withdrawn");
  return (
    <Block component="section" aria-label={say("belongsWith")} before={2}>
      <Text component="h3" size="lead" strong>
        {say("belongsWith")}
      </Text>
      {mates.here.map((m) => (
        <Box key={m.tag}>
          <Link href={`/units/${m.tag}`}>{m.tag}</Link> {say("mateIs", { model: m.model, stands: stands(m) })}
          {m.failed.length > 0 && (
            <Words>
              {say("itFailedAt", {
                places: allOf([...new Set(m.failed.map((f) => f.place))].map((p) => placeWords(p))),
              })}
            </Words>
          )}
          {m.mends.length > 0 && (
            <Words>
              {say("itsMends", {
                mends: m.mends.map((d) => `${d.what}, ${day(d.at, shop)}`).join("; "),
              })}
            </Words>
          )}
          {coverWords(m, shop).map((w) => (
            <Words key={w}>{w}</Words>
          ))}
        </Box>
      ))}
      {mates.told && toldWords(mates.told, shop).map((w) => <Words key={w}>{w}</Words>)}
      {failsHere && open.length > 0 && (
        <Words>{say("watchIt", { tags: allOf(open.map((m) => m.tag)) })}</Words>
      )}
    </Block>
  );
}

/** How one half can be sold, and what a new one is; nothing of a whole unit. */
export function HalfMoney({ half, shop }: { half: UnitMoney["half"]; shop: Settings }) {
  if (half === null) return null;
  const soldOf = () => {
    if (half.sold === "alone") return say("oneHalfAlone");
    if (half.sold === "no-mate") return say("oneHalfNoMate", { price: money(half.alone.asFoundMinor, shop) });
    const a = Math.max(half.alone.asFoundMinor, half.pair.aMinor - half.alone.asFoundMinor);
    return say("oneHalfWithMate", { prices: money(a, shop), mate: half.mate ?? say("itsMate") });
  };
  return (
    <Notice severity="info" role="note" before={1.5}>
      {soldOf()}{" "}
      {half.newIs === "pair"
        ? say("newOnlyAsPair", { price: money(half.pair.newMinor, shop) })
        : say("newHalf", { price: money(half.alone.newMinor, shop) })}
    </Notice>
  );
}
