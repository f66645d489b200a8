"use client";

import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import Link from "next/link";

import type { Settings } from "@/contract/deeds";
import type { Advice } from "@/core/decide/advise";
import type { End } from "@/core/decide/ends";
import type { Flip } from "@/core/decide/flips";
import { placeName } from "@/core/profile/profile";
import type { DecideView, DecisionView } from "@/features/decide/view";
import {
  DISPOSITION_WORDS,
  FLIP_WORDS,
  SCHOOL_WORDS,
  SKIPPED_WORDS,
  whyWords,
} from "@/features/decide/words/text";
import { say } from "@/features/decide/words/words";
import type { UnitView } from "@/features/units/view";
import { dayAndTime, money } from "@/text/format";
import { placeWords } from "@/text/names";
import { FIGURES } from "@/ui/figures";
import { StateMark } from "@/ui/state/StateMark";
import { Terms } from "./Terms";
import { SIZE } from "@/ui/tokens";
import { Block, Notice, Row, Text, Words } from "@/ui/kit/layout";

/** What nobody tested: it is named, and the figures below hold only if it is sound. */
export function Untested({
  view,
  input,
  testFirst,
}: {
  view: UnitView;
  input: DecideView["input"];
  testFirst: boolean;
}) {
  const { untested } = input;
  if (untested.length === 0) return null;
  const things = [...view.profile.controls, ...view.profile.functions];
  const names = untested.map(({ place: id }) => placeName(things.find((t) => t.id === id) ?? { id }));
  const shown = names.slice(0, SHOWN_UNTESTED).join(", ");
  return (
    <Notice severity="warning" role="note" after={1.5} icon={<StateMark state="untested" />}>
      <b>{say("untestedThingsAreNotTested", { untested: untested.length })}:</b> {shown}
      {names.length > SHOWN_UNTESTED && say("andNamesMore", { names: names.length - SHOWN_UNTESTED })}.{" "}
      {testFirst ? "" : say("countedAsBadByItsOdds", { share: Math.round(input.hiddenBad * 100) })}
      <Link href={`/units/${view.unit.tag}/test`}>{say("testIt")}</Link>
    </Notice>
  );
}

const SHOWN_UNTESTED = 6;

/** Spent money and hours against what is still to be gained; it speaks up after each failed attempt. */
const goesOn = (e: Advice["ends"][number]) => e.disposition === "mend" || e.disposition === "hold";

export function StopLoss({ advice, decide, shop }: { advice: Advice; decide: DecideView; shop: Settings }) {
  const begun = decide.input.tried.length > 0 || decide.input.spent.minutes > 0;
  if (!begun || advice.places.every((p) => p.twin)) return null;
  const stop = advice.room <= 0;
  const goesNowhere = advice.ends.every((e) => !goesOn(e) || e.value === null);
  return (
    <Notice severity={stop ? "error" : "info"} role={stop ? "alert" : "status"} before={2}>
      {stop ? (
        <>
          <b>{say("stopTheLineIsCrossed")}</b>{" "}
          {goesNowhere
            ? say("nothingIsLeftToTry", {
                giveUp: money(Math.round(advice.giveUp), shop),
                sunk: money(advice.sunk, shop),
                minutes: decide.input.spent.minutes,
              })
            : say("goingOnBringsGiveUpOnAverage", {
                giveUp: money(Math.round(advice.giveUp + advice.room), shop),
                giveUp2: money(Math.round(advice.giveUp), shop),
                sunk: money(advice.sunk, shop),
                minutes: decide.input.spent.minutes,
              })}
        </>
      ) : (
        <>
          {say("goingOnIsWorthRoomMore", {
            room: money(Math.round(advice.room), shop),
            sunk: money(advice.sunk, shop),
            minutes: decide.input.spent.minutes,
          })}
        </>
      )}
    </Notice>
  );
}

export function Spent({
  advice,
  input,
  shop,
}: {
  advice: Advice | null;
  input: DecideView["input"];
  shop: Settings;
}) {
  const { purchase, parts, minutes } = input.spent;
  return (
    <Words size="small" before={1.5}>
      <b>{say("alreadySpentLeftOutOfThe")}</b>
      <div>
        {say("customerPartsPartsMinutesMinutes", {
          customer: input.customer
            ? say("aCustomersUnit")
            : say("boughtForPurchaseWithCarriage", { purchase: money(purchase, shop) }),
          parts: money(parts, shop),
          minutes,
        })}
        {advice && say("inAllSunk", { sunk: money(advice.sunk, shop) })}.
      </div>
      <div>
        {say("goingRatesNewNewMinorMended", {
          newMinor: money(input.market.newMinor, shop),
          aMinor: money(input.market.aMinor, shop),
          asFoundMinor: money(input.market.asFoundMinor, shop),
        })}
        {input.missing &&
          say("lessWhatIsMissing", {
            names: input.missing.names.join(", "),
            minor: money(input.missing.minor, shop),
          })}
      </div>
      {input.caps.length > 0 && !input.customer && (
        <div>
          <b>
            {say("soldAsGrade")} {["A", "B", "C"][Math.max(...input.caps.map((c) => c.cap))]} {say("atBest")}
          </b>{" "}
          {input.caps
            .map((c) =>
              c.what === "outside"
                ? say("theOutside")
                : say("whatMeasuredCap", { what: placeWords(c.what), cap: String(["A", "B", "C"][c.cap]) }),
            )
            .join(", ")}
          .
        </div>
      )}
      {input.customer && (
        <div>
          {say("ifItBreaksForGoodOn", {
            asFoundMinor: money(input.market.asFoundMinor, shop),
            limit:
              input.customer.limit === null
                ? say("noCostLimitWasGivenWhat")
                : say("theyPayAtMostLimit", { limit: money(input.customer.limit, shop) }),
          })}
        </div>
      )}
    </Words>
  );
}

export function Twins({ advice, shop }: { advice: Advice; shop: Settings }) {
  return (
    <Words size="small" before={1.5}>
      <b>{say("theLikePartWhileItIs")}</b>
      {advice.twins.map((t) => (
        <div key={t.place}>
          {say("placeNowNowLeftLaterOn", {
            place: t.place,
            now: money(Math.round(t.now), shop),
            later: money(Math.round(t.later), shop),
            chance: Math.round(t.chance * 100),
            now2: t.now < t.later ? say("doItNow") : say("leaveIt"),
          })}
        </div>
      ))}
    </Words>
  );
}

export function Ends({
  advice,
  input,
  shop,
}: {
  advice: Advice;
  input: DecideView["input"];
  shop: Settings;
}) {
  const cash = (x: number) => money(x, shop);
  const order = (e: End) => (e.value === null ? -Infinity : e.value);
  return (
    <Box component="section" aria-label={say("waysToEnd")}>
      <Text component="h2" variant="h2" after={0.5}>
        {say("eachWayFromHere")}
      </Text>
      {[...advice.ends]
        .sort((a, b) => order(b) - order(a))
        .map((e) => (
          <Box
            key={e.disposition}
            sx={{
              display: "grid",
              gridTemplateColumns: "104px minmax(0,1fr)",
              gap: 1.5,
              py: 0.6,
              borderTop: 1,
              borderColor: "divider",
            }}
          >
            <Box sx={{ textAlign: "right" }}>
              {e.value === null ? (
                <Words quiet>{say("notPossible")}</Words>
              ) : (
                <Terms terms={e.terms} total={e.value} shop={shop} label={DISPOSITION_WORDS[e.disposition]} />
              )}
            </Box>
            <Box>
              <b>{DISPOSITION_WORDS[e.disposition]}</b>
              {e.disposition === advice.best && (
                <Box component="span" sx={{ color: "pass.main", fontWeight: 700 }}>
                  {" "}
                  {say("best2")}
                </Box>
              )}
              <Words size="small" quiet>
                {whyWords(e.why, cash)}
                {e.spread &&
                  say("lossInLossOf100Minutes", {
                    loss: Math.round(e.spread.loss * 100),
                    minutes: Math.round(e.spread.minutes),
                  })}
              </Words>
            </Box>
          </Box>
        ))}
      {input.customer && (
        <Words size="small" before={0.5} quiet>
          {say("owedIfItBreaks", { owed: money(input.market.asFoundMinor, shop) })}
        </Words>
      )}
    </Box>
  );
}

/** Each school's own plan with its figure: what the disagreement costs. */
export function Schools({ advice, decide, shop }: { advice: Advice; decide: DecideView; shop: Settings }) {
  if (advice.schools.length === 0) return null;
  const top = Math.max(...advice.schools.map((s) => s.value), 1);
  return (
    <Box component="section" aria-label={say("schools")}>
      <Text component="h2" variant="h2" after={0.5}>
        {say("byOneSchoolAlone")}
      </Text>
      {advice.schools.map((s) => (
        <Box key={s.school} sx={{ py: 0.4 }}>
          <Row gap={1} oneLine spread>
            <span>
              <b>{SCHOOL_WORDS[s.school]}</b>
              <Words component="span" size="small" quiet>
                {s.first ? ` ${s.first}` : say("wouldNotBegin")}
              </Words>
            </span>
            <Box sx={{ fontFamily: FIGURES, fontWeight: 700, whiteSpace: "nowrap" }}>
              {money(Math.round(s.value), shop)}
              <Box component="span" sx={{ color: "text.secondary", fontWeight: 400 }}>
                {s.less > 0.5 ? ` −${money(Math.round(s.less), shop)}` : say("same")}
              </Box>
            </Box>
          </Row>
          <Box sx={{ height: 5, bgcolor: "divider", borderRadius: 1 }}>
            <Box
              sx={{
                height: 5,
                width: `${Math.max(0, Math.min(100, (s.value / top) * 100))}%`,
                bgcolor: "primary.main",
                borderRadius: 1,
              }}
            />
          </Box>
        </Box>
      ))}
      {decide.input.rules.length > 0 && (
        <Text size="small" color="text.secondary">
          {advice.policy
            ? say("theShopsRulesGivePolicy", { policy: money(Math.round(advice.policy.value), shop) })
            : say("noRuleOfTheShopFits")}
        </Text>
      )}
    </Box>
  );
}

function firstWords(f: Flip): string {
  if (f.looks) return say("aLookFirst");
  return f.firstRoute ? say("firstRouteFirst", { firstRoute: f.firstRoute.toLowerCase() }) : "";
}

export function Flips({ flips, shop }: { flips: Flip[] | null; shop: Settings }) {
  return (
    <Block component="section" aria-label={say("whatWouldChangeIt")} before={2}>
      <Text component="h2" variant="h2" after={0.5}>
        {say("whatWouldChangeIt")}
      </Text>
      {!flips && <Typography color="text.secondary">{say("looking")}</Typography>}
      {flips?.map((f) => {
        const value = (x: number) =>
          f.kind === "chance" ? `${Math.round(x * 100)} %` : money(Math.round(x), shop);
        return (
          <Box key={f.kind} sx={{ py: 0.3, fontSize: SIZE.body }}>
            {FLIP_WORDS[f.kind]} <b>{value(f.now)}</b>:{" "}
            {f.at === null
              ? say("nothingInReachChangesIt")
              : say("atAt2ItIsBecomesFirstRoute", {
                  at: f.at > f.now ? say("from") : say("downTo"),
                  at2: value(f.at),
                  becomes: f.becomes ? DISPOSITION_WORDS[f.becomes].toLowerCase() : "",
                  firstRoute: firstWords(f),
                })}
          </Box>
        );
      })}
    </Block>
  );
}

export function Skipped({ advice, decide }: { advice: Advice; decide: DecideView }) {
  if (advice.skipped.length === 0) return null;
  return (
    <Box component="details" sx={{ mt: 2, "& summary": { cursor: "pointer", fontWeight: 600 } }}>
      <summary>{say("skippedRoutesAreLeftOut", { skipped: advice.skipped.length })}</summary>
      {advice.skipped.map((s) => (
        <div key={`${s.route} ${s.place}`}>
          {decide.routeNames[s.route]}{" "}
          {say("atThePlaceWhy", { place: placeWords(s.place), why: SKIPPED_WORDS[s.why] })}
        </div>
      ))}
    </Box>
  );
}

export function Past({
  decisions,
  names,
  shop,
}: {
  decisions: DecisionView[];
  names: Record<string, string>;
  shop: Settings;
}) {
  if (decisions.length === 0) return null;
  return (
    <Block component="section" aria-label={say("decisions")} before={3}>
      <Typography component="h2" variant="h2">
        {say("decidedSoFar")}
      </Typography>
      {decisions.map((d) => (
        <Box key={d.id} sx={{ py: 0.8, borderTop: 1, borderColor: "divider" }}>
          <b>{DISPOSITION_WORDS[d.disposition]}</b>
          {d.route && say("routeFirst", { route: names[d.route] ?? d.route })}
          {d.forecast &&
            say("forecastExpectedMarginInAll", {
              forecast: money(d.forecast.value, shop),
              margin: money(d.forecast.margin, shop),
            })}
          {d.why && say("whyOfDecision", { why: d.why })}
          <Words size="small" quiet>
            {say("byAtAdvisedWasBest", {
              by: d.by,
              at: dayAndTime(d.at, shop),
              best: DISPOSITION_WORDS[d.advised.best].toLowerCase(),
            })}
            {d.advised.first && say("firstFirst", { first: names[d.advised.first] ?? d.advised.first })}{" "}
            {say("atAdvised", { advised: money(d.advised.value, shop) })}
            {d.advised.policy && say("theRulesGavePolicy", { policy: money(d.advised.policy.value, shop) })}.
          </Words>
        </Box>
      ))}
    </Block>
  );
}
