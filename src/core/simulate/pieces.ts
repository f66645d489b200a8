import { ok, refuse, type Result } from "../base/result";
import type { Instrument, InstrumentProblem, Quantity } from "../instrument/instrument";
import { seeded } from "../math/random";

/** A made-up meter and gauge on one piece of an incoming batch; the same piece reads the same. */
export class SimulatedPiece implements Instrument {
  readonly label: string;
  private turn = 0;
  private readonly ends: [number, number];
  private readonly thick: number;

  /** @param badShare share of pieces of this batch that are off */
  constructor(seed: number, badShare: number, thicknessMm: number) {
    const chance = seeded(seed);
    this.label = "simulated meter and gauge";
    const off = chance.happens(badShare);
    const imbalance = off
      ? (chance.happens(0.5) ? 1 : -1) * chance.between(0.045, 0.14)
      : 0.009 * chance.normal();
    const total = 10_000 * (1 + 0.02 * chance.normal());
    this.ends = [(total / 2) * (1 + imbalance), (total / 2) * (1 - imbalance)];
    this.thick = Math.round(100 * thicknessMm * (1 + 0.008 * chance.normal())) / 100;
  }

  read(quantity: Quantity): Promise<Result<number, InstrumentProblem>> {
    if (quantity === "ohms") return Promise.resolve(ok(Math.round(this.ends[this.turn++ % 2]!)));
    if (quantity === "millimetres") return Promise.resolve(ok(this.thick));
    return Promise.resolve(refuse({ code: "cannot", quantity }));
  }
}
