import { type CalibrationPort, PLAIN_TABLE, type StickTable } from "@/core/calibrate/calibrate";
import { say } from "@/words/frame";

/**
 * The memory of the made-up unit on this bench, by its tag: what was saved outlives its power, what was only
 * written does not.
 */

const key = (tag: string) => `birdcage-simulated-unit ${tag}`;
type Memory = { saved: Record<string, StickTable>; written: Record<string, StickTable> };

function load(tag: string): Memory {
  try {
    const stored = localStorage.getItem(key(tag));
    return stored === null ? { saved: {}, written: {} } : (JSON.parse(stored) as Memory);
  } catch {
    return { saved: {}, written: {} };
  }
}
const store = (tag: string, memory: Memory) => localStorage.setItem(key(tag), JSON.stringify(memory));

/** What it reports by: what was written last, else what it kept. */
export const simulatedTables = (tag: string): Record<string, StickTable> => {
  const { saved, written } = load(tag);
  return { ...saved, ...written };
};

export class SimulatedUnitPort implements CalibrationPort {
  readonly name = say("simulatedUnit");
  constructor(private readonly tag: string) {}

  read(stick: string): Promise<StickTable> {
    return Promise.resolve(simulatedTables(this.tag)[stick] ?? PLAIN_TABLE);
  }
  write(stick: string, table: StickTable): Promise<void> {
    const memory = load(this.tag);
    store(this.tag, { ...memory, written: { ...memory.written, [stick]: table } });
    return Promise.resolve();
  }
  save(): Promise<void> {
    const memory = load(this.tag);
    store(this.tag, { saved: { ...memory.saved, ...memory.written }, written: {} });
    return Promise.resolve();
  }
  powerCycle(): Promise<void> {
    store(this.tag, { ...load(this.tag), written: {} });
    return Promise.resolve();
  }
}
