import type { RimSide } from "./plan";
import type { Step } from "../recording/recording";

/** One reading of a controller as a browser gives it; t in ms on the source's own clock. */
export type Reading = { t: number; axes: readonly number[]; buttons: readonly number[] };

/** What a test asks of a source; a real controller cannot obey, a simulated hand does. */
export type SourceCommand =
  /** `slower`: how often the hand was already told to be slower at this step */
  | { kind: "prompt"; step: Step; control: string; slower?: number }
  | { kind: "cue"; t: number; side: RimSide | null };

/**
 * A controller, whatever stands behind it: the browser's, the simulated one, or a recording played back.
 * Everything that tests a unit reads it through this.
 */
export interface ReadingSource {
  readonly channels: { axes: number; buttons: number };
  /** the readings since the last call, up to time t */
  readUntil(t: number): Reading[];
  obey(command: SourceCommand): void;
  /** true when no more readings will come (a recording has ended) */
  readonly ended: boolean;
}

/** Readings that someone else collects, as the page does from the browser's Gamepad API. */
export class BufferedSource implements ReadingSource {
  private waiting: Reading[] = [];
  readonly ended = false;

  constructor(readonly channels: { axes: number; buttons: number }) {}

  put(readings: readonly Reading[]): void {
    this.waiting.push(...readings);
  }

  readUntil(): Reading[] {
    return this.waiting.splice(0);
  }

  obey(): void {
    // a person does
  }
}
