/** The outside of a unit, graded apart from its function, by rules that are shown with the grade. */

export const CONDITIONS = ["fine", "light", "marked", "worn"] as const;
export type Condition = (typeof CONDITIONS)[number];

export type ConditionReason = {
  rule: "broken-outside" | "many-marks" | "some-marks" | "residue" | "shop-damage" | "smell";
  count: number;
};
export type ConditionVerdict = { condition: Condition; reasons: ConditionReason[] };

const BROKEN = new Set(["crack", "chewed", "missing-piece"]);
const RESIDUE = new Set(["sticky", "stain", "label-glue"]);
const MANY = 5;
const SOME = 2;

const RULE_GIVES: Record<ConditionReason["rule"], Condition> = {
  "broken-outside": "worn",
  "many-marks": "worn",
  "some-marks": "marked",
  residue: "marked",
  "shop-damage": "marked",
  smell: "marked",
};

/**
 * The worst rule that applies gives the grade; one or two plain marks alone are light use, none is fine. What
 * was cleaned away counts no more.
 */
export function conditionOf(unit: {
  marks: readonly { kind: string }[];
  smell: "none" | "slight" | "strong";
  cleaned: boolean;
  /** damage done here that was not made good */
  damages: number;
}): ConditionVerdict {
  const count = (kinds: Set<string>) => unit.marks.filter((m) => kinds.has(m.kind)).length;
  const broken = count(BROKEN);
  const residue = unit.cleaned ? 0 : count(RESIDUE);
  const plain = unit.marks.length - count(BROKEN) - count(RESIDUE);
  const reasons: ConditionReason[] = [];
  const rule = (name: ConditionReason["rule"], n: number) => n > 0 && reasons.push({ rule: name, count: n });
  rule("broken-outside", broken);
  if (plain > MANY) rule("many-marks", plain);
  else if (plain > SOME) rule("some-marks", plain);
  rule("residue", residue);
  rule("shop-damage", unit.damages);
  if (!unit.cleaned && unit.smell !== "none") rule("smell", 1);
  const least: Condition = plain > 0 ? "light" : "fine";
  const condition = reasons.reduce<Condition>(
    (worst, r) =>
      CONDITIONS.indexOf(RULE_GIVES[r.rule]) > CONDITIONS.indexOf(worst) ? RULE_GIVES[r.rule] : worst,
    least,
  );
  return { condition, reasons };
}
