import { functionsOf, type ModelProfile } from "../profile/profile";

/** What has to be so before a unit of a model is tested: otherwise the tester fails and the unit is blamed. */

export type Prepare =
  | { code: "charged" }
  | { code: "fresh-cells"; cells: number }
  | { code: "bond"; steps: string | null }
  | { code: "cable" }
  | { code: "headset" }
  | { code: "quiet" }
  | { code: "drivers"; words: string }
  | { code: "side-effect"; words: string }
  | { code: "two-ways" };

/** In the order in which it is done: power, bond, what is plugged in, what the host needs, what to expect. */
export function prepareFor(profile: ModelProfile, revision: string | null): Prepare[] {
  const kinds = new Set(functionsOf(profile, revision).map((f) => f.kind));
  const loose = profile.power.filter((p) => p.kind === "loose").reduce((sum, p) => sum + p.cells, 0);
  const byCable = kinds.has("port") || kinds.has("cord");
  const said = profile.prepare;
  return [
    ...(profile.power.some((p) => p.kind === "built-in") ? [{ code: "charged" } as const] : []),
    ...(loose > 0 ? [{ code: "fresh-cells", cells: loose } as const] : []),
    ...(kinds.has("radio") ? [{ code: "bond", steps: said?.bond ?? null } as const] : []),
    ...(byCable ? [{ code: "cable" } as const] : []),
    ...(kinds.has("jack") ? [{ code: "headset" } as const] : []),
    ...(kinds.has("microphone") || kinds.has("speaker") ? [{ code: "quiet" } as const] : []),
    ...(said?.drivers ? [{ code: "drivers", words: said.drivers } as const] : []),
    ...(byCable && kinds.has("radio") ? [{ code: "two-ways" } as const] : []),
    ...(said?.sideEffects ?? []).map((words) => ({ code: "side-effect", words }) as const),
  ];
}

/**
 * What stands on the table to test a unit of a model: those with the same can follow each other without setting up anew.
 * Charge, bonds and side effects are the unit's own and no matter of the host.
 */
export const hostOf = (profile: ModelProfile, revision: string | null): string =>
  prepareFor(profile, revision)
    .flatMap((p) => {
      if (p.code === "drivers") return [`drivers ${p.words}`];
      return p.code === "cable" || p.code === "headset" || p.code === "two-ways" ? [p.code] : [];
    })
    .join(", ");
