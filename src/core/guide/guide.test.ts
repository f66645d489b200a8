import type { Reading, SourceCommand } from "./source";
import { inputMap, type MappedControl } from "../input/input";
import { type ButtonResult, HOUSE_RULES } from "../analyse/analyse";
import { Guide } from "./guide";
import { badChance } from "../signal/risk";
import { planFullTest, type PressAim } from "./plan";

const STICK: MappedControl = { id: "stick.left", kind: "stick", input: { axes: [0, 1] } };
const BUTTON: MappedControl = { id: "face.south", kind: "button", input: { button: 0 } };

/** A guide with a clock: `go` runs ms of readings, `at` says what the controller reads. */
function bench(controls: MappedControl[]) {
  const guide = new Guide(planFullTest(controls), inputMap(controls), HOUSE_RULES, { axes: 2, buttons: 1 });
  const commands: SourceCommand[] = [];
  let t = 0;
  const go = (ms: number, at: (t: number) => Partial<Reading> = () => ({})) => {
    for (const end = t + ms; t < end; t += 5)
      commands.push(...guide.add([{ t, axes: [0, 0], buttons: [0], ...at(t) }]));
  };
  const until = (done: () => boolean, at?: (t: number) => Partial<Reading>, most = 60_000) => {
    for (let spent = 0; !done() && spent < most; spent += 50) go(50, at);
  };
  return { guide, go, until, commands, state: () => guide.state() };
}
const circling = (turnMs: number) => (t: number) => {
  const way = Math.floor(t / (turnMs * 3)) % 2 ? -1 : 1;
  const a = (way * 2 * Math.PI * t) / turnMs;
  return { axes: [Math.cos(a), Math.sin(a)] };
};

test("the plan goes hands off, two thumb buttons, sticks, triggers, the other buttons, with the rim where it is asked for", () => {
  const trigger: MappedControl = { id: "trigger.left", kind: "trigger", input: { button: 6 } };
  const named = (id: string): MappedControl => ({ ...BUTTON, id }) as MappedControl;
  const plan = planFullTest(
    [named("menu.left"), trigger, STICK, named("bumper.left"), { ...BUTTON, rim: true }, named("face.east")],
    ["bumper.left"],
  );
  expect(plan.map((s) => `${s.step} ${s.control}`)).toEqual([
    "rest ",
    "press face.south",
    "press-edge face.south",
    "press face.east",
    "circle stick.left",
    "sweep stick.left",
    "flick stick.left",
    "pull trigger.left",
    "press menu.left",
    "press bumper.left",
    "press-edge bumper.left",
    "rest ",
  ]);
});

test("rest moves on by itself after its time", () => {
  const b = bench([STICK]);
  b.go(2500);
  expect(b.state().current!.step).toBe("rest");
  b.go(1500);
  expect(b.state().current!.step).toBe("circle");
});

test("circles that are too fast are told and start again; slow ones finish", () => {
  const b = bench([STICK]);
  b.until(() => b.state().current!.step === "circle");
  b.until(() => b.state().restarts > 0, circling(250));
  expect(b.state().restarts).toBeGreaterThan(0);
  b.until(() => b.state().current!.step === "sweep", circling(900));
  expect(b.state().current!.step).toBe("sweep");
});

describe("what a live page draws while a step runs", () => {
  test("the edge grows as it is drawn, and what is open falls to nothing", () => {
    const b = bench([STICK]);
    b.until(() => b.state().current!.step === "circle" && b.state().phase === "running");
    const open: number[] = [];
    b.until(() => {
      const edge = b.state().progress?.edge;
      if (edge) open.push(edge.filter((r) => r === null).length);
      return b.state().current!.step !== "circle";
    }, circling(900));
    expect(open[0]).toBeGreaterThan(40);
    expect(open.at(-1)).toBe(0);
    expect([...open].sort((x, y) => y - x)).toEqual(open);
  });

  test("each release counts for the direction it was let go from, and for no other", () => {
    const b = bench([STICK]);
    b.until(() => b.state().current!.step === "sweep", circling(900));
    b.guide.act("skip");
    b.until(() => b.state().phase === "running");
    const begun = b.state().index;
    b.go(500, () => ({ axes: [0, -1] })); // up
    b.go(900);
    expect(b.state().index).toBe(begun);
    expect(b.state().progress?.letGo).toEqual([0, 0, 1, 0, 0, 0, 0, 0]);
  });

  test("presses fall against their cues, a missed one as nothing", () => {
    const b = bench([BUTTON]);
    b.until(() => b.state().current!.step === "press" && b.state().lastCue !== null);
    // answers every cue but the second, 120 ms late, for 60 ms
    const cues: number[] = [];
    const answering = (t: number) => {
      const cue = b.state().lastCue;
      if (cue !== null && cues.at(-1) !== cue) cues.push(cue);
      const since = t - (cue ?? t);
      return { buttons: [cues.length !== 2 && since >= 120 && since < 180 ? 1 : 0] };
    };
    b.until(() => (b.state().progress?.answers?.length ?? 0) >= 4, answering);
    const answers = b.state().progress!.answers!;
    expect(answers.map((a) => a === null)).toEqual([false, true, false, false]);
    for (const a of answers)
      if (a) expect([Math.abs(a[0] - 120) <= 10, Math.abs(a[1] - 60) <= 10]).toEqual([true, true]);
  });

  test("the controls whose steps are over are no more open, and the risk of a first test falls too", () => {
    const b = bench([BUTTON, STICK]);
    expect(b.state().open).toEqual(["face.south", "stick.left"]);
    const { risk } = b.state();
    expect(risk).toEqual({ now: badChance({ presses: 0, missed: 0 }), aim: null });
    b.until(
      () => b.state().current!.step === "circle",
      (t) => ({ buttons: [b.state().lastCue !== null && t - b.state().lastCue! < 80 ? 1 : 0] }),
    );
    expect(b.state().open).toEqual(["stick.left"]);
    expect(b.state().risk!.now).toBeLessThan(risk!.now / 10);
  });
});

test("nothing moves: it asks once; the second silence is taken as the answer", () => {
  const b = bench([STICK]);
  b.until(() => b.state().phase === "asking");
  expect(b.state().current!.step).toBe("circle");
  b.guide.act("was-not-moved");
  expect(b.state().phase).toBe("lead-in");
  b.until(() => b.state().phase === "done");
  expect(b.state().analysis!.controls["stick.left"]).toMatchObject({ noAnswer: true, grade: "fail" });
});

test("a skipped step leaves its control not tested; what it was asked before and missed stays missed", () => {
  const b = bench([BUTTON]);
  b.until(() => b.state().current?.step === "press");
  b.go(3000);
  b.guide.act("skip");
  expect(b.state()).toMatchObject({ skipped: [1] });
  b.until(() => b.state().phase === "done");
  expect(b.guide.recording().cue.reduce((n, c) => n + c, 0)).toBe(2); // the last had no time for an answer
  expect(b.state().analysis!.controls["face.south"]).toMatchObject({ cues: 2, missed: 2, grade: "fail" });
});

test("presses that never register ask whether it was pressed, before they are a verdict", () => {
  const b = bench([BUTTON]);
  b.until(() => b.state().phase === "asking");
  expect(b.state().current!.step).toBe("press");
  b.guide.act("was-moved");
  b.until(() => b.state().phase === "done");
  expect(b.state().analysis!.controls["face.south"]).toMatchObject({ decision: "bad", grade: "fail" });
});

test("a pulled plug pauses, and the step starts again when it is back", () => {
  const b = bench([BUTTON]);
  b.until(() => b.state().current?.step === "press");
  b.go(2000);
  b.guide.act("pause");
  expect(b.state().phase).toBe("paused");
  b.go(1000);
  expect(b.state().phase).toBe("paused");
  b.guide.act("resume");
  b.go(800);
  expect(b.state()).toMatchObject({ phase: "running", lastCue: null });
});

test("cues are at least 0.6 s apart and called on the readings' own clock", () => {
  const b = bench([BUTTON]);
  b.until(() => b.commands.filter((c) => c.kind === "cue").length >= 2);
  const [first, second] = b.commands.flatMap((c) => (c.kind === "cue" ? [c.t] : []));
  expect(second! - first!).toBeGreaterThanOrEqual(600);
});

describe("letting go", () => {
  /** Pushes toward the angles one after another, each let go after 300 ms of 900. */
  const flicking = (angles: number[]) => (t: number) => {
    const a = angles[Math.floor(t / 900) % angles.length]!;
    return { axes: t % 900 < 300 ? [Math.cos(a), Math.sin(a)] : [0, 0] };
  };
  const round = Array.from({ length: 8 }, (_, i) => (i * Math.PI) / 4);
  const atFlicks = () => {
    const b = bench([STICK]);
    b.until(() => b.state().current?.step === "circle");
    b.until(() => b.state().current?.step === "sweep", circling(1200));
    const sweeping = (t: number) => {
      const a = (Math.floor(t / 1200) * Math.PI) / 2;
      const r = Math.sin(((t % 1200) / 1200) * Math.PI);
      return { axes: [r * Math.cos(a), r * Math.sin(a)] };
    };
    b.until(() => b.state().current?.step === "flick", sweeping);
    return b;
  };

  test("two out of each of eight directions are enough; who goes sideways only is told what lacks, and the step still ends", () => {
    const good = atFlicks();
    good.go(15 * 900, flicking(round));
    expect(good.state().current?.step).toBe("flick"); // one more: two out of each
    good.until(() => good.state().current?.step !== "flick", flicking(round), 2 * 900 + 2000);
    expect(good.state().current?.step).not.toBe("flick");

    const lazy = atFlicks();
    lazy.go(9 * 900, flicking([0, Math.PI]));
    const { current } = lazy.state();
    expect(current?.step).toBe("flick");
    expect(lazy.state().progress?.waiting).toMatchObject({
      code: "flicks",
      lacks: ["upRight", "up", "upLeft", "downLeft", "down", "downRight"],
    });
    lazy.go(17 * 900, flicking([0, Math.PI]));
    expect(lazy.state().current?.step).not.toBe("flick");
  });
});

describe("pulling", () => {
  const TRIGGER: MappedControl = { id: "trigger.left", kind: "trigger", input: { button: 0 } };
  const atPulls = () => {
    const b = bench([TRIGGER]);
    b.until(() => b.state().current?.step === "pull");
    return b;
  };
  /** Pulls of 1.6 s: up in 0.7 s to the height of each, held or let go at once, back in 0.3 s. */
  const pulling = (heights: number[], held: boolean) => {
    let begun = -1;
    return (t: number) => {
      if (begun < 0) begun = t;
      const n = Math.floor((t - begun) / 1600);
      const s = (t - begun) % 1600;
      const top = heights[Math.min(n, heights.length - 1)]!;
      const down = held ? 900 : 700;
      if (s < 700) return { buttons: [(s / 700) * top] };
      if (s < down) return { buttons: [top] };
      return { buttons: [Math.max(0, top * (1 - (s - down) / 300))] };
    };
  };
  const pullsUntilDone = (heights: number[], held: boolean) => {
    const b = atPulls();
    let spent = 0;
    const at = pulling(heights, held);
    while (b.state().current?.step === "pull" && spent < 60_000) {
      b.go(50, at);
      spent += 50;
    }
    return Math.round(spent / 1600);
  };

  test("three held pulls are enough; one that stops short asks for three more; never held, it still ends", () => {
    // a pull more may pass before the guide has looked
    expect([3, 4]).toContain(pullsUntilDone([1], true));
    expect([6, 7]).toContain(pullsUntilDone([1, 0.7, 1], true));
    expect([12, 13]).toContain(pullsUntilDone([0.9], false));
  });
});

describe("presses that prove", () => {
  const proof = (before = 0) => {
    const aim: PressAim = {
      aim: 0.001,
      before: before
        ? { "face.south": { middle: { presses: before, missed: 0 }, rim: { presses: 0, missed: 0 } } }
        : {},
      buttons: 15,
    };
    const guide = new Guide(
      planFullTest([BUTTON]),
      inputMap([BUTTON]),
      HOUSE_RULES,
      { axes: 2, buttons: 1 },
      aim,
    );
    let t = 0;
    let cue = -1;
    /** A thumb that answers each cue after 150 ms, but for those that it leaves out. */
    const go = (until: () => boolean, answers: (n: number) => boolean = () => true) => {
      let n = -1;
      for (const end = t + 90_000; t < end && !until(); t += 5) {
        const down = cue >= 0 && t >= cue + 150 && t < cue + 250 && answers(n);
        for (const c of guide.add([{ t, axes: [0, 0], buttons: [down ? 1 : 0] }]))
          if (c.kind === "cue") {
            cue = c.t;
            n++;
          }
      }
    };
    const button = () => guide.state().analysis?.controls["face.south"] as ButtonResult | undefined;
    return { guide, go, button, state: () => guide.state() };
  };

  test("the risk falls press by press, and the step goes on until it is low enough", () => {
    const p = proof();
    p.go(() => p.state().current?.step === "press" && p.state().phase === "running");
    const risks: number[] = [];
    p.go(() => {
      const { risk } = p.state();
      if (risk && risk.now !== risks.at(-1)) risks.push(risk.now);
      return p.state().phase === "done";
    });
    expect(risks.length).toBeGreaterThan(15);
    expect([...risks].sort((a, b) => b - a)).toEqual(risks);
    expect(risks.at(-1)).toBeLessThan(0.001 / 15);
    expect(p.button()!.cues).toBe(21);
  });

  test("what an earlier test showed counts: fifteen more are enough", () => {
    const p = proof(15);
    p.go(() => p.state().phase === "done");
    expect(p.button()!.cues).toBe(15);
  });

  test("repeating a step does not wash away what it missed", () => {
    const p = proof();
    let missed = 0;
    p.go(
      () => p.state().progress?.waiting.code === "presses" && missed === 1,
      (n) => {
        const { progress } = p.state();
        missed = progress?.waiting.code === "presses" ? progress.waiting.missed : 0;
        return n < 3;
      },
    );
    p.guide.act("repeat");
    p.go(() => p.state().phase === "done");
    expect(p.button()!.missed).toBeGreaterThanOrEqual(1);
    // what is shown at the end is what all its presses come to, the washed attempt's too
    const all = { presses: p.button()!.cues!, missed: p.button()!.missed! };
    expect(p.state().risk!.now).toBeCloseTo(badChance(all), 12);
    expect(p.state().risk!.now).toBeLessThan(0.001 / 15);
    expect(p.button()!.cues).toBeGreaterThan(20);
  });

  test("the last hands off cannot be skipped: what the controls do by themselves would stay unknown", () => {
    const p = proof();
    p.go(() => p.state().current?.step === "rest" && p.state().index > 0);
    const at = p.state().index;
    p.guide.act("skip");
    expect([p.state().index, p.state().skipped]).toEqual([at, []]);
    p.go(() => p.state().phase === "done");
    expect(p.button()!.grade).toBe("A");
  });

  test("a button that presses itself while another is tested: hands off once more, for ten seconds, tells", () => {
    const other: MappedControl = { id: "bumper.left", kind: "button", input: { button: 1 } };
    const run = (again: boolean) => {
      const guide = new Guide(planFullTest([BUTTON, other]), inputMap([BUTTON, other]), HOUSE_RULES, {
        axes: 2,
        buttons: 2,
      });
      let cue = -1;
      for (let t = 0; guide.state().phase !== "done" && t < 120_000; t += 5) {
        const { current, phase } = guide.state();
        const down = (id: string) =>
          phase === "running" && current?.control === id && cue >= 0 && t >= cue + 150 && t < cue + 250;
        const resting = phase === "running" && current?.ms !== undefined && again;
        const itself = resting
          ? t % 4000 < 60
          : current?.control === "face.south" && t % 9000 > 8000 && t % 9000 < 8060;
        for (const c of guide.add([
          { t, axes: [0, 0], buttons: [down("face.south") ? 1 : 0, down("bumper.left") || itself ? 1 : 0] },
        ]))
          if (c.kind === "cue") cue = c.t;
      }
      return guide.state();
    };
    const once = run(false);
    expect(once.total).toBe(5); // hands off, two buttons, hands off, and the ten seconds
    expect(once.analysis!.controls["bumper.left"]).toMatchObject({ grade: "C", idle: { confirmed: false } });
    expect(run(true).analysis!.controls["bumper.left"]).toMatchObject({
      grade: "fail",
      idle: { confirmed: true },
    });
  });
});
