import { readDecimal } from "../base/decimal";
import { type Result, ok, refuse } from "../base/result";
import type { Instrument, InstrumentProblem, Quantity } from "./instrument";

/** A line to a device: text out, lines in. The browser's serial port stands behind it, or a made-up one. */
export interface LinePort {
  write(text: string): Promise<void>;
  /** the next whole line without its end, or null when the time is over or the line is lost */
  readLine(withinMs: number): Promise<string | null>;
  readonly lost: boolean;
}

const QUERY: Partial<Record<Quantity, string>> = {
  volts: "MEAS:VOLT:DC?",
  "loaded-volts": "MEAS:VOLT:DC?",
  amps: "MEAS:CURR:DC?",
  milliamps: "MEAS:CURR:DC?",
  ohms: "MEAS:RES?",
};
const WITHIN_MS = 3000;
const OVERLOAD = 9.9e37;
const MOST_ANSWER = 1000;

/** The SCPI convention for an overload is 9.9E37; anything that is not one number is not understood. */
export function readNumber(answer: string): Result<number, InstrumentProblem> {
  const value = readDecimal(answer.slice(0, MOST_ANSWER).split(/[,;]/)[0]!);
  if (value === undefined) return refuse({ code: "not-understood", answer: answer.slice(0, 60) });
  return Math.abs(value) >= OVERLOAD ? refuse({ code: "overload" }) : ok(value);
}

/**
 * Asks a multimeter by SCPI-99 queries over a line, one at a time; leftovers of an earlier query are thrown
 * away.
 */
export class ScpiMeter implements Instrument {
  private busy: Promise<unknown> = Promise.resolve();

  private constructor(
    private readonly port: LinePort,
    readonly label: string,
  ) {}

  /** Asks who is there; refuses a line on which nobody answers. */
  static async open(port: LinePort): Promise<Result<ScpiMeter, InstrumentProblem>> {
    await port.write("*CLS\n");
    await port.write("*IDN?\n");
    const answer = await port.readLine(WITHIN_MS);
    if (answer === null)
      return refuse(port.lost ? { code: "line-lost" } : { code: "no-answer", afterMs: WITHIN_MS });
    return ok(new ScpiMeter(port, answer.trim().slice(0, 80) || "unnamed meter"));
  }

  read(quantity: Quantity): Promise<Result<number, InstrumentProblem>> {
    const next = this.busy.then(() => this.ask(quantity));
    this.busy = next.catch(() => undefined);
    return next;
  }

  private async ask(quantity: Quantity): Promise<Result<number, InstrumentProblem>> {
    const query = QUERY[quantity];
    if (!query) return refuse({ code: "cannot", quantity });
    while ((await this.port.readLine(0)) !== null); // what came late
    await this.port.write(`${query}\n`);
    const answer = await this.port.readLine(WITHIN_MS);
    if (answer === null)
      return refuse(this.port.lost ? { code: "line-lost" } : { code: "no-answer", afterMs: WITHIN_MS });
    const read = readNumber(answer);
    if (!read.ok && read.problem.code === "not-understood") {
      await this.port.write("SYST:ERR?\n");
      const error = await this.port.readLine(WITHIN_MS);
      if (error && !/^\s*[+-]?0\s*,/.test(error))
        return refuse({ code: "instrument-error", text: error.trim().slice(0, 80) });
    }
    return read.ok ? ok(quantity === "milliamps" ? read.value * 1000 : read.value) : read;
  }
}
