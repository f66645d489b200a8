import { planFullTest } from "../guide/plan";
import { inputMap, type MappedControl } from "../input/input";
import { analyse, HOUSE_RULES } from "../analyse/analyse";
import { SimulatedController } from "../simulate/controller";
import type { ControllerFaults } from "../simulate/faults";
import { simulateFullTest } from "../simulate/run";
import { PlaybackSource } from "./playback";
import { type Frame, TestSession } from "./session";
import { BufferedSource, type Reading } from "../guide/source";

/**
 * A test as it runs, with a hand that obeys, a person whose readings come in heaps, and a recording played
 * back.
 */

const CONTROLS: MappedControl[] = [
  { id: "stick.left", kind: "stick", input: { axes: [0, 1] } },
  { id: "face.south", kind: "button", input: { button: 0 } },
];
const MAP = inputMap(CONTROLS);
const PLAN = planFullTest(CONTROLS);
const SETTINGS = { seed: 4, rateHz: 200, bits: 12, faults: {} };
const hand = (faults: ControllerFaults = {}) => new SimulatedController(CONTROLS, { ...SETTINGS, faults });
const reading = (t: number, x: number, y = 0, pressed = 0): Reading => ({
  t,
  axes: [x, y],
  buttons: [pressed],
});

/**
 * Moves the clock on in steps of a screen's frame until the test is over, or a quarter of an hour has passed.
 */
function run(session: TestSession, frameMs = 16): Frame {
  let frame = session.advance(0);
  for (let t = frameMs; t < 15 * 60_000; t += frameMs) {
    frame = session.advance(t);
    if (frame.mode === "full" && frame.state.phase === "done") break;
    if (frame.mode === "playback" && frame.state.done) break;
  }
  return frame;
}

describe("a guided test", () => {
  test("with a simulated hand it goes through every step and ends by itself", () => {
    const session = new TestSession(PLAN, hand(), MAP, HOUSE_RULES);
    const frame = run(session);
    expect(frame).toMatchObject({ mode: "full", state: { phase: "done" } });
    const { analysis } = analyse(session.recording(), MAP);
    expect(Object.entries(analysis.controls).map(([id, r]) => [id, r.grade])).toEqual([
      ["stick.left", "A"],
      ["face.south", "A"],
    ]);
  });

  test("it counts what it has read and shows the latest of it", () => {
    const session = new TestSession(PLAN, hand(), MAP, HOUSE_RULES);
    const frame = session.advance(1000);
    expect(frame.samples).toBeGreaterThan(190); // 200 a second, with a jitter as a real one has
    expect(frame.samples).toBeLessThan(210);
    expect(frame.latest!.t).toBeGreaterThan(980);
    expect(frame.latest!.t).toBeLessThanOrEqual(1000);
    expect(session.recording()).toHaveLength(frame.samples);
  });

  test("how often the screen is drawn changes nothing of the record", () => {
    const records = [7, 16, 250].map((frameMs) => {
      const session = new TestSession(
        PLAN,
        hand({ sticks: { "stick.left": { offset: [0.1, 0] } } }),
        MAP,
        HOUSE_RULES,
      );
      run(session, frameMs);
      return session.recording();
    });
    const offset = (r: (typeof records)[number]) => {
      const found = analyse(r, MAP).analysis.controls["stick.left"]!;
      return found.kind === "stick" ? found.restCentre![0] : NaN;
    };
    for (const r of records) expect(offset(r)).toBeCloseTo(0.1, 2);
    // the clock runs in steps of its own; only where the last frame falls may differ
    for (const r of records) expect(Math.abs(r.length - records[0]!.length)).toBeLessThan(5);
  });

  test("a source that gives nothing leaves it waiting at its first step", () => {
    const session = new TestSession(PLAN, new BufferedSource({ axes: 2, buttons: 1 }), MAP, HOUSE_RULES);
    const frame = session.advance(60_000);
    expect(frame).toMatchObject({
      mode: "full",
      samples: 0,
      latest: null,
      state: { current: { step: "rest" } },
    });
    expect(session.recording()).toHaveLength(0);
  });
});

describe("readings that somebody else collects", () => {
  test("each is given out once, in the order in which it came, whatever the clock says", () => {
    const source = new BufferedSource({ axes: 2, buttons: 1 });
    source.put([reading(0, 0), reading(5, 0.1)]);
    source.put([reading(10, 0.2)]);
    expect(source.readUntil().map((r) => r.t)).toEqual([0, 5, 10]);
    expect(source.readUntil()).toEqual([]);
    expect(source.ended).toBe(false);
  });

  test("a heap of a second at once is taken whole", () => {
    const source = new BufferedSource({ axes: 2, buttons: 1 });
    const session = new TestSession(PLAN, source, MAP, HOUSE_RULES);
    source.put(Array.from({ length: 200 }, (_, i) => reading(i * 5, 0.001)));
    expect(session.advance(1000).samples).toBe(200);
    expect(session.advance(2000).samples).toBe(200); // and not twice
  });
});

describe("a quick look", () => {
  test("sees what moves, in no order, and is never over by itself", () => {
    const source = new BufferedSource({ axes: 2, buttons: 1 });
    const session = new TestSession("quick", source, MAP, HOUSE_RULES);
    source.put(Array.from({ length: 400 }, (_, i) => reading(i * 5, 0, 0, i > 200 && i < 240 ? 1 : 0)));
    const frame = session.advance(2000);
    expect(frame.mode).toBe("quick");
    expect(session.recording()).toHaveLength(400);
    expect(session.act("was-moved").mode).toBe("quick"); // nothing was asked: nothing changes
    expect(session.recording()).toHaveLength(400);
  });
});

describe("a recording played back", () => {
  const recording = simulateFullTest(CONTROLS, SETTINGS);
  const play = () => {
    const source = new PlaybackSource(recording);
    return { source, session: new TestSession("quick", source, MAP, HOUSE_RULES, { played: recording }) };
  };

  test("has the channels of the recording, and every row comes once", () => {
    const source = new PlaybackSource(recording);
    expect(source.channels).toEqual({ axes: 2, buttons: 1 });
    let rows = 0;
    for (let t = 0; !source.ended; t += 500) rows += source.readUntil(t).length;
    expect(rows).toBe(recording.length);
    expect(source.played).toBe(recording.length);
    expect(source.readUntil(1e9)).toEqual([]);
  });

  test("what it gives is what was recorded", () => {
    const source = new PlaybackSource(recording);
    const rows = source.readUntil(2000);
    rows.forEach((r, i) => {
      expect(r.t).toBe(recording.t[i]);
      expect(r.axes).toEqual([recording.axes[0]![i], recording.axes[1]![i]]);
      expect(r.buttons).toEqual([recording.buttons[0]![i]]);
    });
    expect(rows.at(-1)!.t - rows[0]!.t).toBeLessThanOrEqual(2000);
  });

  test("says where in the test it is, and ends at its end", () => {
    const { session } = play();
    const early = session.advance(2500);
    expect(early).toMatchObject({ mode: "playback", state: { step: "rest", control: "", done: false } });
    const last = run(session, 1000);
    if (last.mode !== "playback") throw new Error("a playback");
    expect(last.state.done).toBe(true);
    expect(last.state.playedMs).toBe(last.state.totalMs);
    expect(last.samples).toBe(recording.length);
  });

  test("keeps to the recording that it plays, and measures the same", () => {
    const { session } = play();
    run(session, 1000);
    expect(session.recording()).toBe(recording);
    expect(analyse(session.recording(), MAP).analysis).toEqual(analyse(recording, MAP).analysis);
  });

  test("an empty recording is over at once", () => {
    const empty = new TestSession(
      PLAN,
      new BufferedSource({ axes: 2, buttons: 1 }),
      MAP,
      HOUSE_RULES,
    ).recording();
    const source = new PlaybackSource(empty);
    const frame = new TestSession("quick", source, MAP, HOUSE_RULES, { played: empty }).advance(100);
    expect(frame).toMatchObject({
      mode: "playback",
      samples: 0,
      state: { playedMs: 0, totalMs: 0, done: true },
    });
  });
});
