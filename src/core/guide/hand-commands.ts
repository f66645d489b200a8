import { type InputMap, type MappedControl, readValue } from "../input/input";
import { PRESSED } from "../signal/idle";
import type { Analysis } from "../analyse/analyse";

/**
 * The buttons that command the test when held for a second, so that the hands stay on the controller. Null
 * until one has passed.
 */
export type CommandButtons = { again: string | null; skip: string | null };

export const HOLD_MS = 1000;

/**
 * Listens for a held button. Only one that already passed in this session commands, never the one under test,
 * and never one that fires with another or that another fires.
 */
export class HandCommands {
  private readonly since = new Map<string, number>();
  private readonly spent = new Set<string>();
  private readonly order: MappedControl[];

  constructor(map: InputMap) {
    this.order = map.controls.filter((c) => c.kind === "button");
  }

  buttons(analysis: Analysis | null, underTest: string): CommandButtons {
    const results = Object.values(analysis?.controls ?? {});
    const bridged = new Set(results.flatMap((r) => (r.kind === "button" ? (r.firesWith ?? []) : [])));
    const sure = this.order
      .map((c) => c.id)
      .filter((id) => {
        const r = analysis?.controls[id];
        const passed = r?.kind === "button" && (r.grade === "A" || r.grade === "B");
        return passed && (r.firesWith?.length ?? 0) === 0 && !bridged.has(id) && id !== underTest;
      });
    return { again: sure[0] ?? null, skip: sure[1] ?? null };
  }

  /** The command that a held button gives at time t, once per hold. */
  heard(
    t: number,
    axes: readonly number[],
    buttons: readonly number[],
    analysis: Analysis | null,
    underTest: string,
  ): "repeat" | "skip" | null {
    if (analysis === null) return null;
    for (const c of this.order) {
      if (readValue(c, axes, buttons).v <= PRESSED) {
        this.since.delete(c.id);
        this.spent.delete(c.id);
      } else if (!this.since.has(c.id)) this.since.set(c.id, t);
    }
    const held = [...this.since].filter(([id, from]) => t - from >= HOLD_MS && !this.spent.has(id));
    if (held.length !== 1) return null; // two at once is a grip, not a command
    const { again, skip } = this.buttons(analysis, underTest);
    const id = held[0]![0];
    if (id !== again && id !== skip) return null;
    this.spent.add(id);
    return id === again ? "repeat" : "skip";
  }
}
