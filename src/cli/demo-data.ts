/**
 * Loads the demonstration workshop once: people, models, lots, customers and about 40 units at every stage.
 */
import { randomUUID } from "node:crypto";

import type { Knex } from "knex";

import type { DeedInput, DeedName, ValueOf } from "@/contract/deeds";
import { intakeSchema, type Mark } from "@/contract/intake";
import { seeded } from "@/core/math/random";
import { protocolOf, USUAL_MINUTES } from "@/core/protocol/protocol";
import { HOUSE_RISK, samplingPlan } from "@/core/parts/sampling";
import { SimulatedPiece } from "@/core/simulate/pieces";
import { SimulatedController } from "@/core/simulate/controller";
import { BENCH_PRESETS, simulatedReading } from "@/core/simulate/instruments";
import type { ControllerFaults } from "@/core/simulate/faults";
import { simulateFullTest } from "@/core/simulate/run";
import type { MappedControl } from "@/core/input/input";
import { controlsOf, functionsOf, profileMap, rulesOf } from "@/core/profile/profile";
import { QuickLook } from "@/core/quicklook/quick-look";
import { writeRecordingCsv } from "@/core/recording/csv";
import { connect } from "@/platform/db/connection";
import { migrate, rollBack } from "@/platform/db/migrate";
import type { Actor } from "@/platform/deed/base";
import { doDeed } from "@/features/deeds";
import { listModels, type StoredProfile } from "@/features/models/deeds";
import { insertPerson } from "@/features/people/deeds";
import { storePhoto } from "@/features/intake/photos";
import { storeRecording } from "@/features/test/recordings";
import { loadSettings } from "@/features/settings/settings";
import { importShippedProfiles, shippedCatalogue } from "@/features/models/shipped";
import { unitView } from "@/features/units/view";
import { measureName, reasonText } from "@/text/measures";
import { placeWords } from "@/text/names";
import { DEMO_SHOP, DEMO_UNITS, type DemoUnit, LAST_STEP, type Story } from "./demo-units";
import { demoMend } from "./demo-mend";
import { demoPicture } from "./demo-picture";
import { dayOf, daysLater } from "@/core/days/days";
import { one } from "@/core/base/one";
import type { Id } from "@/core/base/ids";

const HOUR = 3600_000;
/** How a story that does not end mended was decided. */
const ENDS_AS: Partial<Record<Story, DeedInput<"decision.take">["disposition"]>> = {
  donor: "strip",
  scrap: "scrap",
  "returned-unmended": "hand-back",
  "sold-as-found": "sell-as-it-is",
};

class Demo {
  private readonly now = Date.now();
  private readonly actors = new Map<string, Actor>();
  private readonly ids = new Map<string, string>();
  private models: StoredProfile[] = [];

  constructor(private readonly db: Knex) {}

  async people(): Promise<void> {
    for (const { name, role, password } of DEMO_SHOP.people) {
      const id = await insertPerson(this.db, name, role, password);
      this.actors.set(name, { id, name, role });
    }
    await this.shop();
    await importShippedProfiles(this.db, this.actors.get("ida")!.id);
    this.models = await listModels(this.db);
  }

  private async shop(): Promise<void> {
    const { settings, version } = await loadSettings(this.db);
    await this.deed("ida", 15.5 * 24, "settings.save", {
      version,
      settings: { ...settings, shopName: "Reedbed Controller Works", town: "Oxmere" },
    });
  }

  async partners(): Promise<void> {
    for (const { name, contact } of DEMO_SHOP.customers)
      this.ids.set(name, (await this.deed("ida", 15 * 24, "customer.add", { name, contact })).id);
    for (const lot of DEMO_SHOP.lots)
      this.ids.set(lot.code, (await this.deed("ida", 14.5 * 24, "lot.add", lot)).id);
  }

  /** The catalogue and the shelf, each batch measured as far as its rule asks. */
  async stock(): Promise<void> {
    await this.deed("ida", 15.2 * 24, "catalogue.save", { version: 0, catalogue: shippedCatalogue() });
    const { parts } = shippedCatalogue();
    for (const { part, supplier, pieces, costMinor, bin, daysAgo, measured, badShare } of DEMO_SHOP.shelf) {
      const made = await this.deed("oona", daysAgo * 24, "stock.receive", {
        part,
        supplier,
        pieces,
        costMinor,
        bin,
        source: supplier ? "bought" : "found",
      });
      this.ids.set(`${part} ${supplier}`, made.id);
      const check = parts.find((p) => p.code === part)!.check;
      if (!check || measured === 0) continue;
      for (let number = 1; number <= samplingPlan(pieces, HOUSE_RISK).sample; number++) {
        const piece = new SimulatedPiece(number * 977 + pieces, badShare, check.thicknessMm ? 2.1 : 1);
        const ohms = async () => {
          const got = await piece.read("ohms");
          return got.ok ? got.value : null;
        };
        const feelOf = () => {
          if (check.feelMin) {
            if (number % 4 === 0) return 3;
            return 4;
          }
          return null;
        };
        await this.deed("oona", daysAgo * 24 - 0.01 * number, "batch.read", {
          batchId: made.id,
          number,
          reading: {
            ohms: check.imbalanceMax ? [await ohms(), await ohms()] : null,
            thicknessMm: check.thicknessMm ? (check.thicknessMm[0] + check.thicknessMm[1]) / 2 : null,
            feel: feelOf(),
            tells: check.tells ? [] : null,
          },
          instrument: "simulated meter and gauge",
          tookMs: Math.round(check.minutes * 60_000 * (0.8 + 0.05 * (number % 8))),
        });
      }
      const row = one(await this.db("batch").where({ id: made.id }).first("version"));
      await this.deed("oona", daysAgo * 24 - 1, "batch.judge", {
        batchId: made.id,
        version: row.version,
        verdict: "accept",
        why: "",
      });
    }
    const used = (part: string, supplier: string, count: number, why: string, daysAgo: number) =>
      this.deed("bram", daysAgo * 24, "stock.take", {
        batchId: this.ids.get(`${part} ${supplier}`)!,
        count,
        for: { kind: "use", unitId: null },
        why,
      });
    await used("ALCOHOL", "tidewater-parts", 380, "cleaning", 3);
    await used("SOLDER", "tidewater-parts", 22, "stick modules", 4);
    await used("SWABS", "longshore-packs", 90, "cleaning", 2);
  }

  /** Orders on their way, once the units are there. */
  async orders(): Promise<void> {
    await this.deed("ida", 50, "order.place", {
      supplier: "harbour-originals",
      carriageMinor: 590,
      days: 8,
      lines: [{ part: "SM-DUN-O", pack: 1, packs: 2, costMinor: 1800 }],
    });
  }

  /**
   * Takes one unit as far as its story goes; `hoursAgo` falls from step to step, so that the record reads as
   * it would have.
   */
  async unit(u: DemoUnit, index: number): Promise<void> {
    const reach = LAST_STEP[u.story];
    const profile = this.models.find((m) => m.key === u.model)!;
    let ago = u.daysAgo * 24 + 1;
    const later = (hours: number) => (ago = Math.max(0.05, ago - hours));
    const { tag, unitId } = await this.takeIn(u, profile, ago);
    if (u.picture) {
      const picture = await demoPicture(profile.body, index);
      await storePhoto(this.db, this.as(u.by, ago - 0.02), unitId, "as it came", picture);
    }
    if (u.story === "dried" || u.dried)
      await this.deed(u.by, later(20), "unit.clear-liquid", {
        unitId,
        version: 1,
        opened: true,
        unplugged: true,
        inspected: true,
        dry: true,
      });
    if (reach >= 1 && u.quick !== false)
      await this.test(u, profile, unitId, "quick", later(0.4), u.faults, index);
    if (reach >= 2) await this.test(u, profile, unitId, "full", later(1.2), u.faults, index + 100);
    if (reach >= 2) await this.functions(u, unitId, profile, later(0.2), u.failing ?? []);
    if (reach >= 3) await this.nameFaults(u, tag, later(0.3));
    if (reach >= 3 && (reach >= 4 || u.failedMends || ENDS_AS[u.story]))
      await this.decide(u, tag, unitId, later(0.2));
    if (u.failedMends) await this.failed(u, tag, unitId, later(Math.min(6, ago / 3)));
    if (u.asked) await this.ask(u, tag, unitId);
    if (u.hold) await this.hold(u, tag, unitId, later(0.2));
    if (reach >= 4) await this.mend(u, tag, unitId, later(Math.min(30, ago / 2)));
    if (reach >= 5) {
      if (u.mend) await this.test(u, profile, unitId, "full", later(2), u.after ?? {}, index + 200);
      await this.functions(
        u,
        unitId,
        profile,
        later(0.2),
        reach >= 6 || !u.failing ? (u.stillFailing ?? []) : u.failing,
        reach === 5 ? 2 : 0,
      );
      if (reach >= 6) await this.proofSheet(u, tag, unitId, later(0.2));
    }
    await this.traced(u, unitId, later(0.1));
    if (u.bench) await this.readings(u, unitId, profile, later(0.3), index);
    if (u.reference)
      await this.deed(u.by, ago, "unit.set-reference", {
        unitId,
        version: (await unitView(this.db, tag, this.as(u.by, ago)))!.unit.version,
        on: true,
      });
    await this.end(u, tag, unitId, later(3));
    if (u.handed) await this.handOver(u, tag, unitId, later(Math.min(20, ago / 3)));
    if (u.cameBack) await this.returned(u, tag, unitId);
    if (u.tray) await this.deed(u.by, 0.04, "unit.to-tray", { unitId, tray: u.tray });
  }

  private async takeIn(u: DemoUnit, profile: StoredProfile, ago: number) {
    const originOf = (): DeedInput<"unit.take-in">["origin"] => {
      if (u.lot) return { source: "lot", lotId: this.ids.get(u.lot)! };
      if (u.customer) return { source: "customer", customerId: this.ids.get(u.customer)! };
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
    return this.deed(u.by, ago, "unit.take-in", {
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
        marks: (u.marks ?? []).map(([kind, x, y]): Mark => ({ kind, x, y, words: "", gone: null })),
        accessories: all.filter((a) => !u.missing?.includes(a)),
        parcel: u.parcel ?? "not-noted",
        differs: u.differs ?? "",
        costLimitMinor: u.costLimit ?? null,
      }),
      toTray: false,
    });
  }

  private async test(
    u: DemoUnit,
    profile: StoredProfile,
    unitId: Id<"unit">,
    purpose: "quick" | "full",
    ago: number,
    faults: ControllerFaults,
    seed: number,
  ): Promise<void> {
    const revision = u.revision ?? null;
    const controls = controlsOf(profile.body, revision) as (MappedControl & { rim?: boolean })[];
    const settings = { seed, rateHz: 100, bits: 8, faults };
    let recording;
    if (purpose === "full") recording = simulateFullTest(controls, settings);
    else {
      const source = new SimulatedController(controls, settings);
      const look = new QuickLook(profileMap(profile.body, revision), rulesOf(profile.body), source.channels);
      source.obey({ kind: "prompt", step: "free", control: "*" });
      for (let t = 100; t < 90_000 && !look.state().done; t += 100) look.add(source.readUntil(t));
      recording = look.recording();
    }
    const lasted = recording.t[recording.length - 1]!;
    const head = {
      id: randomUUID(),
      unitId,
      purpose,
      source: "simulated" as const,
      // which machine it was is not written down, so a proof on any other is not another tester
      tester: { label: `simulated, bench 1, seed ${seed}`, host: "" },
      startedAgoMs: lasted,
    };
    await storeRecording(
      this.db,
      this.as(u.by, ago),
      head,
      Buffer.from([...writeRecordingCsv(recording)].join("")),
    );
  }

  private async functions(
    u: DemoUnit,
    unitId: Id<"unit">,
    profile: StoredProfile,
    ago: number,
    failing: string[],
    leave = 0,
  ): Promise<void> {
    const all = functionsOf(profile.body, u.revision ?? null);
    for (const f of all.slice(0, all.length - leave))
      await this.deed(u.by, ago, "function.check", {
        unitId,
        functionId: f.id,
        result: failing.includes(f.id) ? "fail" : "pass",
        note: "",
      });
  }

  /** The rest of the proof: every line of the sheet answered, and the charge read. */
  private async proofSheet(u: DemoUnit, tag: string, unitId: Id<"unit">, ago: number): Promise<void> {
    const { proofSheet } = (await unitView(this.db, tag, this.as(u.by, ago)))!;
    for (const [i, line] of proofSheet.entries())
      if (!u.unproven?.includes(line.key))
        await this.deed(u.by, ago - i * 0.01, "proof.answer", {
          unitId,
          key: line.key,
          result: "pass",
          value: line.key === "storage" ? 0.48 : null,
        });
  }

  /** What was decided before the work, so that there is a forecast to hold the fact against. */
  private async decide(u: DemoUnit, tag: string, unitId: Id<"unit">, ago: number): Promise<void> {
    const view = (await unitView(this.db, tag, this.as(u.by, ago)))!;
    if (!view.faults.some((f) => f.status === "open")) return;
    const mending = u.mend ?? u.failedMends;
    await this.deed(u.by, ago, "decision.take", {
      unitId,
      version: view.unit.version,
      disposition: ENDS_AS[u.story] ?? "mend",
      route: null,
      why: mending ? "the bench's plan for the day" : (u.known ?? "agreed at the bench").slice(0, 300),
    });
  }

  private async hold(u: DemoUnit, tag: string, unitId: Id<"unit">, ago: number): Promise<void> {
    const view = (await unitView(this.db, tag, this.as(u.by, ago)))!;
    await this.deed(u.by, ago, "decision.take", {
      unitId,
      version: view.unit.version,
      disposition: "hold",
      route: u.hold!,
      why: "waits for its part",
    });
  }

  private async failed(u: DemoUnit, tag: string, unitId: Id<"unit">, ago: number): Promise<void> {
    const fault = (await unitView(this.db, tag, this.as(u.by, ago)))!.faults.find(
      (f) => f.status === "open",
    )!;
    for (const [i, [what, part, minutes, route, partMinor]] of u.failedMends!.entries())
      await this.deed(u.by, ago - i * 0.05, "mend.add", {
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

  private async ask(u: DemoUnit, tag: string, unitId: Id<"unit">): Promise<void> {
    const view = (await unitView(this.db, tag, this.as(u.by, u.asked!.hoursAgo)))!;
    const open = view.faults.filter((f) => f.status === "open");
    const faults = open.filter((f, i) => open.findIndex((x) => x.place === f.place) === i);
    await this.deed(u.by, u.asked!.hoursAgo, "question.send", {
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

  private async today(): Promise<string> {
    return dayOf(new Date(this.now), (await loadSettings(this.db)).settings.timeZone);
  }

  private async handOver(u: DemoUnit, tag: string, unitId: Id<"unit">, ago: number): Promise<void> {
    const view = (await unitView(this.db, tag, this.as(u.by, ago)))!;
    const [channel, feesMinor, buyer, contact] = u.handed!;
    await this.deed(u.by, ago, "unit.hand-over", {
      unitId,
      kind: view.unit.source === "customer" ? "returned" : "sold",
      channel,
      priceMinor: view.endings[0]!.priceMinor,
      feesMinor,
      handedOn: dayOf(new Date(this.now - ago * HOUR), view.settings.timeZone),
      buyer,
      contact,
    });
  }

  private async returned(u: DemoUnit, tag: string, unitId: Id<"unit">): Promise<void> {
    const ago = u.cameBack!.daysAgo * 24;
    const view = (await unitView(this.db, tag, this.as(u.by, ago)))!;
    const fitted = await this.db("fitted").where({ unit_id: unitId, removed_at: null }).first("id");
    await this.deed(u.by, ago, "unit.came-back", {
      unitId,
      version: view.unit.version,
      mendId: view.mends[0]!.id,
      fittedId: fitted?.id ?? null,
      words: u.cameBack!.words,
    });
  }

  async listings(): Promise<void> {
    for (const [i, l] of DEMO_SHOP.listings.entries())
      await this.deed("ida", 40 - i * 9, "listing.keep", {
        ...l,
        status: (["watched", "bought", "passed"] as const)[i]!,
      });
  }

  /** The trail toward the cause: points read, places looked at, tries and loose pieces. */
  private async traced(u: DemoUnit, unitId: Id<"unit">, ago: number): Promise<void> {
    for (const [target, value] of Object.entries(u.points ?? {}))
      await this.deed(u.by, ago, "find.observe", {
        unitId,
        kind: "point",
        target,
        outcome: "read",
        value,
        note: "",
      });
    for (const [target, outcome] of u.seen ?? [])
      await this.deed(u.by, ago, "find.observe", {
        unitId,
        kind: "place",
        target,
        outcome,
        value: null,
        note: "",
      });
    for (const [what, foundAt] of u.loose ?? [])
      await this.deed(u.by, ago, "fragment.add", { unitId, what, foundAt });
    for (const [suspect, action, expects, outcome] of u.tried ?? []) {
      await this.deed(u.by, ago, "try.add", {
        unitId,
        suspect,
        action,
        expects,
        what: `${action} the ${suspect}`,
      });
      const row = one(
        await this.db("attempt").where({ unit_id: unitId }).orderBy("number", "desc").first("id"),
      );
      if (outcome)
        await this.deed(u.by, ago, "try.settle", { tryId: row.id, version: 1, outcome, undone: null });
    }
  }

  /** What the bench measures of it, by the made-up instruments, in the order of the protocol. */
  private async readings(
    u: DemoUnit,
    unitId: Id<"unit">,
    profile: StoredProfile,
    ago: number,
    seed: number,
  ): Promise<void> {
    const chance = seeded(seed);
    const functions = functionsOf(profile.body, u.revision ?? null);
    for (const step of protocolOf(profile.body, u.revision ?? null, "full")) {
      if (u.benchOnly && !u.benchOnly.includes(step.method)) continue;
      const supply = profile.body.power.find((p) => (p.half ?? "main") === step.subject) ?? null;
      const functionKind = functions.find((f) => f.id === step.functionId)?.kind;
      const reading = simulatedReading(
        { ...step, functionKind },
        supply,
        seed * 31 + step.id.length,
        BENCH_PRESETS[u.bench!]!,
      );
      if (!reading) continue;
      await this.deed(u.by, ago, "reading.take", {
        unitId,
        reading,
        instrument: `simulated, ${u.bench}`,
        host: "demo data",
        tookMs: Math.round(60_000 * USUAL_MINUTES[step.method] * chance.between(0.7, 1.6)),
      });
    }
  }

  private async nameFaults(u: DemoUnit, tag: string, ago: number): Promise<void> {
    const view = (await unitView(this.db, tag, this.as(u.by, ago)))!;
    const test = view.recordings.find((r) => r.purpose === "full")!;
    const { analysis } = one(await this.db("recording").where({ id: test.id }).first("analysis"));
    for (const [place, result] of Object.entries(
      analysis.controls as Record<string, { reasons: Parameters<typeof reasonText>[0][] }>,
    ))
      for (const r of result.reasons.filter((x) => x.grade === "fail" || x.grade === "C").slice(0, 2))
        await this.deed(u.by, ago, "fault.add", {
          unitId: view.unit.id,
          place,
          kind: measureName(r.measure),
          words: reasonText(r),
          foundWhen: "test",
          measure: r.measure,
          recordingId: test.id,
        });
    for (const f of u.failing ?? [])
      await this.deed(u.by, ago, "fault.add", {
        unitId: view.unit.id,
        place: f,
        kind: "does not work",
        words: "",
        foundWhen: "test",
        measure: null,
        recordingId: null,
      });
    for (const [place, kind] of u.alsoFound ?? [])
      await this.deed(u.by, ago, "fault.add", {
        unitId: view.unit.id,
        place,
        kind,
        words: "",
        foundWhen: "opened",
        measure: null,
        recordingId: null,
      });
  }

  private async mend(u: DemoUnit, tag: string, unitId: Id<"unit">, ago: number): Promise<void> {
    if (!u.mend) return;
    const view = (await unitView(this.db, tag, this.as(u.by, ago)))!;
    const open = view.faults.filter((f) => f.status === "open");
    for (const [i, entry] of u.mend.entries()) {
      const fault = open[Math.min(i, open.length - 1)];
      await this.deed(u.by, ago - i * 0.05, "mend.add", {
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
          ? { fallback: u.goodForNow[0], reviewOn: daysLater(await this.today(), u.goodForNow[1]) }
          : null,
      });
    }
    for (const [part, slot, count] of u.fits ?? [])
      await this.deed(u.by, ago - 0.1, "stock.take", {
        batchId: this.ids.get(part)!,
        count: count ?? 1,
        for: { kind: "fit", unitId, slot, mendId: null },
        why: "",
      });
    const left = (await unitView(this.db, tag, this.as(u.by, ago)))!.faults.filter(
      (f) => f.status === "open",
    );
    if (!u.leavesOpen)
      for (const f of left)
        await this.deed(u.by, ago - 0.2, "fault.settle", {
          faultId: f.id,
          version: f.version,
          status: "mended",
          why: "same cause",
        });
  }

  private async end(u: DemoUnit, tag: string, unitId: Id<"unit">, ago: number): Promise<void> {
    const { version } = (await unitView(this.db, tag, this.as(u.by, ago)))!.unit;
    if (u.story === "released")
      await this.deed(u.by, ago, "unit.release", {
        unitId,
        version,
        priceMinor: u.sells ?? 3200,
        warrantyDays: u.warrantyDays ?? 90,
        known: u.known ?? "",
        limit: "",
        reason: "",
      });
    if (u.story === "released-limit")
      await this.deed("ida", ago, "unit.release", {
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
      await this.deed(u.by, ago, "unit.end", {
        unitId,
        version,
        kind: u.story,
        known: u.known!,
        priceMinor: u.sells ?? null,
      });
  }

  async mending(): Promise<void> {
    await demoMend(
      this.db,
      (by, ago, name, input) => this.deed(by, ago, name, input),
      (name) => this.as(name, 0),
      this.now,
    );
  }

  private as(name: string, hoursAgo: number): Actor {
    return { ...this.actors.get(name)!, at: new Date(this.now - hoursAgo * HOUR) };
  }

  private async deed<D extends DeedName>(
    by: string,
    hoursAgo: number,
    deed: D,
    input: DeedInput<D>,
  ): Promise<ValueOf<D>> {
    const reply = await doDeed(this.db, this.as(by, hoursAgo), deed, randomUUID(), input);
    if (!reply.ok)
      throw new Error(`${deed}: ${JSON.stringify(reply.problem)} for ${JSON.stringify(input).slice(0, 300)}`);
    return reply.value as ValueOf<D>;
  }
}

const db = connect(process.env.DATABASE_URL!, 4);
try {
  if (process.argv.includes("--reset")) await rollBack(db);
  await migrate(db);
  const loaded = await db("setting").where({ key: "demo" }).first();
  const used = await db("person").first("id");
  if (!loaded && used) console.log("This database already has people in it; the demo data is left out.");
  if (!loaded && !used) {
    console.log("Loading the demo data (about a minute) ...");
    // all or nothing: a load that is cut short leaves an empty workshop, and the next start loads again
    await db.transaction(async (trx) => {
      const demo = new Demo(trx);
      await demo.people();
      await demo.partners();
      await demo.stock();
      for (const [i, u] of DEMO_UNITS.entries()) await demo.unit(u, i + 1);
      await demo.listings();
      await demo.orders();
      await demo.mending();
      await trx("setting").insert({ key: "demo", value: JSON.stringify({ v: 1 }) });
    });
  }
} finally {
  await db.destroy();
}
