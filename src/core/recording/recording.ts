/** A recording: the state of a controller over time, column by column, as measured (docs/measures.md). */

export const STEPS = ["rest", "circle", "sweep", "flick", "pull", "press", "press-edge", "free"] as const;
export type Step = (typeof STEPS)[number];
export const stepCode = (step: Step): number => STEPS.indexOf(step);

/**
 * `control` 0 means all controls; k > 0 means controlNames[k - 1]. A column that the recording lacks is
 * undefined.
 */
export type Recording = {
  readonly length: number;
  readonly t: Float64Array;
  readonly step: Uint8Array;
  readonly control: Uint16Array;
  readonly controlNames: readonly string[];
  readonly cue: Uint8Array;
  readonly axes: readonly (Float64Array | undefined)[];
  readonly buttons: readonly (Float64Array | undefined)[];
};

/**
 * One reading of a controller as the W3C Gamepad API gives it, with what the person was asked at that moment.
 */
export type Sample = {
  t: number;
  step: Step;
  control: string;
  cue: boolean;
  axes: readonly number[];
  buttons: readonly number[];
};

const FIRST_CAPACITY = 4096;

const grown = <A extends Float64Array | Uint8Array | Uint16Array>(column: A, capacity: number): A => {
  const Kind = column.constructor as new (n: number) => A;
  const next = new Kind(capacity);
  next.set(column as never);
  return next;
};

/** Collects rows into growing columns; memory is linear in rows times columns that are present. */
export class RecordingBuilder {
  private n = 0;
  private capacity = FIRST_CAPACITY;
  private t = new Float64Array(FIRST_CAPACITY);
  private step = new Uint8Array(FIRST_CAPACITY);
  private control = new Uint16Array(FIRST_CAPACITY);
  private cue = new Uint8Array(FIRST_CAPACITY);
  private readonly names: string[] = [];
  private readonly nameIndex = new Map<string, number>([["", 0]]);
  private readonly axes: (Float64Array | undefined)[];
  private readonly buttons: (Float64Array | undefined)[];

  /** Which axis and button columns are present; the others stay undefined. */
  constructor(axes: readonly number[], buttons: readonly number[]) {
    const columns = (present: readonly number[]) => {
      const out: (Float64Array | undefined)[] = [];
      for (const i of present) out[i] = new Float64Array(FIRST_CAPACITY);
      return out;
    };
    this.axes = columns(axes);
    this.buttons = columns(buttons);
  }

  get length(): number {
    return this.n;
  }

  /** how many controls were named so far */
  get controls(): number {
    return this.names.length;
  }

  /** Starts a row and returns its index; set its channel values with setAxis and setButton. */
  row(t: number, step: number, control: string, cue: boolean): number {
    if (this.n === this.capacity) this.grow();
    const i = this.n++;
    this.t[i] = t;
    this.step[i] = step;
    this.control[i] = this.nameOf(control);
    this.cue[i] = cue ? 1 : 0;
    return i;
  }

  setAxis(row: number, axis: number, value: number): void {
    this.axes[axis]![row] = value;
  }

  setButton(row: number, button: number, value: number): void {
    this.buttons[button]![row] = value;
  }

  add(sample: Sample): void {
    const i = this.row(sample.t, stepCode(sample.step), sample.control, sample.cue);
    this.axes.forEach((column, k) => column && (column[i] = sample.axes[k] ?? 0));
    this.buttons.forEach((column, k) => column && (column[i] = sample.buttons[k] ?? 0));
  }

  /**
   * Marks rows from `first` on as `free`: they are kept, and no measure uses them (a step that is repeated).
   */
  setAside(first: number): void {
    this.step.fill(stepCode("free"), first, this.n);
    this.cue.fill(0, first, this.n);
  }

  /** The same for every row of one step of one control. */
  setStepAside(step: Step, control: string): void {
    const name = this.nameIndex.get(control);
    for (let i = 0; i < this.n; i++) {
      if (this.step[i] !== stepCode(step) || this.control[i] !== name) continue;
      this.step[i] = stepCode("free");
      this.cue[i] = 0;
    }
  }

  /** A view of the rows so far, from row `first`; it shares memory with the builder until the next growth. */
  view(first = 0): Recording {
    const cut = (c: Float64Array | undefined) => c?.subarray(first, this.n);
    return {
      length: this.n - first,
      t: this.t.subarray(first, this.n),
      step: this.step.subarray(first, this.n),
      control: this.control.subarray(first, this.n),
      controlNames: this.names,
      cue: this.cue.subarray(first, this.n),
      axes: this.axes.map(cut),
      buttons: this.buttons.map(cut),
    };
  }

  private nameOf(control: string): number {
    const known = this.nameIndex.get(control);
    if (known !== undefined) return known;
    this.names.push(control);
    this.nameIndex.set(control, this.names.length);
    return this.names.length;
  }

  private grow(): void {
    this.capacity = Math.ceil(this.capacity * 1.6);
    this.t = grown(this.t, this.capacity);
    this.step = grown(this.step, this.capacity);
    this.control = grown(this.control, this.capacity);
    this.cue = grown(this.cue, this.capacity);
    this.axes.forEach((c, i) => c && (this.axes[i] = grown(c, this.capacity)));
    this.buttons.forEach((c, i) => c && (this.buttons[i] = grown(c, this.capacity)));
  }
}
