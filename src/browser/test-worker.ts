import { expose } from "comlink";
import { gzipSync } from "fflate";

import type { StickTable } from "@/core/calibrate/calibrate";
import { PlaybackSource } from "@/core/controller/playback";
import { type Frame, TestSession } from "@/core/controller/session";
import { BufferedSource, type Reading, type ReadingSource } from "@/core/guide/source";
import type { Limits } from "@/core/grade/limits";
import type { GuideAction } from "@/core/guide/guide";
import type { GuideStep, PressAim } from "@/core/guide/plan";
import type { MappedControl } from "@/core/input/input";
import { controlsOf, type ModelProfile, profileMap, rulesOf } from "@/core/profile/profile";
import { readRecordingCsv, writeRecordingCsv } from "@/core/recording/csv";
import { type Force, SimulatedController } from "@/core/simulate/controller";
import type { ControllerFaults } from "@/core/simulate/faults";
import { type Preset, presetFaults } from "@/core/simulate/presets";
import { csvProblemText } from "@/text/problems";

/** What the page picks as its controller. */
export type SourceChoice =
  | { kind: "gamepad"; channels: { axes: number; buttons: number } }
  | {
      kind: "simulated";
      seed: number;
      preset: Preset;
      faults?: ControllerFaults;
      force?: Force;
      calibration?: Record<string, StickTable>;
    }
  | { kind: "playback"; csv: string };

export type Begin = {
  plan: readonly GuideStep[] | "quick";
  profile: ModelProfile;
  revision: string | null;
  house: Limits;
  source: SourceChoice;
  /** for a proof: how sure the presses must make it */
  aim: PressAim | null;
};

/** Runs a test off the page's thread: the readings, the guide and the analysis of each step. */
class TestWorker {
  private session: TestSession | null = null;
  private buffer: BufferedSource | null = null;

  /** Answers with a reason when a recording to be played back cannot be read. */
  begin({ plan, profile, revision, house, source, aim }: Begin): string | null {
    const map = profileMap(profile, revision);
    const controls = controlsOf(profile, revision) as MappedControl[];
    const rules = rulesOf(profile, house);
    let reading: ReadingSource;
    if (source.kind === "playback") {
      const read = readRecordingCsv(source.csv, map);
      if (!read.ok) return csvProblemText(read.problem);
      this.session = new TestSession(plan, new PlaybackSource(read.value), map, rules, {
        played: read.value,
      });
      return null;
    }
    // the made-up fault is on what the test is about
    const planned =
      plan === "quick" ? controls : controls.filter((c) => plan.some((s) => s.control === c.id));
    if (source.kind === "simulated")
      reading = new SimulatedController(controls, {
        seed: source.seed,
        rateHz: 250,
        bits: 10,
        faults: source.faults ?? presetFaults(source.preset, planned),
        force: source.force,
        calibration: source.calibration,
      });
    else reading = this.buffer = new BufferedSource(source.channels);
    this.session = new TestSession(plan, reading, map, rules, { aim });
    return null;
  }

  /** Readings from the browser's controller, flat: t, axes, buttons of each. */
  put(flat: Float64Array, axes: number, buttons: number): void {
    const width = 1 + axes + buttons;
    const readings: Reading[] = [];
    for (let i = 0; i + width <= flat.length; i += width)
      readings.push({
        t: flat[i]!,
        axes: Array.from(flat.subarray(i + 1, i + 1 + axes)),
        buttons: Array.from(flat.subarray(i + 1 + axes, i + width)),
      });
    this.buffer?.put(readings);
  }

  advance(t: number): Frame {
    return this.session!.advance(t);
  }

  act(action: GuideAction): Frame {
    return this.session!.act(action);
  }

  /** The recording so far as gzipped CSV. */
  csvGz(): Uint8Array<ArrayBuffer> {
    const text = [...writeRecordingCsv(this.session!.recording())].join("");
    return gzipSync(new TextEncoder().encode(text), { level: 4 }) as Uint8Array<ArrayBuffer>;
  }
}

export type TestWorkerApi = TestWorker;
expose(new TestWorker());
