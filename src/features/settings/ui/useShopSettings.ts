"use client";

import { readAmount, typedAmount } from "@/text/format";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import type { Limits } from "@/core/grade/limits";
import type { Rates } from "@/core/money/rates";
import type { Risk } from "@/core/parts/sampling";
import type { ProveRules } from "@/core/prove/proof";
import { say } from "@/features/people/words/words";
import { useDeed } from "@/ui/deed/useDeed";
import { readFigure } from "@/ui/fields/NumberField";

export const WORDS: [keyof Settings & ("shopName" | "town" | "currency" | "locale" | "timeZone"), string][] =
  [
    ["shopName", say("shop")],
    ["town", say("town")],
    ["currency", say("currency")],
    ["locale", say("languageAndCountry")],
    ["timeZone", say("timeZone")],
  ];

export const NUMBERS: [
  keyof Settings & ("warrantyDays" | "labelWidthMm" | "labelHeightMm" | "idleHours"),
  string,
][] = [
  ["warrantyDays", say("warrantyDays")],
  ["idleHours", say("signedOutWhenIdleForHours")],
  ["labelWidthMm", say("labelWidthMm")],
  ["labelHeightMm", say("labelHeightMm")],
];

export const THREE = {
  display: "grid",
  gridTemplateColumns: "repeat(auto-fill, minmax(min(100%, 380px), 1fr))",
  gap: 1.5,
};

type Texts = Record<string, string>;

const limitTexts = (l: Limits): Texts =>
  Object.fromEntries(
    (["stick", "trigger"] as const).flatMap((kind) =>
      Object.entries(l[kind]).flatMap(([m, ladder]) =>
        (["A", "B", "C"] as const).map((g) => [
          `${kind}.${m}.${g}`,
          String(Math.round(ladder[g] * 10_000) / 100),
        ]),
      ),
    ),
  );

/** Limits that are one figure each: the sequential test of presses, and what the bench measures. */
export const SINGLES: [group: "button" | "bench", key: string, label: string, unit: string, times: number][] =
  [
    ["button", "goodRate", say("aGoodButtonMissesAtMost"), "%", 100],
    ["button", "badRate", say("aBadOneMissesAtLeast"), "%", 100],
    ["button", "error", say("chanceOfErrorEitherWay"), "%", 100],
    ["bench", "startShareOfNominal", say("openVoltageAtLeastOfNominal"), "%", 100],
    ["bench", "internalOhmsPerCell", say("internalResistanceAtMostACell"), "Ω", 1],
    ["bench", "capacityShare", say("capacityAtLeastOfRated"), "%", 100],
    ["bench", "leakMillivoltsPerDay", say("leakAtMostACell"), say("mVADay"), 1],
    ["bench", "dropoutMs", say("aGapCountsAsADropout"), "ms", 1],
    ["bench", "radioMetres", say("radioReachAtLeast"), "m", 1],
    ["bench", "secondsPerPlace", say("flexOrPushEachPlaceFor"), "s", 1],
    ["bench", "latchSlipRate", say("latchSlipRateRuledOut"), "%", 100],
    ["bench", "phraseOverFloorDb", say("phraseOverTheNoiseFloor"), "dB", 1],
    ["bench", "rubOverFloorDb", say("rubOverTheNoiseFloor"), "dB", 1],
    ["bench", "belowReferenceDb", say("quieterThanTheReferenceByAt"), "dB", 1],
    ["bench", "toneOverSilenceDb", say("toneOverSilence"), "dB", 1],
    ["bench", "triggerDragGrams", say("poweredTriggerAtLeast"), "g", 1],
    ["bench", "triggerDragDifference", say("leftAndRightDifferAtMost"), "%", 100],
    ["bench", "sensorGain", say("offsetFromASensorsImbalance"), "", 1],
    ["bench", "trackTolerance", say("sensorTotalOffNominalAtMost"), "%", 100],
  ];

const singleTexts = (l: Limits): Texts =>
  Object.fromEntries(
    SINGLES.map(([group, key, , , times]) => [
      `${group}.${key}`,
      String(Math.round((l[group] as Record<string, number>)[key]! * times * 100) / 100),
    ]),
  );

/**
 * Money and time of the trade: the label, what it is typed in, and how often the stored figure goes into
 * that.
 */
export const RATES: [key: Exclude<keyof Rates, "tax">, label: string, unit: string, times: number][] = [
  ["labourPerHour", say("anHourAtTheBench"), "money", 0.01],
  ["feeShare", say("sellingFeeShareOfThePrice"), "%", 100],
  ["feeFixed", say("sellingFeeFixed"), "money", 0.01],
  ["carriageOut", say("carriageToTheBuyer"), "money", 0.01],
  ["returnCarriage", say("carriageOfAReturnBothWays"), "money", 0.01],
  ["returnMinutes", say("minutesOfAReturn"), "min", 1],
  ["returnBase", say("returnsForNoFaultOfThe"), "%", 100],
  ["twinReturn", say("likePartWearsOutWithinThe"), "%", 100],
  ["shelfPerDay", say("aDayOnTheShelf"), "money", 0.01],
  ["retestMinutes", say("aRetest"), "min", 1],
  ["stripHours", say("strippingAUnit"), "h", 1],
  ["partsYield", say("partsValueThatStrippingReally"), "%", 100],
  ["taxRate", say("taxRate"), "%", 100],
  ["priceSpread", say("aSalePriceVariesBy"), "%", 100],
  ["skill", say("hardestRouteDoneHere1To"), "", 1],
  ["claimDays", say("aSellerCanBeAskedFor"), "days", 1],
];

const rateTexts = (r: Rates): Texts =>
  Object.fromEntries(
    RATES.map(([k, , unit, times]) => [
      k,
      unit === "money" ? typedAmount(Math.round(r[k])) : String(Math.round(r[k] * times * 100) / 100),
    ]),
  );

export const TAXES: Record<Rates["tax"], string> = {
  none: say("notRegistered"),
  full: say("onTheWholePrice"),
  margin: say("onPriceLessPurchase"),
};

export const RISKS: [key: keyof Risk, label: string][] = [
  ["goodShare", say("badPiecesThatAreGoodEnough")],
  ["refuseGood", say("riskOfRefusingSuchABatch")],
  ["badShare", say("badPiecesThatAreTooMany")],
  ["takeBad", say("riskOfTakingSuchABatch")],
];

export const PROVES: [key: Exclude<keyof ProveRules, "otherHand">, label: string, times: number][] = [
  ["secondTestDays", say("secondTestAfterAnUnsureMend"), 1],
  ["storageFrom", say("chargeForStorageAtLeast"), 100],
  ["storageTo", say("chargeForStorageAtMost"), 100],
  ["referenceHours", say("aReferenceUnitVouchesForHours"), 1],
  ["releaseRisk", say("chanceOfABadButtonAtMost"), 100],
  ["partWarrantyDays", say("warrantyOnNewPartsFittedDays"), 1],
  ["usedPartWarrantyDays", say("warrantyOnUsedPartsFittedDays"), 1],
];

export type ShopSettingsProps = { settings: Settings; version: number };

const plain = (value: number, times: number) => String(Math.round(value * times * 100) / 100);

/** Every figure of the settings as the text that stands in its field. */
const textsOf = (settings: Settings) => ({
  numbers: Object.fromEntries(NUMBERS.map(([k]) => [k, String(settings[k])])) as Texts,
  limits: limitTexts(settings.limits),
  singles: singleTexts(settings.limits),
  rates: rateTexts(settings.rates),
  risks: Object.fromEntries(RISKS.map(([k]) => [k, plain(settings.risk[k], 100)])) as Texts,
  proves: Object.fromEntries(PROVES.map(([k, , times]) => [k, plain(settings.prove[k], times)])) as Texts,
});
type SettingTexts = ReturnType<typeof textsOf>;

const number = (t: string) => readFigure(t)!;
/** A typed figure in the settings' own measure, to four places. */
const inMeasure = (t: string, times: number) => Math.round((number(t) / times) * 1e4) / 1e4;

const kindLimits = ({ limits }: SettingTexts, had: Limits, kind: "stick" | "trigger") =>
  Object.fromEntries(
    Object.keys(had[kind]).map((m) => [
      m,
      Object.fromEntries(
        (["A", "B", "C"] as const).map((g) => [g, inMeasure(limits[`${kind}.${m}.${g}`]!, 100)]),
      ),
    ]),
  );
const singleLimits = ({ singles }: SettingTexts, wanted: "button" | "bench") =>
  Object.fromEntries(
    SINGLES.filter(([group]) => group === wanted).map(([group, key, , , times]) => [
      key,
      Math.round((number(singles[`${group}.${key}`]!) / times) * 1e6) / 1e6,
    ]),
  );

/** The settings that the fields say. */
const settingsOf = (v: Settings, texts: SettingTexts): Settings => ({
  ...v,
  ...(Object.fromEntries(NUMBERS.map(([k]) => [k, number(texts.numbers[k]!)])) as Pick<
    Settings,
    "warrantyDays" | "labelWidthMm" | "labelHeightMm" | "idleHours"
  >),
  rates: {
    tax: v.rates.tax,
    ...Object.fromEntries(
      RATES.map(([k, , unit, times]) => [
        k,
        unit === "money" ? (readAmount(texts.rates[k]!) ?? NaN) : inMeasure(texts.rates[k]!, times),
      ]),
    ),
  } as Rates,
  risk: Object.fromEntries(RISKS.map(([k]) => [k, inMeasure(texts.risks[k]!, 100)])) as Risk,
  prove: {
    otherHand: v.prove.otherHand,
    ...Object.fromEntries(PROVES.map(([k, , times]) => [k, inMeasure(texts.proves[k]!, times)])),
  } as ProveRules,
  limits: {
    stick: kindLimits(texts, v.limits, "stick"),
    trigger: kindLimits(texts, v.limits, "trigger"),
    button: singleLimits(texts, "button"),
    bench: singleLimits(texts, "bench"),
  } as Limits,
});

/** What ShopSettings knows and does; the components below only show it. */
export function useShopSettings({ settings, version }: ShopSettingsProps) {
  const deed = useDeed("settings.save");
  const [v, setV] = useState(settings);
  const [texts, setTexts] = useState(() => textsOf(settings));
  const [saved, setSaved] = useState(false);
  const set = (group: keyof SettingTexts) => (next: Texts) => setTexts((had) => ({ ...had, [group]: next }));
  const amounts = new Set<string>(RATES.filter(([, , unit]) => unit === "money").map(([k]) => k));
  const bad = Object.entries(texts)
    .flatMap(([group, of]) => Object.entries(of).map(([k, t]) => [k, t, group] as const))
    .find(([k, t, group]) => {
      const read = group === "rates" && amounts.has(k) ? readAmount : readFigure;
      return (read(t) ?? -1) < 0;
    });
  const save = async () => {
    if (bad) return;
    const done = await deed.run({ version, settings: settingsOf(v, texts) });
    setSaved(done?.ok === true);
  };
  return {
    ...{ settings, deed, v, setV, saved, bad, save },
    ...texts,
    setNumbers: set("numbers"),
    setLimits: set("limits"),
    setSingles: set("singles"),
    setRates: set("rates"),
    setRisks: set("risks"),
    setProves: set("proves"),
  };
}

export type ShopSettingsState = ReturnType<typeof useShopSettings>;
