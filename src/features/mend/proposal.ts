import "server-only";

import type { Knex } from "knex";

import type { DeedParsed } from "@/contract/deeds";
import type { Advice } from "@/core/decide/advise";
import type { DecideInput } from "@/core/decide/build";
import { familyOf } from "@/core/decide/families";
import { type Planned, plannedWork } from "@/core/decide/plan";
import { routeChance } from "@/core/decide/route-chance";
import type { Route } from "@/core/decide/routes";
import { refTo } from "@/core/mend/ref";
import { suggestedLevel } from "@/core/mend/cleaning";
import type { ModelProfile } from "@/core/profile/profile";
import { agreedOf } from "@/features/case/asked";
import { isIn, NOTHING_IN, partsIn } from "@/features/case/bill";
import { decideInput } from "@/features/decide/input";
import { adviceFor } from "@/features/decide/kept";
import { checkNamed } from "@/features/find/words/text";
import { say } from "@/features/mend/words/words";
import type { StoredProfile } from "@/features/models/deeds";
import { loadRoutes } from "@/features/routes/deeds";
import { loadSettings } from "@/features/settings/settings";
import type { UnitRow } from "@/platform/db/tables";
import { together } from "@/platform/deed/base";
import { looksOf } from "./looks";
import { openOrder } from "./order";
import { failedSince } from "./rungs";

/** What a work order for a unit would hold: its open faults by the whole ladder, and the next rung where one failed. */

type Target = DeedParsed<"work.open">["targets"][number];
export type Proposed = Target & {
  number: number | null;
  place: string;
  /** chance that it works by all that is known now; null for a way of one's own */
  works: number | null;
};
/** A check that pays before the first attempt. */
export type ProposedLook = { id: string; name: string };
export type Proposal = NextRungs & {
  targets: Proposed[];
  cleaning: ReturnType<typeof suggestedLevel>;
  calibrate: string[];
};

type OpenFault = {
  id: Target["faultId"] & string;
  number: number;
  place: string;
  kind: string;
  measure: string | null;
};

type Known = { input: DecideInput; advice: Advice; planned: Planned };
async function knownOf(db: Knex, unit: UnitRow, model: StoredProfile): Promise<Known | null> {
  const { settings } = await loadSettings(db);
  const input = await decideInput(db, { unit, profile: model, settings });
  if (input.faults.length === 0) return null;
  const { advice } = await adviceFor(unit.id, input);
  return { input, advice, planned: plannedWork(advice) };
}

type Rung = { route: string; works: number };

/** The rungs at a place: what was decided, as long as it can act there and was not in vain, then what is advised. */
function rungsAt(known: Known, profile: ModelProfile, fault: OpenFault, decided: Route | null): Rung[] {
  const { input, advice, planned } = known;
  const { place } = fault;
  const advised = (planned.ladders.get(place) ?? []).map((t): Rung => ({
    route: advice.options[t.attempt]!.route.id,
    works: t.works,
  }));
  const isTried = (route: string) => input.tried.some((t) => t.place === place && t.route === route);
  const family = familyOf(profile, place, fault.measure);
  if (!decided || !family || isTried(decided.id)) return advised;
  const offered = advice.options.find(
    (o) => !o.twin && o.route.id === decided.id && o.places.includes(place),
  );
  const works = offered?.chance.mean ?? routeChance(input, decided, { place, family })?.mean ?? null;
  if (works === null) return advised;
  return [{ route: decided.id, works }, ...advised.filter((r) => r.route !== decided.id)];
}

function slotFor(profile: ModelProfile, place: string, kind: string | null): string | null {
  const serving = (profile.slots ?? []).filter((s) => s.serves.includes(place));
  const fits = serving.find((s) => kind !== null && s.kind === kind);
  return (fits ?? [...serving].sort((a, b) => a.stripMinutes - b.stripMinutes)[0])?.id ?? null;
}

/** Everything that a proposal is worked out from. */
async function readFor(db: Knex, unit: UnitRow, model: StoredProfile) {
  const [faults, routes, decision, agreed] = await together(
    db,
    (): Promise<OpenFault[]> =>
      db("fault")
        .where({ unit_id: unit.id, status: "open" })
        .orderBy("number")
        .select("id", "number", "place", "kind", "measure"),
    () => loadRoutes(db),
    (): Promise<{ route: string | null } | undefined> =>
      db("decision").where({ unit_id: unit.id }).orderBy("at", "desc").first("route"),
    () => agreedOf(db, unit.id),
  );
  const profile = model.body;
  const routeOf = (id: string | null | undefined) => routes.value.find((r) => r.id === id) ?? null;
  const known = faults.length > 0 && unit.ending === null ? await knownOf(db, unit, model) : null;
  const proposed = (f: OpenFault, decided: Route | null): Proposed => {
    const [first, ...then] = known ? rungsAt(known, profile, f, decided) : [];
    const route = routeOf(first?.route);
    return {
      faultId: f.id,
      number: f.number,
      place: f.place,
      what: route ? route.name : say("mendKind", { kind: f.kind }),
      slot: slotFor(profile, f.place, route?.part?.kind ?? null),
      route: route?.id ?? null,
      then: then.map((r) => r.route),
      works: first?.works ?? null,
    };
  };
  const first = (f: OpenFault): Proposed => {
    // what the customer said yes to is the route, whatever was decided before
    const yes = agreed.find((a) => a.faultId === f.id);
    return proposed(f, routeOf(yes?.choice) ?? routeOf(decision?.route));
  };
  const names = Object.fromEntries(routes.value.map((r) => [r.id, r.name]));
  // whether a control or function works is asked at its test, and not in the middle of a mend
  const looks = (known?.planned.looks ?? []).flatMap((i): ProposedLook[] => {
    const { id, kind, name } = known!.advice.checks[i]!;
    return kind === "test" ? [] : [{ id, name: checkNamed(kind, name) }];
  });
  const wanted = agreed.some((a) => a.extras.length > 0) ? await partsIn(db, unit) : NOTHING_IN;
  // what the customer wanted done with it, until it is in
  const likes = agreed.flatMap(({ extras, choice }): Proposed[] =>
    extras.flatMap((like): Proposed[] => {
      const route = routeOf(like.route ?? choice);
      if (!route || isIn(wanted, like)) return [];
      const slot = like.slot ?? slotFor(profile, like.place, route.part?.kind ?? null);
      const named = { faultId: null, number: null, place: like.place, what: like.words };
      return [{ ...named, slot, route: route.id, then: [], works: null }];
    }),
  );
  return { faults, names, looks, first, likes, advised: (f: OpenFault) => proposed(f, null) };
}

export type NextRungs = {
  /** where a mend of the order was in vain, what comes next */
  next: Proposed[];
  /** where what was looked at speaks for another route than the one that is held, by the number of the held */
  instead: { key: number; rung: Proposed }[];
  /** what is looked at before any of it */
  looks: ProposedLook[];
  names: Record<string, string>;
};
const NOTHING_NEXT: NextRungs = { next: [], instead: [], looks: [], names: {} };

/** Of faults that were mended in the open order and still fail: what comes next by all that is known now. */
export async function nextRungs(db: Knex, unit: UnitRow, model: StoredProfile): Promise<NextRungs> {
  const order = await openOrder(db, unit.id);
  if (!order) return NOTHING_NEXT;
  const failed = await failedSince(db, order);
  const seen = await looksOf(db, order);
  const hasLooked = seen.length > 0 && seen.every((l) => l.answered);
  if (failed.length === 0 && !hasLooked) return NOTHING_NEXT;
  const { faults, names, looks, advised } = await readFor(db, unit, model);
  const waiting = order.order.body.targets.filter((t) => !order.state.tasks.has(refTo("mend", t.key)));
  return {
    next: faults.flatMap((f) => (failed.includes(f.id) ? [advised(f)] : [])),
    instead: waiting.flatMap((t) => {
      const fault = hasLooked ? faults.find((f) => f.id === t.faultId) : undefined;
      const rung = fault && advised(fault);
      return rung && rung.route !== null && rung.route !== t.route ? [{ key: t.key, rung }] : [];
    }),
    looks: looks.filter((l) => !seen.some((s) => s.id === l.id)),
    names,
  };
}

export async function proposeWork(db: Knex, unit: UnitRow, model: StoredProfile): Promise<Proposal> {
  const { faults, names, looks, first, likes } = await readFor(db, unit, model);
  const profile = model.body;
  const seen = new Set<string>();
  const targets = faults.flatMap((f) => {
    if (seen.has(f.place)) return []; // several symptoms of one place are mended together
    seen.add(f.place);
    return [first(f)];
  });
  targets.push(...likes.filter((l) => !seen.has(l.place)));
  const contact = faults.some((f) =>
    profile.controls.some((c) => c.id === f.place && c.kind === "button" && c.contact !== "clicky"),
  );
  const due = new Set(profile.guide?.calibration?.dueAfter ?? []);
  return {
    targets,
    cleaning: suggestedLevel(
      {
        smell: unit.intake.smell,
        grime: unit.intake.grime,
        hygiene: unit.intake.hygiene,
        liquid: unit.liquid,
      },
      contact,
    ),
    calibrate: (profile.guide?.calibration?.sticks ?? []).filter((stick) =>
      targets.some((t) => t.place === stick && t.slot !== null && due.has(t.slot)),
    ),
    ...(await nextRungs(db, unit, model)),
    looks,
    names,
  };
}
