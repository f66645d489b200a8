import type { Recording } from "../recording/recording";
import type { Reading, ReadingSource } from "../guide/source";

/** A recording played back on its own clock, from 0. */
export class PlaybackSource implements ReadingSource {
  private next = 0;
  readonly channels: { axes: number; buttons: number };

  constructor(private readonly recording: Recording) {
    this.channels = { axes: recording.axes.length, buttons: recording.buttons.length };
  }

  get ended(): boolean {
    return this.next >= this.recording.length;
  }

  /** How many rows have been played. */
  get played(): number {
    return this.next;
  }

  readUntil(t: number): Reading[] {
    const { recording } = this;
    const out: Reading[] = [];
    const start = recording.t[0] ?? 0;
    while (this.next < recording.length && recording.t[this.next]! - start <= t) {
      const i = this.next++;
      out.push({
        t: recording.t[i]!,
        axes: Array.from(recording.axes, (c) => c?.[i] ?? 0),
        buttons: Array.from(recording.buttons, (c) => c?.[i] ?? 0),
      });
    }
    return out;
  }

  obey(): void {
    // what is recorded is recorded
  }
}
