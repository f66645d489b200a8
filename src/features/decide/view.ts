import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import type { Disposition } from "@/core/decide/ends";
import type { DecideInput } from "@/core/decide/build";
import { treatedAs } from "@/core/decide/causes";
import { familyOf } from "@/core/decide/families";
import type { Forecast, KeptAdvice } from "@/core/decide/kept";
import type { Route } from "@/core/decide/routes";
import type { Bill } from "@/core/prove/bill";
import { graphOf } from "@/core/diagnosis/graph";
import { listedAs } from "@/core/profile/half";
import type { ModelProfile } from "@/core/profile/profile";
import { standingsOf } from "@/features/case/asked";
import { moneyOfUnit, type UnitMoney } from "@/features/case/mates";
import { billFor } from "@/features/case/bill";
import { unitById } from "@/features/case/facts";
import { modelById, modelByKey } from "@/features/models/deeds";
import { loadRoutes } from "@/features/routes/deeds";
import { loadSettings } from "@/features/settings/settings";
import { rowsBy } from "@/platform/db/batched";
import { rowsOf } from "@/platform/db/joined";
import { together } from "@/platform/deed/base";
import { decideInput } from "./input";
import { nextOf, type NextView } from "./next";

/** What the Decide station shows, and what was decided before. */

export type DecisionView = {
  id: string;
  disposition: Disposition;
  route: string | null;
  why: string;
  faults: number[];
  advised: KeptAdvice;
  forecast: Forecast | null;
  by: string;
  at: string;
};

/** The latest decision of a unit. */
export const decisionBy = rowsBy((db, unitIds) =>
  rowsOf(
    db("decision as d")
      .distinctOn("d.unit_id")
      .whereIn("d.unit_id", unitIds)
      .orderBy([{ column: "d.unit_id" }, { column: "d.at", order: "desc" }]),
    { d: "decision" },
    "d.route",
    "d.unit_id as of",
  ),
);

export async function decisionsOf(db: Knex, unitId: Id<"unit">): Promise<DecisionView[]> {
  const rows = await rowsOf(
    db("decision")
      .join("person", "person.id", "decision.by")
      .where({ unit_id: unitId })
      .orderBy("decision.at", "desc"),
    { decision: "decision", person: "person" },
    "decision.*",
    "person.name as person",
  );
  return rows.map((r) => ({
    id: r.id,
    disposition: r.disposition,
    route: r.route,
    why: r.why,
    faults: r.faults,
    advised: r.advised,
    forecast: r.forecast,
    by: r.person,
    at: r.at.toISOString(),
  }));
}

export type DecideView = {
  input: DecideInput;
  /** the next act with all the advice, so far as it is worked out */
  next: NextView;
  decisions: DecisionView[];
  routeNames: Record<string, string>;
  /** numbers of the faults that wait for the customer's yes, and of those turned down */
  awaiting: number[];
  /** what the customer agreed to so far, and what it comes to; null for a unit of the shop's own */
  bill: Bill | null;
  refused: number[];
  /** of one half: how it can be sold and what a new one is */
  half: UnitMoney["half"];
};

export async function decideView(db: Knex, unitId: Id<"unit">): Promise<DecideView> {
  const unit = await unitById(db, unitId);
  const profile = await modelById(db, unit.profile_id);
  const { settings } = await loadSettings(db);
  const [input, decisions, standings, bill, { half }] = await together(
    db,
    () => decideInput(db, { unit, profile, settings }),
    () => decisionsOf(db, unitId),
    () => standingsOf(db, unitId),
    () => billFor(db, unit),
    () => moneyOfUnit(db, unit, profile.body),
  );
  const numbers = (state: string) =>
    standings
      .filter((s) => s.state === state)
      .flatMap((s) => input.faults.find((f) => f.id === s.faultId)?.number ?? []);
  return {
    input,
    next: nextOf(unitId, input),
    decisions,
    routeNames: Object.fromEntries(input.routes.map((r) => [r.id, r.name])),
    bill,
    awaiting: numbers("waiting"),
    refused: numbers("no"),
    half,
  };
}

/**
 * Whether a route can act at a place: one for some kinds of sensor needs a stick that has, or may have, one
 * of them.
 */
function actsOn(route: Route, profile: ModelProfile, revision: string | null, place: string): boolean {
  if (!route.sensors) return true;
  const stick = profile.controls.find((c) => c.id === place);
  if (stick?.kind !== "stick") return false;
  const known = revision === null ? undefined : stick.sensorByRevision?.[revision];
  const mayOf = () => {
    if (known) return [known];
    if (revision === null) return [stick.sensor, ...Object.values(stick.sensorByRevision ?? {})];
    return [stick.sensor];
  };
  const may = mayOf();
  return may.some((s) => route.sensors!.includes(s));
}

/** As what a fault at a place may be treated: by what fails there, and by every kind of part behind it. */
function treatedIn(profile: ModelProfile, revision: string | null): (place: string) => readonly string[] {
  const graph = profile.wiring ? graphOf(profile.wiring, revision) : null;
  return (place) => {
    const family = familyOf(profile, place, null);
    if (family === null) return [];
    const behind = (graph?.restsOn.get(place) ?? []).map((i) => treatedAs(graph!.kinds[i]!, family));
    return [family, ...(family === "stick-drift" ? ["stick-worn", "stick-range"] : []), ...behind];
  };
}

/**
 * The routes that treat something of a model, with the places that each is for and what its part costs there.
 */
export async function routesFor(
  db: Knex,
  profile: ModelProfile,
  revision: string | null,
): Promise<{ id: string; name: string; places: string[]; part: string; partMinor: number }[]> {
  const newest = (await modelByKey(db, profile.id))?.body ?? profile;
  const { value: routes } = await loadRoutes(db);
  const all = [...newest.controls, ...newest.functions].map((x) => x.id);
  const treatedAt = treatedIn(newest, revision);
  return routes.flatMap((r) => {
    if (r.models && !r.models.includes(listedAs(profile))) return [];
    const slots = (newest.slots ?? []).filter(
      (s) => r.part && s.kind === r.part.kind && s.offers.some((o) => o.make === r.part!.make),
    );
    const families = new Set<string>(r.treats.map((t) => t.family));
    const treated = all.filter(
      // magnets and wheels only where there are some
      (id) => actsOn(r, newest, revision, id) && treatedAt(id).some((family) => families.has(family)),
    );
    const places = r.part ? treated.filter((id) => slots.some((s) => s.serves.includes(id))) : treated;
    if (places.length === 0) return [];
    const offer = slots[0]?.offers.find((o) => o.make === r.part?.make);
    return [
      {
        id: r.id,
        name: r.name,
        places,
        part: slots[0] ? `${slots[0].name}, ${r.part!.make.replace("-", " ")}` : "",
        partMinor: offer?.priceMinor ?? 0,
      },
    ];
  });
}
