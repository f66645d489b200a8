import { z } from "../base/schema";

import type { School } from "../decide/routes";
import { MAKES } from "../profile/slots";
import { BREAKS_SEEN, type SeenBroken } from "./seen-broken";
import type { StandingReading } from "./standing-reading";

/** What a buyer is told beside the figures, each from a fact of the record. */

export const disclosureSchema = z.discriminatedUnion("code", [
  z.strictObject({ code: z.literal("part"), name: z.string(), make: z.enum(MAKES) }),
  z.strictObject({ code: z.literal("typed-part"), name: z.string(), what: z.string() }),
  z.strictObject({ code: z.literal("donor-part"), name: z.string() }),
  z.strictObject({ code: z.literal("route"), words: z.string() }),
  z.strictObject({ code: z.literal("glue"), words: z.string() }),
  z.strictObject({ code: z.literal("shim"), words: z.string() }),
  z.strictObject({ code: z.literal("upgrade"), words: z.string() }),
  z.strictObject({ code: z.literal("marks"), kinds: z.array(z.string()) }),
  z.strictObject({ code: z.literal("lost"), names: z.array(z.string()) }),
  z.strictObject({ code: z.literal("damage"), place: z.string(), what: z.string() }),
  z.strictObject({ code: z.literal("missing"), names: z.array(z.string()) }),
  z.strictObject({ code: z.literal("function-lost"), names: z.array(z.string()) }),
  z.strictObject({
    code: z.literal("reading"),
    reading: z.string(),
    subject: z.string(),
    verdict: z.enum(["fail", "doubtful"]),
  }),
  z.strictObject({
    code: z.literal("broken"),
    name: z.string(),
    finding: z.enum(BREAKS_SEEN),
  }),
  z.strictObject({ code: z.literal("accepted-fault"), words: z.string() }),
  z.strictObject({ code: z.literal("provisional"), words: z.string() }),
]);
export type Disclosure = z.infer<typeof disclosureSchema>;

export type Told = {
  /** parts that the shop fitted and that are still in it, named with their place */
  parts: readonly { name: string; place: string; make: (typeof MAKES)[number] | null; used: boolean }[];
  /** `listed`: its part stands among the fitted ones; `provisional`: it is good for now only */
  mends: readonly { what: string; part: string; remark: string; listed: boolean; provisional: boolean }[];
  /** routes that were gone */
  routes: readonly { school: School; name: string; discloses: string }[];
  /** kinds of marks that are still there */
  marks: readonly string[];
  /** what a work order could not put back */
  lost: readonly string[];
  /** damage of our own that was not made good */
  damages: readonly { place: string; what: string }[];
  /** accessories that it came without, and functions that fail or were taken out */
  missing: readonly string[];
  without: readonly string[];
  /** readings at the bench that failed or were too close to tell, and that nothing done since has ended */
  readings: readonly StandingReading[];
  /** parts that were seen broken and not made good */
  broken: readonly SeenBroken[];
  /** faults that were accepted, with their place */
  accepted: readonly string[];
};

const GLUE = /\b(glue|glued|adhesive|epoxy)\b/i;
const SHIM = /\b(shim|shimmed|spacer|pad behind)\b/i;

export function disclosuresOf(told: Told): Disclosure[] {
  const named = (p: Told["parts"][number]): string => `${p.name} (${p.place})`;
  const says = (m: Told["mends"][number], pattern: RegExp): boolean =>
    pattern.test(`${m.what} ${m.part} ${m.remark}`);
  const all = <C extends Disclosure>(list: readonly string[], of: (list: string[]) => C): C[] =>
    list.length > 0 ? [of([...list])] : [];
  return [
    ...told.parts.flatMap((p): Disclosure[] =>
      p.make === null || p.make === "original" ? [] : [{ code: "part", name: named(p), make: p.make }],
    ),
    // a part that was only written down: its make is not on record, so it is told as it stands there
    ...told.mends
      .filter((m) => m.part.trim() !== "" && !m.listed)
      .map((m): Disclosure => ({ code: "typed-part", name: m.part, what: m.what })),
    ...told.parts.filter((p) => p.used).map((p): Disclosure => ({ code: "donor-part", name: named(p) })),
    ...told.routes
      .filter((r) => r.discloses !== "" && r.school !== "upgrade")
      .map((r): Disclosure => ({ code: "route", words: r.discloses })),
    ...told.routes
      .filter((r) => r.school === "upgrade")
      .map((r): Disclosure => ({ code: "upgrade", words: r.discloses || r.name })),
    ...told.mends.filter((m) => says(m, GLUE)).map((m): Disclosure => ({ code: "glue", words: m.what })),
    ...told.mends.filter((m) => says(m, SHIM)).map((m): Disclosure => ({ code: "shim", words: m.what })),
    ...told.mends
      .filter((m) => m.provisional)
      .map((m): Disclosure => ({ code: "provisional", words: m.what })),
    ...all([...new Set(told.marks.map((kind) => kind.replaceAll("-", " ")))], (kinds) => ({
      code: "marks",
      kinds,
    })),
    ...all(told.lost, (names) => ({ code: "lost", names })),
    ...told.damages.map(({ place, what }): Disclosure => ({ code: "damage", place, what })),
    ...all(told.missing, (names) => ({ code: "missing", names })),
    ...all(told.without, (names) => ({ code: "function-lost", names })),
    ...told.readings.map((r): Disclosure => ({ code: "reading", ...r })),
    ...told.broken.map(({ name, finding }): Disclosure => ({ code: "broken", name, finding })),
    ...told.accepted.map((words): Disclosure => ({ code: "accepted-fault", words })),
  ];
}
