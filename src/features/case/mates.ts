import "server-only";

import type { Knex } from "knex";

import type { Mate } from "@/contract/intake";
import type { Id } from "@/core/base/ids";
import type { Fact } from "@/core/case/facts";
import { dayOf } from "@/core/days/days";
import { halfMoney, type HalfMoney, shareOfPair } from "@/core/decide/half-market";
import { likePlace } from "@/core/profile/half";
import type { ModelProfile } from "@/core/profile/profile";
import type { Market } from "@/core/profile/slots";
import { isUnderCover } from "@/core/record/makers-cover";
import type { Ending, NextAction } from "@/core/record/standing";
import { modelById, modelByKey, modelsById } from "@/features/models/deeds";
import { loadModelMoney } from "@/features/routes/deeds";
import { rowsOf } from "@/platform/db/joined";
import type { UnitRow } from "@/platform/db/tables";
import { Refused, together } from "@/platform/deed/base";

/**
 * The units that one belongs with: the other half of a pair, or others of its set. Which belong together is written at
 * whichever came later; each is reached from each.
 */

export type MateHere = {
  tag: string;
  model: string;
  next: NextAction;
  ending: Ending | null;
  /** places of this unit that are like those which failed there */
  failed: { place: string; at: string; fault: string }[];
  /** the last day of our own cover on it, once it was handed over */
  ourCover: string | null;
  makersCover: { runs: boolean; until: string | null };
  mends: { what: string; at: string }[];
};
export type MatesOf = {
  here: MateHere[];
  /** what is told of a mate that is not here */
  told: Mate | null;
};

type OfSet = Pick<UnitRow, "id" | "tag" | "intake">;

/** A set is small; a mistake in it is no reason to read the whole workshop. */
const FARTHEST = 4;

async function setOf(db: Knex, unit: OfSet): Promise<UnitRow[]> {
  const known = new Map<string, UnitRow>();
  let at: OfSet[] = [unit];
  for (let far = 0; far < FARTHEST && at.length > 0; far++) {
    const tags = at.map((u) => u.tag);
    const named = at.flatMap((u) => u.intake.mate?.tag || []);
    const rows = await db("unit")
      .where((q) => q.whereIn("tag", named).orWhereRaw("intake #>> '{mate,tag}' = any(?)", [tags]))
      .whereNotIn("tag", [unit.tag, ...known.keys()]);
    for (const row of rows) known.set(row.tag, row);
    at = rows;
  }
  return [...known.values()].sort((a, b) => (a.tag < b.tag ? -1 : 1));
}

/** Everything that a station wants to know of the units which this one belongs with. */
export async function matesOf(
  db: Knex,
  unit: OfSet,
  profile: ModelProfile,
  zone: string,
  today = dayOf(new Date(), zone),
): Promise<MatesOf> {
  const told = unit.intake.mate && unit.intake.mate.tag === "" ? unit.intake.mate : null;
  const rows = await setOf(db, unit);
  if (rows.length === 0) return { here: [], told };
  const ids = rows.map((r) => r.id);
  const [models, faults, mends, covers, like] = await together(
    db,
    () => modelsById(db, [...new Set(rows.map((r) => r.profile_id))]),
    () => failuresOf(db, ids),
    () =>
      rowsOf(
        db("mend as m").whereIn("m.unit_id", ids).orderBy("m.at"),
        { m: "mend" },
        "m.unit_id",
        "m.what",
        "m.at",
      ),
    () =>
      rowsOf(
        db("handover as h").whereIn("h.unit_id", ids).orderBy("h.at"),
        { h: "handover" },
        "h.unit_id",
        "h.unit_until",
      ),
    () => likeOf(db, profile),
  );
  const here = rows.map((r): MateHere => {
    const model = models.find((m) => m.id === r.profile_id)!.body;
    return {
      tag: r.tag,
      model: model.name,
      next: r.next_action,
      ending: r.ending,
      failed: faults.flatMap((f) => {
        const place = f.unit_id === r.id ? like(model, f.place) : null;
        return place === null ? [] : [{ place, at: f.at.toISOString(), fault: f.id }];
      }),
      ourCover: covers.filter((c) => c.unit_id === r.id).at(-1)?.unit_until ?? null,
      makersCover: { runs: isUnderCover(r.intake, today), until: r.intake.coverUntil },
      mends: mends.flatMap((m) => (m.unit_id === r.id ? [{ what: m.what, at: m.at.toISOString() }] : [])),
    };
  });
  return { here, told };
}

const failuresOf = (db: Knex, ids: Id<"unit">[]) =>
  rowsOf(
    db("fault as f").whereIn("f.unit_id", ids).whereNot("f.status", "withdrawn").orderBy("f.at"),
    { f: "fault" },
    "f.id",
    "f.unit_id",
    "f.place",
    "f.at",
  );

/** Which place of a unit is like a place of its mate: of the other half by the pair's twins, of an equal one the same. */
async function likeOf(db: Knex, own: ModelProfile) {
  const pair = own.half ? (await modelByKey(db, own.half.of))?.body : null;
  const places = new Set([...own.controls, ...own.functions].map((p) => p.id));
  return (model: ModelProfile, place: string): string | null => {
    let like: string | null = null;
    if (model.id === own.id) like = place;
    else if (pair && model.half?.of === pair.id) like = likePlace(pair, place);
    return like !== null && places.has(like) ? like : null;
  };
}

/** That its mate failed, as facts of the case of this unit. */
export async function mateFacts(
  db: Knex,
  unit: OfSet & { receivedAt: Date },
  profile: ModelProfile,
): Promise<Fact[]> {
  const { here, told } = await matesOf(db, unit, profile, "UTC");
  return [
    ...here.flatMap((m) =>
      m.failed.map((f): Fact => ({
        id: `mate ${m.tag} ${f.fault}`,
        at: f.at,
        who: null,
        kind: "mate",
        place: f.place,
        tag: m.tag,
        words: "",
      })),
    ),
    ...(told?.state === "faulty" && told.failedAt !== ""
      ? [
          {
            id: "mate told",
            at: unit.receivedAt.toISOString(),
            who: null,
            kind: "mate" as const,
            place: told.failedAt,
            tag: "",
            words: told.mended,
          },
        ]
      : []),
  ];
}

/** Refuses a mate that cannot be one: itself, the same half, a half of another model, or one that has its mate. */
export async function mustBeItsMate(
  db: Knex,
  own: { tag: string | null; profile: ModelProfile },
  tag: string,
): Promise<void> {
  if (tag === "") return;
  if (tag === own.tag) throw new Refused({ code: "not-its-mate", tag, why: "itself" });
  const row = await db("unit").where({ tag }).first();
  if (!row) throw new Refused({ code: "not-found", what: `unit ${tag}` });
  const { body } = await modelById(db, row.profile_id);
  const half = own.profile.half;
  if ((half || body.half) && half?.of !== body.half?.of)
    throw new Refused({ code: "not-its-mate", tag, why: "other-model" });
  if (half && half.id === body.half?.id) throw new Refused({ code: "not-its-mate", tag, why: "same-half" });
  if (half && (await setOf(db, row)).some((u) => u.tag !== own.tag))
    throw new Refused({ code: "not-its-mate", tag, why: "taken" });
}

export type UnitMoney = Awaited<ReturnType<typeof loadModelMoney>>["value"] & {
  /** of one half alone: how it can be sold; null for a whole unit */
  half: (Omit<HalfMoney, "market"> & { pair: Market; alone: Market; mate: string | null }) | null;
};

/**
 * What a unit fetches and costs: of a model as the shop keeps it, of one half as its mate lets it be sold. A customer has the
 * other half, unless it is told lost.
 */
export async function moneyOfUnit(
  db: Knex,
  unit: Pick<UnitRow, "id" | "tag" | "intake" | "source">,
  profile: ModelProfile,
): Promise<UnitMoney> {
  const { value: own } = await loadModelMoney(db, profile);
  const pairOf = profile.half ? await modelByKey(db, profile.half.of) : null;
  if (!profile.half || !pairOf) return { ...own, half: null };
  const { value: pair } = await loadModelMoney(db, pairOf.body);
  const mate = (await setOf(db, unit)).find((u) => u.ending === null || u.ending === "released") ?? null;
  const isThere = mate !== null || (unit.source === "customer" && unit.intake.mate?.state !== "lost");
  const { market, ...how } = halfMoney(own.market, pair.market, profile.half.soldAlone, isThere);
  return {
    ...own,
    market,
    half: { ...how, pair: pair.market, alone: own.market, mate: mate?.tag ?? null },
  };
}

/** What is asked for it at the release: of a half that goes with its mate its share of the pair. */
export const marketToAsk = ({ market, half }: UnitMoney): Market =>
  half?.sold === "with-mate" ? shareOfPair(half.pair, half.alone) : market;

/** Refuses to sell a half without its mate, where it is not sold alone: the mate goes with it, or went before. */
export async function mustGoWithMate(db: Knex, unit: UnitRow, profile: ModelProfile): Promise<void> {
  if (unit.source === "customer" || !profile.half || profile.half.soldAlone) return;
  const mates = await setOf(db, unit);
  const ready = mates.some(
    (m) => m.ending === "released" || (m.ending === null && m.next_action === "release"),
  );
  if (ready) return;
  const mate = mates.find((m) => m.ending === null) ?? null;
  throw new Refused({
    code: "not-without-mate",
    mate: mate?.tag ?? null,
    stands: mate?.next_action ?? null,
  });
}
