import type { Fact } from "@/core/case/facts";
import { factWords } from "./facts";

/** Each fact says in a line what it is, and no code of the program stands in it. */

const common = { id: "x", at: "2026-11-02T10:00:00.000Z", who: "ida" };
const NAMES: Record<string, string> = { "stick.left": "left stick", "y.joint": "y joint", "tp.leg": "y leg" };
const nameOf = (id: string) => NAMES[id] ?? id;
const said = (f: Omit<Fact, keyof typeof common>) =>
  factWords({ ...common, ...f } as Fact, nameOf, new Set(["stick.left"]));

test.each<[Omit<Fact, keyof typeof common>, string]>([
  [{ kind: "told", by: "seller", words: "drifts" } as never, "“drifts”, by the seller"],
  [{ kind: "history", what: "fall", doubt: 0.3 } as never, "History: a fall, read out of words"],
  [{ kind: "history", what: "opened", doubt: 0 } as never, "History: opened"],
  [
    { kind: "intake", rattle: "metal", smell: 0, grime: 2, missing: ["cord"], marks: [] } as never,
    "At the door: rattles, metal and grime 2 of 3 and 1 thing missing",
  ],
  [
    { kind: "intake", rattle: "none", smell: 0, grime: 0, missing: [], marks: [] } as never,
    "At the door: nothing to note",
  ],
  [
    {
      kind: "reading",
      reading: "resistance",
      place: "stick.left",
      side: "y",
      verdict: "fail",
      values: {},
    } as never,
    "Read at the bench: resistance left stick y, fail",
  ],
  [
    {
      kind: "reading",
      reading: "supply",
      place: "main",
      side: null,
      verdict: "doubtful",
      values: {},
    } as never,
    "Read at the bench: supply, doubtful",
  ],
  [
    { kind: "reading", reading: "point", place: "tp.leg", side: null, verdict: "pass", values: {} } as never,
    "Read at y leg: pass",
  ],
  [
    {
      kind: "function",
      place: "stick.left",
      outcome: "fail",
      pattern: null,
      hand: "named",
      words: "worn box",
    } as never,
    "Named by hand: left stick, worn box",
  ],
  [
    {
      kind: "function",
      place: "radio",
      outcome: "intermittent",
      pattern: null,
      hand: null,
      words: "",
    } as never,
    "radio: comes and goes",
  ],
  [
    { kind: "piece", number: 2, material: "a clip", fits: "unknown" } as never,
    "Loose piece 2, a clip: fits nothing so far",
  ],
  [
    { kind: "piece", number: 2, material: "a clip", fits: "y.joint" } as never,
    "Loose piece 2, a clip: from y joint",
  ],
  [
    { kind: "tried", act: "reheat", places: ["y.joint"], number: 1, outcome: "cured", share: 0.4 } as never,
    "Try 1, reheat y joint: cured, earned 40 %",
  ],
  [
    { kind: "tried", act: "reheat", places: ["y.joint"], number: 1, outcome: null, share: null } as never,
    "Try 1, reheat y joint: no result yet",
  ],
  [
    {
      kind: "tried",
      act: "search",
      places: ["y.joint"],
      number: null,
      outcome: "found",
      share: null,
    } as never,
    "The search by halves came down to: y joint",
  ],
  [
    {
      kind: "mended",
      words: "Fresh solder",
      how: "resoldered",
      places: ["y.joint"],
      fitted: null,
      number: 1,
    } as never,
    "Fresh solder (resoldered: y joint)",
  ],
  [
    { kind: "mended", words: "", how: "calibrated", places: [], fitted: null, place: "stick.left" } as never,
    "Calibrated: left stick",
  ],
  [
    { kind: "mended", words: "back half", how: "cleaned", places: [], fitted: null, number: null } as never,
    "Cleaned: back half",
  ],
  [{ kind: "decided", act: "mend", why: "" } as never, "Decided: Mend"],
])("%o", (fact, words) => {
  expect(said(fact)).toBe(words);
});
