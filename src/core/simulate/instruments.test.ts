import { type Supply, supplySuspect } from "../bench/cells";
import { judgeReading } from "../bench/judge";
import { HOUSE_LIMITS } from "../grade/limits";
import { triageConfidence } from "../quicklook/confidence";
import { BENCH_PRESETS, placesOf, simulatedReading } from "./instruments";

const PACK: Supply = { chemistry: "lithium-polymer", cells: 1, nominalVolts: 3.7, capacityMah: 900 };
type Step = { method: string; subject: string; functionKind?: string };
const STEPS: Step[] = [
  { method: "supply", subject: "main" },
  { method: "charge-log", subject: "main" },
  { method: "discharge-log", subject: "main" },
  { method: "link-watch", subject: "radio", functionKind: "radio" },
  { method: "link-watch", subject: "cord", functionKind: "cord" },
  { method: "link-watch", subject: "port", functionKind: "port" },
  { method: "microphone", subject: "mic" },
  { method: "tone", subject: "speaker" },
  { method: "trigger-drag", subject: "triggers" },
  { method: "contact-sensor", subject: "stick.left.x" },
];
const failing = (preset: string) =>
  STEPS.flatMap((step) => {
    const reading = simulatedReading(step, PACK, 21, BENCH_PRESETS[preset]!)!;
    const result = judgeReading(reading, { supply: PACK, limits: HOUSE_LIMITS, reference: () => null });
    return result.verdict === "pass"
      ? []
      : [`${step.method}${step.functionKind ? ` ${step.functionKind}` : ""}`];
  });

test.each([
  ["healthy", []],
  ["tired cell", ["supply", "charge-log", "discharge-log"]],
  ["flat cell", ["supply"]],
  ["contacts break", ["charge-log"]],
  ["does not charge", ["charge-log"]],
  ["sensor off balance", ["contact-sensor"]],
  ["open sensor leg", ["contact-sensor"]],
  ["radio short", ["link-watch radio"]],
  ["cord breaks at the shell", ["link-watch cord"]],
  ["plug drops when pushed up", ["link-watch port"]],
  ["deaf microphone", ["microphone"]],
  ["silent speaker", ["tone"]],
  ["weak right trigger", ["trigger-drag"]],
])("a bench with %s fails %j and nothing else", (preset, expected) =>
  expect(failing(preset)).toEqual(expected),
);

test("every preset of the page is held by the test above", () => {
  expect(Object.keys(BENCH_PRESETS)).toHaveLength(14);
});

test("the same seed reads the same, another reads another", () => {
  const of = (seed: number) => simulatedReading(STEPS[1]!, PACK, seed, {});
  expect(of(4)).toEqual(of(4));
  expect(of(4)).not.toEqual(of(5));
});

test("a recording or a look has no made-up reading", () => {
  for (const method of ["guided", "quick", "prompt"])
    expect(simulatedReading({ method, subject: "x" }, PACK, 1, {})).toBeNull();
});

test("places are gone through in an order that a hand can follow", () => {
  expect(placesOf("cord")[0]).toBe("plug");
  expect(placesOf("cord").at(-1)).toBe("shell");
  expect(placesOf("port")).toHaveLength(4);
  expect(placesOf("radio").map(Number)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8]);
});

test("two suspects at once: contacts first, since everything else is judged through them", () => {
  const finding = (code: string) => ({
    v: 1 as const,
    verdict: "fail" as const,
    figures: [],
    findings: [{ code }],
  });
  expect(supplySuspect([finding("cell-sags"), finding("contacts-break")])).toEqual({
    suspect: "contacts",
    because: ["contacts-break"],
  });
  expect(supplySuspect([finding("cell-sags"), finding("sign-without-current")]).suspect).toBe(
    "charging-circuit",
  );
});

describe("triage", () => {
  const controls = [
    { id: "stick.left", kind: "stick" as const },
    { id: "trigger.left", kind: "trigger" as const },
    { id: "face.south", kind: "button" as const },
  ];
  const seen = (amount: number) => controls.map((c) => ({ id: c.id, seen: amount, faults: [] }));

  test("even when everything moved it has looked at less than half of what a full test measures", () => {
    const all = triageConfidence(controls, seen(1));
    expect(all).toEqual({ looked: 6, required: 14, share: 6 / 14 });
  });

  test("what was not moved was not looked at", () => {
    expect(triageConfidence(controls, seen(0)).share).toBe(0);
    expect(triageConfidence(controls, []).share).toBe(0);
    expect(triageConfidence(controls, seen(0.5)).share).toBeCloseTo(3 / 14, 12);
    expect(triageConfidence([], []).share).toBe(0);
  });
});
