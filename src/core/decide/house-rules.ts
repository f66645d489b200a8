import { z } from "../base/schema";
import { toolId, TOOLS } from "../mend/tools";
import type { NodeKind } from "../profile/wiring";
import type { PlaceCause } from "./causes";
import type { Route } from "./routes";

/** Rules of the shop that no odds outweigh: what it does not do, whatever it would bring. */

export const houseRulesSchema = z.strictObject({
  /** whether copies go into units that are sold; a customer's or the shop's own take what is agreed */
  copiesForSale: z.boolean().default(true),
  /** new sensors only where click and spring of the stick are sound */
  sensorOnlyOnSound: z.boolean().default(false),
});
export type HouseRules = z.infer<typeof houseRulesSchema>;
export const NO_RULES: HouseRules = { copiesForSale: true, sensorOnlyOnSound: false };

export type RuledOut = "house-copy" | "house-sensor" | "tools";

/** What holds a stick up and brings it back: new sensors on it when it is worn are thrown away. */
const CARRIES: readonly NodeKind[] = ["spring", "post", "frame", "mechanism"];
/** From this chance on it counts as not sound. A house guess. */
const UNSOUND = 0.3;

type Asked = {
  house?: HouseRules | undefined;
  /** names of tools that a route asks for and the shop has not; consumables are no tools */
  lacking?: readonly string[] | undefined;
  forSale: boolean;
  faulty: readonly string[];
  causes: readonly PlaceCause[];
};

/** Which rule of the shop leaves a route out at a place; null where none does. */
export function ruledOut(route: Route, place: string, a: Asked): RuledOut | null {
  const { copiesForSale, sensorOnlyOnSound } = a.house ?? NO_RULES;
  if (route.tools.some((t) => a.lacking?.includes(t))) return "tools";
  if (!copiesForSale && a.forSale && route.part && route.part.make !== "original") return "house-copy";
  if (sensorOnlyOnSound && route.school === "sensor") {
    const unsound = a.causes
      .filter((c) => c.parts.some((p) => CARRIES.includes(p.kind)))
      .reduce((sum, c) => sum + c.probability, 0);
    if (a.faulty.includes(`${place}.click`) || unsound >= UNSOUND) return "house-sensor";
  }
  return null;
}

/** Tools by their names that routes ask for and the shop neither owns nor has something to stand in for. */
export function lackingTools(routes: readonly Route[], owned: ReadonlySet<string>): string[] {
  const known = (name: string) => TOOLS.find((t) => t.id === toolId(name));
  const lacks = (name: string) => {
    const tool = known(name);
    return tool !== undefined && !owned.has(tool.id) && !tool.standIns.some((s) => owned.has(s.id));
  };
  return [...new Set(routes.flatMap((r) => r.tools))].filter(lacks).sort();
}
