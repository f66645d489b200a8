"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useRouter } from "next/navigation";
import { useDeferredValue, useState } from "react";

import { decider } from "@/browser/decide";
import type { Settings } from "@/contract/deeds";
import { bidCurve, highestBid, lossAt, type Prospect } from "@/core/decide/buying";
import { parseAmount, parseOptional } from "@/core/money/money";
import type { BuyingView } from "@/features/buying/view";
import { FAMILY_WORDS, MAKE_WORDS, RISK_WORDS } from "@/features/decide/words/text";
import { OUTCOME_WORDS } from "@/features/find/words/text";
import { money, typedAmount } from "@/text/format";
import { placeWords } from "@/text/names";
import { BidPlot } from "@/ui/charts/money";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { useAsked } from "@/features/decide/ui/useAsked";
import { readFigure } from "@/ui/fields/NumberField";
import { BigFigure } from "@/features/units/ui/unit/Station";
import type { BaseOf } from "./base";
import { say } from "@/features/buying/words/words";
import { BoundField } from "@/ui/form/BoundField";
import { oneOf } from "@/text/lists";
import { SIZE } from "@/ui/tokens";

type Props = {
  view: BuyingView;
  modelKey: string;
  base: BaseOf;
  shop: Settings;
  canWork: boolean;
  wish: { margin: number; loss: number };
};

/** What Bid knows and does; the components below only show it. */
function useBid({ view, modelKey, base, shop, canWork, wish }: Props) {
  const router = useRouter();
  const keep = useDeed("listing.keep");
  const [words, setWords] = useState("");
  const [seller, setSeller] = useState("");
  const [price, setPrice] = useState("");
  const [carriage, setCarriage] = useState("4.50");
  const [margin, setMargin] = useState(typedAmount(wish.margin));
  const [loss, setLoss] = useState(String(Math.round(wish.loss * 100)));
  const asked = useDeferredValue(words);
  const { value, fresh } = useAsked(base ? `${modelKey} ${asked}` : null, () =>
    decider().listing({ ...base!, words: asked }),
  );
  const prospect = value?.prospect ?? null;
  const carriageMinor = parseOptional(carriage);
  const priceMinor = price.trim() === "" ? null : parseAmount(price);
  const marginMinor = parseAmount(margin);
  const lossShare = readFigure(loss);
  const ready = prospect && carriageMinor !== null && marginMinor !== null && lossShare !== null;
  const best = ready ? highestBid(prospect, carriageMinor, marginMinor, lossShare / 100) : null;
  const save = (status: "watched" | "bought" | "passed") =>
    keep
      .run({
        profileKey: modelKey,
        words,
        seller,
        priceMinor: priceMinor ?? 0,
        carriageMinor: carriageMinor ?? 0,
        status,
      })
      .then((r) => {
        if (!r?.ok) return;
        setWords("");
        setPrice("");
      });
  return {
    view,
    modelKey,
    base,
    shop,
    canWork,
    router,
    keep,
    words,
    setWords,
    seller,
    setSeller,
    price,
    setPrice,
    carriage,
    setCarriage,
    margin,
    setMargin,
    loss,
    setLoss,
    value,
    fresh,
    prospect,
    carriageMinor,
    priceMinor,
    lossShare,
    ready,
    best,
    save,
  };
}
type BidState = ReturnType<typeof useBid>;

/** A listing's words become symptoms, a risk, and the highest bid. */
export function Bid(props: Props) {
  const s = useBid(props);
  const { base, shop, value, fresh, prospect, carriageMinor, ready, best } = s;

  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(300px, 1fr) minmax(0, 1.7fr)" },
        gap: 3,
      }}
    >
      <ListingFields {...s} />
      <Box
        component="section"
        aria-label={say("whatToBid")}
        sx={{ minWidth: 0 }}
        aria-live="polite"
        aria-busy={!fresh}
      >
        {!ready || !value || !best || !prospect || carriageMinor === null ? (
          <Typography color="text.secondary">
            {base ? say("workingItOut") : say("thisModelIsNotKnownChoose")}
          </Typography>
        ) : (
          <Box sx={{ opacity: fresh ? 1 : 0.5 }}>
            <BidFigures {...s} carriageMinor={carriageMinor} prospect={prospect} best={best} />
            <WhyThisBid {...s} value={value} />
            <BidPlot
              points={bidCurve(prospect, carriageMinor, Math.max(500, Math.round(prospect.worth * 1.3)))}
              bid={best.bid}
              format={(x) => money(Math.round(x), shop)}
            />
            <BeforeItLands {...s} prospect={prospect} />
          </Box>
        )}
      </Box>
    </Box>
  );
}

function ListingFields({
  modelKey,
  router,
  view,
  words,
  setWords,
  seller,
  setSeller,
  shop,
  price,
  setPrice,
  carriage,
  setCarriage,
  margin,
  setMargin,
  loss,
  lossShare,
  setLoss,
  canWork,
  keep,
  save,
}: BidState) {
  return (
    <Box sx={{ display: "grid", gap: 1.5, alignContent: "start" }}>
      <TextField
        select
        label={say("model")}
        value={modelKey}
        onChange={(e) => router.push(`/buying?model=${e.target.value}`)}
      >
        {view.models.map((m) => (
          <MenuItem key={m.key} value={m.key}>
            {m.name}
          </MenuItem>
        ))}
      </TextField>
      <BoundField
        deed="listing.keep"
        name="words"
        label={say("theListingsWords")}
        multiline
        minRows={3}
        maxRows={8}
        value={words}
        onChange={setWords}
        helperText={say("pasteThemAsTheyAreEmpty")}
      />
      <BoundField
        deed="listing.keep"
        name="seller"
        label={say("seller")}
        value={seller}
        onChange={setSeller}
      />
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: "repeat(auto-fill, minmax(min(100%, 230px), 1fr))",
          gap: 1.5,
        }}
      >
        <Amount
          label={say("priceAskedCurrency", { currency: shop.currency })}
          value={price}
          onChange={setPrice}
          optional
        />
        <Amount label={say("carriage")} value={carriage} onChange={setCarriage} optional />
        <Amount label={say("wishedMargin")} value={margin} onChange={setMargin} />
        <TextField
          label={say("acceptedChanceOfLoss")}
          value={loss}
          error={lossShare === null}
          onChange={(e) => setLoss(e.target.value)}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
        />
      </Box>
      {canWork && (
        <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
          <Button variant="contained" disabled={!words.trim() || keep.running} onClick={() => save("bought")}>
            {say("bought")}
          </Button>
          <Button variant="outlined" disabled={!words.trim() || keep.running} onClick={() => save("watched")}>
            {say("watchIt")}
          </Button>
          <Button disabled={!words.trim() || keep.running} onClick={() => save("passed")}>
            {say("letItPass")}
          </Button>
        </Box>
      )}
      <Problem problem={keep.problem} />
    </Box>
  );
}

function BidFigures({
  best,
  shop,
  priceMinor,
  prospect,
  carriageMinor,
}: BidState & { carriageMinor: NonNullable<BidState["carriageMinor"]> } & {
  prospect: NonNullable<BidState["prospect"]>;
} & { best: NonNullable<BidState["best"]> }) {
  return (
    <Box sx={{ display: "flex", gap: 4, flexWrap: "wrap" }}>
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
    </Box>
  );
}

function WhyThisBid({ value, base, shop }: BidState & { value: NonNullable<BidState["value"]> }) {
  return (
    <Typography sx={{ mt: 1 }}>
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
    </Typography>
  );
}

function BeforeItLands({ prospect, shop }: BidState & { prospect: NonNullable<BidState["prospect"]> }) {
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
        <Typography component="h2" variant="h2" sx={{ mt: 2 }}>
          {say("whatMayBeWrong")}
        </Typography>
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
            <Box component="span" sx={{ color: "text.secondary" }}>
              {say("firstFirst", { first: s.first.toLowerCase() })}
            </Box>
          )}
        </Box>
      ))}
      <Typography color="text.secondary" sx={{ fontSize: SIZE.small }}>
        {say("scenariosSetsOfFaultsWorked", {
          scenarios: prospect.scenarios.length,
          covered: Math.round(prospect.covered * 100),
        })}
      </Typography>
    </Box>
  );
}

/** An amount of money as a person types it; what is no amount is said at the field. */
export function Amount({
  label,
  value,
  onChange,
  optional = false,
}: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  optional?: boolean;
}) {
  const bad = !(optional && value.trim() === "") && parseAmount(value) === null;
  return (
    <TextField
      label={label}
      value={value}
      error={bad}
      helperText={bad ? say("anAmountSuchAs1250") : undefined}
      onChange={(e) => onChange(e.target.value)}
      slotProps={{ htmlInput: { inputMode: "decimal", autoComplete: "off" } }}
    />
  );
}
