import { readFileSync } from "node:fs";

import { readLog } from "./bench/log-csv";
import { namedControls, rimFromClaim } from "./claim/claim";
import { readClaim, readLexicon } from "./claim/lexicon";
import { readListing } from "./decide/buying";
import { readRoutes } from "./decide/routes";
import { readNumber } from "./instrument/scpi";
import { parseAmount } from "./money/money";
import { readCatalogue } from "./parts/catalogue";
import { readOffersCsv, readPartsCsv, readStockCsv } from "./parts/csv";
import { STANDARD_MAP } from "./input/input";
import { profileSchema } from "./profile/profile";
import { triggersOf } from "./prove/proof";
import { readRecordingCsv } from "./recording/csv";

/** No reader of what comes from outside takes long for a text that somebody made to stop it. */

const N = 200_000;
const TEXTS: Record<string, string> = {
  "digits and a letter": `${"7".repeat(N)}x`,
  "a cell of digits in a recording": `t_ms,step,a0\n0,rest,${"7".repeat(N)}x\n`,
  "a cell of digits in a log": `minutes,milliamps\n0,${"7".repeat(N)}x\n`,
  "blanks and a letter": `${" ".repeat(N)}x`,
  "a cell of blanks in a recording": `t_ms,step,a0\n0,rest,${" ".repeat(N)}x\n`,
  points: ".".repeat(N),
  signs: "+-".repeat(N / 2),
  commas: ",".repeat(N),
  "line ends": "\n".repeat(N),
  "the same column again and again": `${"code,".repeat(N / 5)}\n1`,
  "the same column of a recording": `t_ms,step,${"a0,".repeat(N / 3)}\n0,rest`,
  quotes: '"'.repeat(N + 1),
  "a quote that never closes": `t_ms,step\n0,"${"rest\n4,".repeat(N / 7)}`,
  "quoted cells, one after the other": '"a" ,'.repeat(N / 5),
  "words without an end": "left stick drifts ".repeat(N / 18),
  "one word": "drift".repeat(N / 5),
  hyphens: "a-".repeat(N / 2),
  "equals signs": "=".repeat(N),
  brackets: "[".repeat(N),
};
const profile = profileSchema.parse(JSON.parse(readFileSync("profiles/dunlin.json", "utf8")));
const named = profile.controls.map((c) => ({ id: c.id, kind: c.kind, name: c.id.replaceAll(".", " ") }));
const house = readCatalogue(readFileSync("catalogue/house.json", "utf8"));
if (!house.ok) throw new Error("the house's own catalogue cannot be read");
const catalogue = house.value;

const READERS: Record<string, (text: string) => unknown> = {
  recording: (t) => readRecordingCsv(t, STANDARD_MAP, 1_000_000),
  log: (t) => readLog(t, ["minutes", "milliamps", "volts"]),
  instrument: readNumber,
  amount: parseAmount,
  parts: (t) => readPartsCsv(t, catalogue),
  offers: (t) => readOffersCsv(t, catalogue),
  stock: (t) => readStockCsv(t, catalogue, []),
  catalogue: readCatalogue,
  routes: readRoutes,
  lexicon: readLexicon,
  "a claim": (t) => [readClaim(t, named), rimFromClaim(t, named), namedControls(t, named)],
  "a listing": (t) => readListing(t, profile),
  "what brings a fault out": triggersOf,
};

describe.each(Object.entries(READERS))("%s", (_name, read) => {
  test.each(Object.entries(TEXTS))("%s", (_text, text) => {
    const began = performance.now();
    read(text);
    expect(performance.now() - began).toBeLessThan(1500);
  });
});

test("rows of one offer, five thousand times", () => {
  const row = `${catalogue.suppliers[0]!.id},${catalogue.parts[0]!.code},1,1,2.00,3\n`;
  const began = performance.now();
  readOffersCsv(`supplier,part,pack,packs_from,price,lead_days\n${row.repeat(5000)}`, catalogue);
  expect(performance.now() - began).toBeLessThan(1500);
});
