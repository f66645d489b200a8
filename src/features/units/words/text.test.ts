import { EVENTS, isUnitEvent } from "@/contract/events";
import { eventDetail, itemWords } from "./text";

/** The record is read by people: no id of the program, no data as it is stored. */

test.each<[string, Record<string, unknown>, string]>([
  ["function-checked", { functionId: "motor.heavy", result: "not-tested" }, "motor heavy: not tested"],
  [
    "fault-named",
    { number: 2, place: "stick.left.click", kind: "returnSpread" },
    "2. left stick click: return spread",
  ],
  ["work-step", { kind: "in", item: "fastener:r.rail" }, "in its place again: fastener right rail"],
  ["work-step", { kind: "apart", step: "upper.board" }, "apart: upper board"],
  ["work-step", { kind: "task", task: "clean:shell.upper" }, "done: clean shell upper"],
  [
    "work-step",
    { kind: "explained", item: "clip:edge.right", fate: "missing-before", why: "torn" },
    "clip edge right: missing before, torn",
  ],
  ["tray", { tray: null }, "off the bench"],
  [
    "recording-stored",
    { recording: "x", purpose: "full", source: "simulated", grade: "fail" },
    "full test, simulated controller, fail",
  ],
  ["proof-answered", { key: "trigger.tug", result: "cannot" }, "trigger: tugs: cannot be done"],
  ["intake-changed", { was: { claim: "drifts", intake: { v: 1 } } }, "claim was “drifts”"],
  ["marks-settled", { marks: ["label-glue"], gone: null }, "label glue, still there"],
  ["cover-given-up", { by: "Una Fell, by telephone" }, "Una Fell, by telephone"],
  ["decided", { disposition: "sell-as-it-is", route: null, why: "" }, "Sell as it is"],
  ["due-set", { dueOn: null }, "due none"],
  [
    "unit-handed-over",
    { kind: "sold", channel: "online market", handedOn: "2026-11-17" },
    "sold, online market, 2026-11-17",
  ],
  ["unit-handed-over", { kind: "returned", channel: "", handedOn: "2026-11-17" }, "handed back, 2026-11-17"],
  [
    "unit-came-back",
    { mend: 1, words: "wanders again", inWarranty: true },
    "“wanders again”, points to mend 1, within the warranty",
  ],
  ["unit-came-back", { mend: null, words: "dead", inWarranty: null }, "“dead”"],
  [
    "damage-noted",
    { place: "edge.right", what: "torn", clipLost: false },
    "place edge right, what torn, clip lost no",
  ],
])("%s %j", (kind, body, words) => expect(eventDetail(kind, body)).toBe(words));

test("nothing that is stored as data is printed as data, whatever the kind", () => {
  const body = {
    kind: "in",
    place: "stick.left",
    fittedId: "3f",
    was: { a: 1 },
    list: [1],
    measure: "missRateUpper95",
  };
  for (const kind of [...Object.keys(EVENTS).filter(isUnitEvent), "some-new-kind"])
    expect(eventDetail(kind, body)).not.toMatch(/[{}[\]]|undefined|stick\.left|3f/);
});

test("an item without a kind is still words", () => expect(itemWords("cap-left")).toBe("cap left"));
