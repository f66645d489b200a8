import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { Settings } from "@/contract/deeds";
import { type Prospect, lossAt } from "@/core/decide/buying";
import { say } from "@/features/buying/words/words";
import { FAMILY_WORDS, MAKE_WORDS, RISK_WORDS } from "@/features/decide/words/text";
import { OUTCOME_WORDS } from "@/features/find/words/text";
import { BigFigure } from "@/features/units/ui/unit/Station";
import { money } from "@/text/format";
import { oneOf } from "@/text/lists";
import { placeWords } from "@/text/names";
import type { BidState } from "./useBid";
import { Row, Text, Words } from "@/ui/kit/layout";

/** What a listing is worth: the highest bid, why, and what to do before it lands. */

export function BidFigures({
  best,
  shop,
  priceMinor,
  prospect,
  carriageMinor,
}: BidState & { carriageMinor: NonNullable<BidState["carriageMinor"]> } & {
  prospect: NonNullable<BidState["prospect"]>;
} & { best: NonNullable<BidState["best"]> }) {
  return (
    <Row gap={4}>
      <BigFigure
        value={best.bid === null ? say("noBid") : money(best.bid, shop)}
        label={say("bidAtMost")}
        detail={best.binds === "margin" ? say("theWishedMarginBinds") : say("theChanceOfLossBinds")}
        colour={
          best.bid === null || (priceMinor !== null && priceMinor > best.bid) ? "fail.main" : "pass.main"
        }
      />
      <BigFigure
        value={money(Math.round(prospect.worth), shop)}
        label={say("expectedWorth")}
        detail={say("beforePriceAndCarriage")}
      />
      {priceMinor !== null && (
        <BigFigure
          value={money(Math.round(prospect.worth - priceMinor - carriageMinor), shop)}
          label={say("marginAtThePriceAsked")}
          detail={say("priceMinorLandedLossInProspect", {
            priceMinor: money(priceMinor + carriageMinor, shop),
            prospect: Math.round(lossAt(prospect, priceMinor + carriageMinor) * 100),
          })}
        />
      )}
    </Row>
  );
}

export function WhyThisBid({ value, base, shop }: BidState & { value: NonNullable<BidState["value"]> }) {
  return (
    <Text before={1}>
      {say("theListing")} <b>{RISK_WORDS[value.reading.risk]}</b>
      {value.reading.contradicts && say("andContradictsItself")}
      {say("complaintsGoingRatesNewNewMinor", {
        complaints: value.reading.complaints.length
          ? say("readFromItComplaints", {
              complaints: value.reading.complaints
                .map(
                  (c) =>
                    `“${c.words}”, ${c.places.length ? oneOf(c.places.map(placeWords)) : say("noPlaceSaid")}: ${OUTCOME_WORDS[c.outcome]}`,
                )
                .join("; "),
            })
          : say("noSymptomWasReadFromIt"),
        newMinor: money(base!.base.market.newMinor, shop),
        aMinor: money(base!.base.market.aMinor, shop),
        asFoundMinor: money(base!.base.market.asFoundMinor, shop),
      })}
    </Text>
  );
}

export function BeforeItLands({
  prospect,
  shop,
}: BidState & { prospect: NonNullable<BidState["prospect"]> }) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: { sm: "1fr 1fr" }, gap: 3, mt: 1 }}>
      <Scenarios prospect={prospect} shop={shop} />
      <Box>
        <Typography component="h2" variant="h2">
          {say("checkBeforeItLands")}
        </Typography>
        {prospect.parts.length === 0 && (
          <Typography color="text.secondary">{say("noPartIsLikelyToBe")}</Typography>
        )}
        {prospect.parts.map((p) => (
          <div key={`${p.name} ${p.make}`}>
            {say("nameMakePriceMinorLeadDaysNeeded", {
              name: p.name,
              make: MAKE_WORDS[p.make as keyof typeof MAKE_WORDS],
              priceMinor: money(p.priceMinor, shop),
              leadDays: p.leadDays ? say("leadDaysDays", { leadDays: p.leadDays }) : say("usuallyHere"),
              chance: Math.round(p.chance * 100),
            })}
          </div>
        ))}
        <Text component="h2" variant="h2" before={2}>
          {say("whatMayBeWrong")}
        </Text>
        {prospect.suspected.slice(0, 6).map((s) => {
          const sourceOf = () => {
            if (s.claimed) return say("said");
            if (s.cases) return say("casesTestedHere", { cases: s.cases });
            return say("housesGuess");
          };
          return (
            <div key={s.place}>
              {Math.round(s.chance * 100)} % {s.name}, {FAMILY_WORDS[s.family]}
              {sourceOf()}
            </div>
          );
        })}
      </Box>
    </Box>
  );
}

function Scenarios({ prospect, shop }: { prospect: Prospect; shop: Settings }) {
  return (
    <Box>
      <Typography component="h2" variant="h2">
        {say("whatItMayTurnOutTo")}
      </Typography>
      {prospect.scenarios.slice(0, 7).map((s, i) => (
        <Box key={i} sx={{ py: 0.3, borderTop: 1, borderColor: "divider" }}>
          <b>{Math.round(s.chance * 100)} %</b>{" "}
          {s.faults.length ? s.faults.map((f) => f.name).join(", ") : say("nothingWrong")}:{" "}
          {money(Math.round(s.value), shop)}
          {s.first && (
            <Words component="span" quiet>
              {say("firstFirst", { first: s.first.toLowerCase() })}
            </Words>
          )}
        </Box>
      ))}
      <Text color="text.secondary" size="small">
        {say("scenariosSetsOfFaultsWorked", {
          scenarios: prospect.scenarios.length,
          covered: Math.round(prospect.covered * 100),
        })}
      </Text>
    </Box>
  );
}
