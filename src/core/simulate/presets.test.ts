import { inputMap, type MappedControl } from "../input/input";
import { analyse } from "../analyse/analyse";
import { SimulatedPiece } from "./pieces";
import { type Preset, PRESETS, presetFaults } from "./presets";
import { simulateFullTest } from "./run";

const CONTROLS: MappedControl[] = [
  { id: "stick.left", kind: "stick", input: { axes: [0, 1] } },
  { id: "stick.right", kind: "stick", input: { axes: [2, 3] } },
  { id: "trigger.left", kind: "trigger", input: { button: 6 } },
  { id: "face.south", kind: "button", input: { button: 0 } },
  { id: "face.east", kind: "button", input: { button: 1 } },
];

describe("ready-made faults", () => {
  const graded = (preset: Preset) => {
    const faults = presetFaults(preset, CONTROLS);
    const recording = simulateFullTest(CONTROLS, { seed: 11, rateHz: 200, bits: 12, faults });
    const { controls } = analyse(recording, inputMap(CONTROLS)).analysis;
    return Object.entries(controls)
      .filter(([, r]) => r.grade !== "A")
      .map(([id]) => id);
  };

  test("a healthy unit passes everywhere", () => expect(graded("healthy")).toEqual([]));

  // a light press fails only under a light finger, which the usual hand is not
  test.each(PRESETS.filter((p) => p !== "healthy" && p !== "light-press"))(
    "%s is seen at the control that has it, and nowhere else",
    (preset) => {
      const faults = presetFaults(preset, CONTROLS);
      const [place] = Object.keys({ ...faults.sticks, ...faults.triggers, ...faults.buttons });
      const bridged = preset === "bridged" ? ["face.east", "face.south"] : [place];
      const found = graded(preset);
      expect(found).toContain(place);
      expect(bridged).toEqual(expect.arrayContaining(found));
    },
  );

  test.each(PRESETS)("%s needs a control of its kind: a model without one stays healthy", (preset) => {
    expect(presetFaults(preset, [])).toEqual({});
  });

  test("a bridge needs two buttons", () => {
    expect(presetFaults("bridged", CONTROLS.slice(0, 4))).toEqual({});
    expect(presetFaults("bridged", CONTROLS)).toEqual({
      buttons: { "face.south": { firesWith: "face.east" } },
    });
  });
});

describe("a made-up piece of a batch", () => {
  const ends = async (piece: SimulatedPiece) => {
    const one = await piece.read("ohms");
    const other = await piece.read("ohms");
    if (!one.ok || !other.ok) throw new Error("it reads");
    return [one.value, other.value] as const;
  };
  const imbalance = ([a, b]: readonly [number, number]) => Math.abs(a - b) / (a + b);

  test("the same piece reads the same, end after end", async () => {
    const piece = new SimulatedPiece(7, 0.2, 1.6);
    const first = await ends(piece);
    expect(await ends(piece)).toEqual(first);
    expect(await ends(new SimulatedPiece(7, 0.2, 1.6))).toEqual(first);
  });

  test("good ones are even within a few parts in a hundred, bad ones are not", async () => {
    for (let seed = 0; seed < 200; seed++) {
      expect(imbalance(await ends(new SimulatedPiece(seed, 0, 1.6)))).toBeLessThan(0.045);
      const bad = imbalance(await ends(new SimulatedPiece(seed, 1, 1.6)));
      expect(bad).toBeGreaterThan(0.044);
      expect(bad).toBeLessThan(0.141);
    }
  });

  test("about as many are bad as the batch is said to have", async () => {
    let bad = 0;
    for (let seed = 0; seed < 2000; seed++)
      if (imbalance(await ends(new SimulatedPiece(seed, 0.15, 1.6))) > 0.0445) bad++;
    expect(bad / 2000).toBeGreaterThan(0.12);
    expect(bad / 2000).toBeLessThan(0.18);
  });

  test("a gauge reads hundredths of a millimetre; what it has no means for it refuses", async () => {
    const piece = new SimulatedPiece(3, 0, 1.6);
    const thick = await piece.read("millimetres");
    expect(thick).toMatchObject({ ok: true });
    if (thick.ok) {
      expect(thick.value).toBeCloseTo(1.6, 0);
      expect(thick.value * 100).toBeCloseTo(Math.round(thick.value * 100), 9);
    }
    expect(await piece.read("grams")).toEqual({ ok: false, problem: { code: "cannot", quantity: "grams" } });
  });
});
