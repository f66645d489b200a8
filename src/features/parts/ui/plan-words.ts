import type { DeedInput, Settings } from "@/contract/deeds";
import type { PlanWhy } from "@/core/allocate/explain";
import type { Chosen, Plan } from "@/core/allocate/problem";
import type { PlanSubject, PlanView } from "@/features/parts/plan";
import { CHOICE_WORDS } from "@/features/parts/words/text";
import { say } from "@/features/parts/words/words";
import { money } from "@/text/format";
import { allOf, inTurn } from "@/text/lists";

/** What a plan says of each unit, and what of it is put aside. */

export const subjectOf = (view: PlanView, id: string): PlanSubject => view.subjects.find((s) => s.id === id)!;
const tagOf = (view: PlanView, id: string): string =>
  view.subjects.find((s) => s.id === id)?.tag ?? view.donors.find((d) => d.id === id)?.tag ?? "";

export const wayName = (s: PlanSubject, routes: readonly string[]): string =>
  inTurn(routes.map((id) => s.ways[id] ?? id));

export const CHOICE_ORDER: Record<Chosen["option"]["choice"], number> = {
  mend: 0,
  strip: 1,
  sell: 2,
  keep: 3,
  "hand-back": 4,
  scrap: 5,
};

function fromWords(view: PlanView, from: string): string {
  if (from === "stock") return say("fromTheShelf");
  if (from === "ordered") return say("thatIsOnItsWay");
  const tag = tagOf(view, from);
  return tag ? say("outOfFrom", { from: tag }) : say("toBeBought");
}

/** Why a unit gets what the plan chose: what it takes, what it frees, and what it would do alone. */
export function whyWords(view: PlanView, shop: Settings, c: Chosen, w: PlanWhy): string {
  const partName = (part: string) => view.parts[part] ?? part;
  const takes = w.takes.map(
    (t) => `${t.count > 1 ? `${t.count} ` : ""}${partName(t.part)} ${fromWords(view, t.from)}`,
  );
  const frees = w.frees.map((f) =>
    say("itsPartFreesTo", { part: partName(f.part), to: allOf(f.to.map((id) => tagOf(view, id))) }),
  );
  const said = [...takes, ...frees].join("; ");
  if (!w.alone || w.alone.option === c.option.id) return said;
  const options = view.problem.units.find((u) => u.id === c.unit)!.options;
  const alone = say("aloneItWouldBringAloneChoice", {
    alone: money(Math.round(w.alone.value), shop),
    choice: CHOICE_WORDS[options.find((o) => o.id === w.alone!.option)!.choice],
  });
  return said + alone;
}

type Applied = DeedInput<"plan.apply">;

const linesOf = (plan: Plan): Applied["lines"] =>
  plan.chosen.flatMap((c) =>
    c.flows.flatMap(({ slot, part, count, source }): Applied["lines"] => {
      const line = { unitId: c.unit, slot, part, count };
      if (source.kind === "stock") return [{ ...line, source: { kind: "stock" } }];
      if (source.kind !== "donor") return [];
      return [{ ...line, source: { kind: "donor", donorUnitId: source.donor, donorSlot: source.slot } }];
    }),
  );

const WHY_LETTERS = 300;
/**
 * A plan as what is put aside now: a unit that is to be stripped is still whole, its parts are put aside once
 * it is a donor.
 */
export function appliedOf(view: PlanView, shop: Settings, plan: Plan, why: readonly PlanWhy[]): Applied {
  const standing = new Set<string>(view.donors.map((d) => d.id));
  const lines = linesOf(plan).filter((l) => l.source.kind === "stock" || standing.has(l.source.donorUnitId));
  const choices = plan.chosen.map((c) => ({
    unitId: c.unit,
    choice: CHOICE_WORDS[c.option.choice],
    why: whyWords(
      view,
      shop,
      c,
      why.find((w) => w.unit === c.unit)!,
    ).slice(0, WHY_LETTERS),
  }));
  return { lines, choices, valueMinor: Math.round(plan.value) };
}
