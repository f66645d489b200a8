import type { Highs, ModelData } from "highs";

/**
 * A mixed-integer programme put together column by column and row by row, as the solver takes it. It
 * maximises.
 */

export class ModelBuilder {
  private readonly cost: number[] = [];
  private readonly low: number[] = [];
  private readonly high: number[] = [];
  private readonly whole: (0 | 1)[] = [];
  private readonly rowLow: number[] = [];
  private readonly rowHigh: number[] = [];
  private readonly starts: number[] = [0];
  private readonly indices: number[] = [];
  private readonly values: number[] = [];

  /** Adds a variable; returns its number. */
  column(cost: number, low: number, high: number, whole: boolean): number {
    this.cost.push(cost);
    this.low.push(low);
    this.high.push(high);
    this.whole.push(whole ? 1 : 0);
    return this.cost.length - 1;
  }

  /** Adds low <= sum of terms <= high; a variable may come once. Returns its number. */
  row(low: number, high: number, terms: readonly (readonly [column: number, factor: number])[]): number {
    for (const [column, factor] of terms) {
      this.indices.push(column);
      this.values.push(factor);
    }
    this.starts.push(this.indices.length);
    this.rowLow.push(low);
    this.rowHigh.push(high);
    return this.rowLow.length - 1;
  }

  get columns(): number {
    return this.cost.length;
  }

  data(highs: Highs): ModelData {
    const bound = (x: number) => {
      if (x === Infinity) return highs.infinity;
      if (x === -Infinity) return -highs.infinity;
      return x;
    };
    return {
      numCols: this.cost.length,
      numRows: this.rowLow.length,
      sense: highs.constants.objectiveSense.maximize,
      colCost: this.cost,
      colLower: this.low.map(bound),
      colUpper: this.high.map(bound),
      rowLower: this.rowLow.map(bound),
      rowUpper: this.rowHigh.map(bound),
      integrality: this.whole,
      matrix: {
        format: "csr",
        numRows: this.rowLow.length,
        numCols: this.cost.length,
        starts: this.starts,
        indices: this.indices,
        values: this.values,
      },
    };
  }
}

export type Progress = { seconds: number; best: number | null; bound: number | null; gap: number | null };
export type Solved = {
  status: "proven" | "stopped" | "impossible";
  value: number;
  /** what no choice can beat; the value itself when proven */
  bound: number;
  /** (bound - value) / |value| */
  gap: number;
  columns: Float64Array;
  seconds: number;
};
export type SolveOptions = { seconds: number; progress?: (p: Progress) => void };

const finite = (x: number | undefined) =>
  x !== undefined && Number.isFinite(x) && Math.abs(x) < 1e20 ? x : null;

const MANY = 3000; // columns

/**
 * Solves to proven optimality (money is whole, so a gap under one minor unit proves it) or until the time is
 * over.
 */
export function solveModel(highs: Highs, data: ModelData, options: SolveOptions): Solved {
  const began = performance.now();
  return highs.withModel(data, (model): Solved => {
    model.options.set({
      output_flag: false,
      time_limit: options.seconds,
      mip_rel_gap: 0,
      mip_abs_gap: 0.9,
      random_seed: 1,
      // measured on made-up backlogs (npm run bench:plan): the search for a proof is short, and these cost
      // more than they save;
      // with many columns the first good plan is what takes long, so neighbourhoods are searched there
      mip_allow_restart: false,
      mip_detect_symmetry: false,
      mip_pscost_minreliable: 1,
      mip_allow_cut_separation_at_nodes: false,
      mip_heuristic_run_feasibility_jump: false,
      mip_heuristic_run_rins: data.numCols > MANY,
      mip_heuristic_run_rens: data.numCols > MANY,
    });
    const { callbackType } = highs.constants;
    const run = model.run({
      [callbackType.mipLogging]: (event) => {
        const d = event.data;
        options.progress?.({
          seconds: d.running_time ?? 0,
          best: finite(d.mip_primal_bound),
          bound: finite(d.mip_dual_bound),
          gap: finite(d.mip_gap),
        });
        return undefined;
      },
    });
    const seconds = (performance.now() - began) / 1000;
    const code = run.modelStatus;
    const none: Solved = {
      status: "impossible",
      value: 0,
      bound: 0,
      gap: 0,
      columns: new Float64Array(),
      seconds,
    };
    if (code === 8 || code === 9 || code === 10) return none;
    const value = model.getObjectiveValue();
    const columns = model.getSolution().colValue;
    if (columns.length === 0 || !Number.isFinite(value)) return none;
    const bound = code === 7 ? value : (finite(Number(model.info.get("mip_dual_bound"))) ?? Infinity);
    return {
      status: code === 7 ? "proven" : "stopped",
      value,
      bound,
      gap: code === 7 ? 0 : Math.abs(bound - value) / Math.max(1, Math.abs(value)),
      columns,
      seconds,
    };
  });
}
