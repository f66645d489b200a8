import type { DeedInput } from "@/contract/deeds";
import { intakeSchema, type Mark } from "@/contract/intake";
import type { StoredProfile } from "@/features/models/deeds";
import { storePhoto } from "@/features/intake/photos";
import { measureName, reasonText } from "@/text/measures";
import { placeWords } from "@/text/names";
import { type DemoUnit, LAST_STEP, type Story } from "./units";
import { demoPicture } from "./picture";
import { dayOf, daysLater } from "@/core/days/days";
import { one } from "@/core/base/one";
import type { Id } from "@/core/base/ids";

import { HOUR, type Workshop } from "./workshop";
import { test, functions, proofSheet, traced, readings } from "./measured";

/** The way of one unit of the demonstration, as far as its story goes. */

/** How a story that does not end mended was decided. */
const ENDS_AS: Partial<Record<Story, DeedInput<"decision.take">["disposition"]>> = {
  donor: "strip",
  scrap: "scrap",
  "returned-unmended": "hand-back",
  "sold-as-found": "sell-as-it-is",
};

/**
 * Takes one unit as far as its story goes; `hoursAgo` falls from step to step, so that the record reads as
 * it would have.
 */
export async function unit(shop: Workshop, u: DemoUnit, index: number): Promise<void> {
  const reach = LAST_STEP[u.story];
  const profile = shop.models.find((m) => m.key === u.model)!;
  let ago = u.daysAgo * 24 + 1;
  const later = (hours: number) => (ago = Math.max(0.05, ago - hours));
  const { tag, unitId } = await takeIn(shop, u, profile, ago);
  shop.lastTag = tag;
  if (u.picture) {
    const picture = await demoPicture(profile.body, index);
    await storePhoto(shop.db, shop.as(u.by, ago - 0.02), unitId, "as it came", picture);
  }
  if (u.story === "dried" || u.dried)
    await shop.deed(u.by, later(20), "unit.clear-liquid", {
      unitId,
      version: 1,
      opened: true,
      unplugged: true,
      inspected: true,
      dry: true,
    });
  if (reach >= 1 && u.quick !== false)
    await test(shop, u, profile, unitId, "quick", later(0.4), u.faults, index);
  if (reach >= 2) await test(shop, u, profile, unitId, "full", later(1.2), u.faults, index + 100);
  if (reach >= 2) await functions(shop, u, unitId, profile, later(0.2), u.failing ?? []);
  if (reach >= 3) await nameFaults(shop, u, tag, later(0.3));
  if (reach >= 3 && (reach >= 4 || u.failedMends || ENDS_AS[u.story]))
    await decide(shop, u, tag, unitId, later(0.2));
  if (u.failedMends) await failed(shop, u, tag, unitId, later(Math.min(6, ago / 3)));
  if (u.asked) await ask(shop, u, tag, unitId);
  if (u.hold) await hold(shop, u, tag, unitId, later(0.2));
  if (reach >= 4) await mend(shop, u, tag, unitId, later(Math.min(30, ago / 2)));
  if (reach >= 5) {
    if (u.mend) await test(shop, u, profile, unitId, "full", later(2), u.after ?? {}, index + 200);
    await functions(
      shop,
      u,
      unitId,
      profile,
      later(0.2),
      reach >= 6 || !u.failing ? (u.stillFailing ?? []) : u.failing,
      reach === 5 ? 2 : 0,
    );
    if (reach >= 6) await proofSheet(shop, u, tag, unitId, later(0.2));
  }
  await traced(shop, u, unitId, later(0.1));
  if (u.bench) await readings(shop, u, unitId, profile, later(0.3), index);
  if (u.reference)
    await shop.deed(u.by, ago, "unit.set-reference", {
      unitId,
      version: (await shop.unitFor(u.by, tag, ago)).unit.version,
      on: true,
    });
  await end(shop, u, tag, unitId, later(3));
  if (u.handed) await handOver(shop, u, tag, unitId, later(Math.min(20, ago / 3)));
  if (u.cameBack) await returned(shop, u, tag, unitId);
  if (u.tray) await shop.deed(u.by, 0.04, "unit.to-tray", { unitId, tray: u.tray });
}

async function takeIn(shop: Workshop, u: DemoUnit, profile: StoredProfile, ago: number) {
  const originOf = (): DeedInput<"unit.take-in">["origin"] => {
    if (u.lot) return { source: "lot", lotId: shop.ids.get(u.lot)! };
    if (u.customer) return { source: "customer", customerId: shop.ids.get(u.customer)! };
    return {
      source: "single",
      seller: u.seller ?? "quayside market",
      priceMinor: u.price ?? 900,
      carriageMinor: 390,
    };
  };
  const origin = originOf();
  const all = profile.body.accessories.map((a) => a.id);
  const revisionOf = () => {
    if (u.revision === undefined) {
      if (profile.body.revisions.length === 1) return profile.body.revisions[0]!.id;
      return null;
    }
    return u.revision;
  };
  return shop.deed(u.by, ago, "unit.take-in", {
    profileKey: u.model,
    revision: revisionOf(),
    origin,
    claim: u.claim,
    swollen: u.story === "quarantine",
    liquid: u.story === "wet" || u.story === "dried" || u.dried === true,
    intake: intakeSchema.parse({
      smell: u.smell ?? "none",
      grime: u.grime ?? "slight",
      rattle: u.rattle ?? "none",
      openedBefore: u.openedBefore ?? false,
      history: u.history ?? "",
      marks: (u.marks ?? []).map(([kind, x, y]): Mark => ({
        kind,
        x,
        y,
        face: "front",
        words: "",
        gone: null,
      })),
      accessories: all.filter((a) => !u.missing?.includes(a)),
      parcel: u.parcel ?? "not-noted",
      differs: u.differs ?? "",
      costLimitMinor: u.costLimit ?? null,
      mate: u.isMate ? { tag: shop.lastTag } : null,
    }),
    toTray: false,
  });
}

async function nameFaults(shop: Workshop, u: DemoUnit, tag: string, ago: number): Promise<void> {
  const view = await shop.unitFor(u.by, tag, ago);
  const test = view.recordings.find((r) => r.purpose === "full")!;
  const { analysis } = one(await shop.db("recording").where({ id: test.id }).first("analysis"));
  for (const [place, result] of Object.entries(
    analysis.controls as Record<string, { reasons: Parameters<typeof reasonText>[0][] }>,
  ))
    for (const r of result.reasons.filter((x) => x.grade === "fail" || x.grade === "C").slice(0, 2))
      await shop.deed(u.by, ago, "fault.add", {
        unitId: view.unit.id,
        place,
        kind: measureName(r.measure),
        words: reasonText(r),
        foundWhen: "test",
        measure: r.measure,
        recordingId: test.id,
      });
  for (const f of u.failing ?? [])
    await shop.deed(u.by, ago, "fault.add", {
      unitId: view.unit.id,
      place: f,
      kind: "does not work",
      words: "",
      foundWhen: "test",
      measure: null,
      recordingId: null,
    });
  for (const [place, kind] of u.alsoFound ?? [])
    await shop.deed(u.by, ago, "fault.add", {
      unitId: view.unit.id,
      place,
      kind,
      words: "",
      foundWhen: "opened",
      measure: null,
      recordingId: null,
    });
}

/** What was decided before the work, so that there is a forecast to hold the fact against. */
async function decide(
  shop: Workshop,
  u: DemoUnit,
  tag: string,
  unitId: Id<"unit">,
  ago: number,
): Promise<void> {
  const view = await shop.unitFor(u.by, tag, ago);
  if (!view.faults.some((f) => f.status === "open")) return;
  const mending = u.mend ?? u.failedMends;
  await shop.deed(u.by, ago, "decision.take", {
    unitId,
    version: view.unit.version,
    disposition: ENDS_AS[u.story] ?? "mend",
    route: null,
    why: mending ? "the bench's plan for the day" : (u.known ?? "agreed at the bench").slice(0, 300),
  });
}

async function hold(
  shop: Workshop,
  u: DemoUnit,
  tag: string,
  unitId: Id<"unit">,
  ago: number,
): Promise<void> {
  const view = await shop.unitFor(u.by, tag, ago);
  await shop.deed(u.by, ago, "decision.take", {
    unitId,
    version: view.unit.version,
    disposition: "hold",
    route: u.hold!,
    why: "waits for its part",
  });
}

async function failed(
  shop: Workshop,
  u: DemoUnit,
  tag: string,
  unitId: Id<"unit">,
  ago: number,
): Promise<void> {
  const fault = (await shop.unitFor(u.by, tag, ago)).faults.find((f) => f.status === "open")!;
  for (const [i, [what, part, minutes, route, partMinor]] of u.failedMends!.entries())
    await shop.deed(u.by, ago - i * 0.05, "mend.add", {
      unitId,
      faultId: fault.id,
      what,
      part,
      minutes,
      remark: "",
      opened: true,
      settlesFault: false,
      route,
      partMinor,
    });
}

async function ask(shop: Workshop, u: DemoUnit, tag: string, unitId: Id<"unit">): Promise<void> {
  const view = await shop.unitFor(u.by, tag, u.asked!.hoursAgo);
  const open = view.faults.filter((f) => f.status === "open");
  const faults = open.filter((f, i) => open.findIndex((x) => x.place === f.place) === i);
  await shop.deed(u.by, u.asked!.hoursAgo, "question.send", {
    unitId,
    days: 10,
    body: {
      v: 1,
      findings: "The left stick rests off centre even after cleaning, and one face button misses presses.",
      faults: faults.map((f) => ({
        faultId: f.id,
        number: f.number,
        found: `${placeWords(f.place)}: ${f.kind}`,
        options: [
          {
            key: "sensor",
            words: "new sensors or pad, parts that last",
            priceMinor: 1900,
            days: 4,
            warrantyDays: 90,
          },
          { key: "module", words: "the whole part new", priceMinor: 2600, days: 7, warrantyDays: 90 },
        ],
      })),
    },
  });
}

async function mend(
  shop: Workshop,
  u: DemoUnit,
  tag: string,
  unitId: Id<"unit">,
  ago: number,
): Promise<void> {
  if (!u.mend) return;
  const view = await shop.unitFor(u.by, tag, ago);
  const open = view.faults.filter((f) => f.status === "open");
  for (const [i, entry] of u.mend.entries()) {
    const fault = open[Math.min(i, open.length - 1)];
    await shop.deed(u.by, ago - i * 0.05, "mend.add", {
      unitId,
      faultId: fault?.id ?? null,
      what: entry[0],
      part: entry[1],
      minutes: entry[2],
      remark: "",
      opened: true,
      settlesFault: true,
      route: entry[3] ?? null,
      partMinor: entry[4] ?? 0,
      cause: u.cause ?? "not-known",
      provisional: u.goodForNow
        ? { fallback: u.goodForNow[0], reviewOn: daysLater(await shop.today(), u.goodForNow[1]) }
        : null,
    });
  }
  for (const [part, slot, count] of u.fits ?? [])
    await shop.deed(u.by, ago - 0.1, "stock.take", {
      batchId: shop.ids.get(part)!,
      count: count ?? 1,
      for: { kind: "fit", unitId, slot, mendId: null },
      why: "",
    });
  const left = (await shop.unitFor(u.by, tag, ago)).faults.filter((f) => f.status === "open");
  if (!u.leavesOpen)
    for (const f of left)
      await shop.deed(u.by, ago - 0.2, "fault.settle", {
        faultId: f.id,
        version: f.version,
        status: "mended",
        why: "same cause",
      });
}

async function end(shop: Workshop, u: DemoUnit, tag: string, unitId: Id<"unit">, ago: number): Promise<void> {
  const { version } = (await shop.unitFor(u.by, tag, ago)).unit;
  if (u.story === "released")
    await shop.deed(u.by, ago, "unit.release", {
      unitId,
      version,
      priceMinor: u.sells ?? 3200,
      warrantyDays: u.warrantyDays ?? 90,
      known: u.known ?? "",
      limit: "",
      reason: "",
    });
  if (u.story === "released-limit")
    await shop.deed("ida", ago, "unit.release", {
      unitId,
      version,
      priceMinor: u.sells ?? 1900,
      warrantyDays: 30,
      known: u.known ?? "",
      limit: u.limit!,
      reason: u.reason!,
    });
  if (
    u.story === "donor" ||
    u.story === "scrap" ||
    u.story === "returned-unmended" ||
    u.story === "sold-as-found"
  )
    await shop.deed(u.by, ago, "unit.end", {
      unitId,
      version,
      kind: u.story,
      known: u.known!,
      priceMinor: u.sells ?? null,
    });
}

async function handOver(
  shop: Workshop,
  u: DemoUnit,
  tag: string,
  unitId: Id<"unit">,
  ago: number,
): Promise<void> {
  const view = await shop.unitFor(u.by, tag, ago);
  const [channel, feesMinor, buyer, contact] = u.handed!;
  await shop.deed(u.by, ago, "unit.hand-over", {
    unitId,
    kind: view.unit.source === "customer" ? "returned" : "sold",
    channel,
    priceMinor: view.endings[0]!.priceMinor,
    feesMinor,
    handedOn: dayOf(new Date(shop.now - ago * HOUR), view.settings.timeZone),
    buyer,
    contact,
  });
}

async function returned(shop: Workshop, u: DemoUnit, tag: string, unitId: Id<"unit">): Promise<void> {
  const ago = u.cameBack!.daysAgo * 24;
  const view = await shop.unitFor(u.by, tag, ago);
  const fitted = await shop.db("fitted").where({ unit_id: unitId, removed_at: null }).first("id");
  await shop.deed(u.by, ago, "unit.came-back", {
    unitId,
    version: view.unit.version,
    mendId: view.mends[0]!.id,
    fittedId: fitted?.id ?? null,
    words: u.cameBack!.words,
  });
}
