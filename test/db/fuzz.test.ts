import { randomUUID } from "node:crypto";

import type { Knex } from "knex";
import sharp from "sharp";

import { DEEDS, type DeedInput, type DeedName } from "@/contract/deeds";
import { intakeSchema } from "@/contract/intake";
import { HOUSE_LEXICON } from "@/core/claim/lexicon";
import { HOUSE_ROUTES } from "@/core/decide/routes";
import { type Chance, seeded } from "@/core/math/random";
import type { MappedControl } from "@/core/input/input";
import { profileMap } from "@/core/profile/profile";
import { writeRecordingCsv } from "@/core/recording/csv";
import { simulateFullTest } from "@/core/simulate/run";
import { figuresOf } from "@/features/archive/backup";
import type { Actor } from "@/platform/deed/base";
import { doDeed } from "@/features/deeds";
import { donorView } from "@/features/parts/donors";
import { modelByKey } from "@/features/models/deeds";
import { storePhoto } from "@/features/intake/photos";
import { storeRecording } from "@/features/test/recordings";
import { openSession } from "@/features/account/sessions";
import { loadSettings } from "@/features/settings/settings";
import { shippedCatalogue } from "@/features/models/shipped";
import { benchOf, closeShop, mustFollowTheRecord, openShop, valueOf } from "./shop";
import { one } from "@/core/base/one";
import { countOf } from "@/platform/db/joined";

/**
 * Every deed with an input that goes through, and with many that somebody bent: whatever comes is done or
 * refused in words, never a defect, and what is refused changed nothing. The order of the deeds is the
 * contract's; one that is added here without a valid input does not compile.
 */

const BENT = 30;

let house: Knex;
let db: Knex; // the transaction that each deed is tried in, and that is always taken back
let lead: Actor;
let technician: Actor;

beforeAll(async () => {
  ({ db: house, lead, technician } = await openShop(3));
  db = house;
  await valueOf(await act("catalogue.save", { version: 0, catalogue: shippedCatalogue() }, lead));
});
afterAll(() => closeShop(house));

const { act, takeIn, fullTest, look, ready, release } = benchOf(() => ({ db, technician }));
const versionOf = async (unitId: string): Promise<number> =>
  one(await db("unit").where({ id: unitId }).first("version")).version;

const faultOf = (unitId: string, place = "face.south") =>
  ({
    unitId,
    place,
    kind: "misses",
    words: "",
    foundWhen: "test",
    claimed: false,
    measure: "decision",
    recordingId: null,
  }) as const;
const faulty = async () => {
  const unit = await takeIn();
  const { id } = await valueOf(await act("fault.add", faultOf(unit.unitId)));
  return { ...unit, faultId: id! };
};
const mendOf = (unitId: string, faultId: string | null) => ({
  unitId,
  faultId,
  what: "New dome",
  part: "",
  minutes: 5,
  remark: "",
  opened: true,
  settlesFault: false,
});
const receive = async (part: string, pieces = 5) =>
  (await valueOf(
    await act("stock.receive", { part, supplier: "tidewater-parts", pieces, costMinor: 900, bin: "A1" }),
  )) as {
    id: string;
    code: string;
  };
const dunlin = () => takeIn({ profileKey: "dunlin", revision: null });
const order = async () => {
  const u = await faulty();
  const { id } = await valueOf(
    await act("work.open", {
      unitId: u.unitId,
      targets: [{ faultId: u.faultId, what: "New dome sheet", slot: "dome.centre", route: "dome-dear" }],
      cleaningLevel: 0,
      calibrate: [],
    }),
  );
  return { ...u, orderId: id! };
};
const question = async () => {
  const customer = await valueOf(await act("customer.add", { name: "Orsolya Pike", contact: "" }));
  const { unitId } = await takeIn({ origin: { source: "customer", customerId: customer.id! } });
  const { id } = await valueOf(await act("fault.add", faultOf(unitId)));
  const body = {
    v: 1 as const,
    findings: "worn",
    faults: [
      {
        faultId: id!,
        number: 1,
        found: "face south",
        options: [{ key: "dome", words: "new dome", priceMinor: 900, days: 3, warrantyDays: 90 }],
      },
    ],
  };
  return { unitId, faultId: id!, body };
};
const asked = async () => {
  const q = await question();
  await valueOf(await act("question.send", { unitId: q.unitId, days: 5, body: q.body }));
  return {
    ...q,
    questionId: one(await db("question").where({ unit_id: q.unitId }).first("id")).id as string,
  };
};
const donor = async () => {
  const u = await takeIn();
  await fullTest(u.unitId);
  const version = await versionOf(u.unitId);
  await valueOf(
    await act("unit.end", { unitId: u.unitId, version, kind: "donor", known: "parts", priceMinor: null }),
  );
  return u;
};
const released = async () => {
  const u = await ready();
  await valueOf(await release(u.tag));
  return u;
};
/** A dunlin whose left stick was measured well enough to be calibrated. */
const calibratable = async () => {
  const { unitId } = await dunlin();
  const profile = (await modelByKey(db, "dunlin"))!.body;
  const r = simulateFullTest(profileMap(profile, null).controls as MappedControl[], {
    seed: 921,
    rateHz: 125,
    bits: 8,
    faults: {},
  });
  const id = randomUUID();
  await storeRecording(
    db,
    technician,
    { id, unitId, purpose: "full", source: "simulated", tester: { label: "t", host: "h" }, startedAgoMs: 0 },
    Buffer.from([...writeRecordingCsv(r)].join("")),
  );
  return { unitId, recordingId: id };
};
const TABLE = { centre: [0, 0] as const, low: [-1, -1] as const, high: [1, 1] as const };
const calibration = async () => {
  const c = await calibratable();
  return { ...c, stick: "stick.left", now: TABLE, port: "made up" };
};
const MARK = { kind: "crack" as const, x: 20, y: 20 };
const listing = {
  profileKey: "knot",
  words: "drifts",
  seller: "s",
  priceMinor: 900,
  carriageMinor: 100,
  status: "watched" as const,
};

type Case<D extends DeedName> = { input: DeedInput<D>; by?: Actor };
const VALID: { [D in DeedName]: () => Promise<Case<D>> } = {
  "person.add": async () => ({
    input: { name: "Quill", role: "viewer", password: "nine tame herons walk" },
    by: lead,
  }),
  "person.change": async () => ({
    input: { personId: technician.id, role: "viewer", active: true },
    by: lead,
  }),
  "session.end": async () => {
    await openSession(db, technician.id, { agent: "a", address: "b" });
    return {
      input: { sessionId: one(await db("session").where({ person_id: technician.id }).first("id")).id },
    };
  },
  "person.change-password": async () => ({
    input: { current: "a-long-password", next: "nine tame herons walk" },
  }),
  "profile.import": async () => ({
    input: { profile: { ...(await modelByKey(db, "knot"))!.body, id: "knot-two" } },
  }),
  "customer.add": async () => ({ input: { name: "Orsolya Pike", contact: "" } }),
  "lot.add": async () => ({ input: { code: "L-F", seller: "s", priceMinor: 3000, carriageMinor: 0 } }),
  "unit.take-in": async () => ({
    input: {
      profileKey: "knot",
      revision: "r1",
      origin: { source: "single", seller: "s", priceMinor: 100, carriageMinor: 0 },
      claim: "drifts",
      swollen: false,
      liquid: false,
      intake: intakeSchema.parse({}),
      toTray: true,
    },
  }),
  "unit.edit-intake": async () => {
    const { unit } = await look((await takeIn()).tag);
    const { id: unitId, claim, swollen, liquid, intake, version } = unit;
    return { input: { unitId, version, revision: null, claim: `${claim} now`, swollen, liquid, intake } };
  },
  "cover.give-up": async () => {
    const { unitId } = await takeIn({ intake: intakeSchema.parse({ makersCover: "runs" }) });
    return { input: { unitId, by: "Una Fell, by telephone" } };
  },
  "paper.issue": async () => ({
    input: { unitId: (await takeIn()).unitId, kind: "receipt", contact: "Mill Lane 3" },
  }),
  "paper.correct": async () => {
    const { unitId } = await takeIn();
    const { id } = await valueOf(await act("paper.issue", { unitId, kind: "receipt" }));
    return { input: { unitId, paperId: id!, why: "a wrong name" } };
  },
  "mark.settle": async () => {
    const { unitId } = await takeIn({ intake: intakeSchema.parse({ marks: [{ ...MARK, words: "" }] }) });
    return { input: { unitId, mark: MARK, gone: "new cap" } };
  },
  "recording.take-as-proof": async () => {
    const { unitId } = await takeIn();
    const { id } = (await fullTest(unitId)) as { id: string };
    await db("recording").where({ id }).update({ source: "import" });
    return { input: { recordingId: id, why: "measured at the fair" }, by: lead };
  },
  "unit.to-tray": async () => ({ input: { unitId: (await takeIn()).unitId, tray: 7 } }),
  "unit.clear-liquid": async () => ({
    input: {
      unitId: (await takeIn({ liquid: true })).unitId,
      version: 1,
      opened: true,
      unplugged: true,
      inspected: true,
      dry: true,
    },
  }),
  "function.check": async () => {
    const u = await takeIn();
    const functionId = (await look(u.tag)).profile.functions[0]!.id;
    return { input: { unitId: u.unitId, functionId, result: "pass", note: "" } };
  },
  "reading.take": async () => ({
    input: {
      unitId: (await takeIn()).unitId,
      reading: { kind: "latch", functionId: "strap", tugs: 14, held: 14, releases: 2, letGo: 2 },
      instrument: "typed by hand",
      host: "test",
      tookMs: 60_000,
    },
  }),
  "unit.set-reference": async () => {
    const { unitId } = await takeIn();
    await fullTest(unitId);
    return { input: { unitId, version: await versionOf(unitId), on: true } };
  },
  "find.observe": async () => ({
    input: {
      unitId: (await takeIn()).unitId,
      kind: "function",
      target: "face.west",
      outcome: "dead",
      value: null,
      note: "",
    },
  }),
  "find.withdraw": async () => {
    const { unitId } = await takeIn();
    await act("find.observe", {
      unitId,
      kind: "function",
      target: "face.west",
      outcome: "dead",
      value: null,
      note: "",
    });
    return {
      input: { observationId: one(await db("observation").where({ unit_id: unitId }).first("id")).id },
    };
  },
  "try.add": async () => ({
    input: {
      unitId: (await takeIn()).unitId,
      suspect: "row.face",
      action: "clean",
      expects: "it answers",
      what: "clean",
    },
  }),
  "try.settle": async () => {
    const { unitId } = await takeIn();
    await valueOf(
      await act("try.add", {
        unitId,
        suspect: "row.face",
        action: "clean",
        expects: "it answers",
        what: "clean",
      }),
    );
    const { id } = one(await db("attempt").where({ unit_id: unitId }).first("id"));
    return { input: { tryId: id, version: 1, outcome: "same", undone: null } };
  },
  "fragment.add": async () => ({
    input: { unitId: (await takeIn()).unitId, foundAt: "in the shell", what: "a tooth" },
  }),
  "fragment.match": async () => {
    const { unitId } = await takeIn();
    await valueOf(await act("fragment.add", { unitId, foundAt: "in the shell", what: "a tooth" }));
    const { id } = one(await db("fragment").where({ unit_id: unitId }).first("id"));
    return { input: { fragmentId: id, version: 1, matchedTo: "strap.eye", explained: "" } };
  },
  "halving.start": async () => ({ input: { unitId: (await dunlin()).unitId, pair: "open-closed" } }),
  "halving.add-item": async () => {
    const { unitId } = await dunlin();
    await valueOf(await act("halving.start", { unitId, pair: "open-closed" }));
    const { id } = one(await db("halving").where({ unit_id: unitId }).first("id"));
    return { input: { halvingId: id, version: 1, what: "a screw under the label", node: null } };
  },
  "halving.step": async () => {
    const { unitId } = await dunlin();
    await valueOf(await act("halving.start", { unitId, pair: "open-closed" }));
    return {
      input: {
        halvingId: one(await db("halving").where({ unit_id: unitId }).first("id")).id,
        version: 1,
        result: "give-up",
      },
    };
  },
  "lexicon.save": async () => ({ input: { version: 0, lexicon: HOUSE_LEXICON }, by: lead }),
  "fault.add": async () => ({ input: faultOf((await takeIn()).unitId) }),
  "fault.settle": async () => ({
    input: { faultId: (await faulty()).faultId, version: 1, status: "withdrawn", why: "it was the lead" },
  }),
  "fault.join": async () => {
    const { unitId, faultId } = await faulty();
    const other = await valueOf(
      await act("fault.add", { ...faultOf(unitId), kind: "worn dome", measure: null }),
    );
    return { input: { faultId: (other as { id: string }).id, version: 1, underId: faultId } };
  },
  "symptom.part": async () => {
    const { unitId } = await faulty();
    const { id } = one(await db("fault").where({ unit_id: unitId }).first("id"));
    await valueOf(
      await act("fault.add", { ...faultOf(unitId), kind: "worn dome", measure: null, under: id }),
    );
    const row = one(await db("symptom").where({ unit_id: unitId }).first("id"));
    return { input: { symptomId: row.id } };
  },
  "mend.add": async () => {
    const { unitId, faultId } = await faulty();
    return { input: mendOf(unitId, faultId) };
  },
  "mend.edit": async () => {
    const { unitId, faultId } = await faulty();
    await valueOf(await act("mend.add", mendOf(unitId, faultId)));
    const { id, version } = one(await db("mend").where({ unit_id: unitId }).first("id", "version"));
    return { input: { mendId: id, version, what: "New dome sheet", part: "", minutes: 6, remark: "" } };
  },
  "unit.end": async () => ({
    input: { unitId: (await takeIn()).unitId, version: 1, kind: "scrap", known: "burnt", priceMinor: null },
  }),
  "unit.reopen": async () => {
    const { unitId } = await donor();
    return { input: { unitId, version: await versionOf(unitId), why: "it is wanted whole" }, by: lead };
  },
  "decision.take": async () => ({
    input: {
      unitId: (await takeIn()).unitId,
      version: 1,
      disposition: "strip",
      route: null,
      why: "not worth it",
    },
  }),
  "routes.save": async () => ({ input: { version: 0, routes: HOUSE_ROUTES }, by: lead }),
  "model.save-money": async () => ({
    input: {
      key: "knot",
      version: 0,
      market: (await modelByKey(db, "knot"))!.body.market as never,
      rules: [],
    },
    by: lead,
  }),
  "listing.keep": async () => ({ input: listing }),
  "listing.settle": async () => {
    await valueOf(await act("listing.keep", listing));
    return { input: { listingId: one(await db("listing").first("id")).id, version: 1, status: "passed" } };
  },
  "lot.carriage": async () => {
    const lot = await valueOf(
      await act("lot.add", { code: "L-C", seller: "s", priceMinor: 3000, carriageMinor: 0 }),
    );
    const { version } = one(await db("lot").where({ id: lot.id }).first("version"));
    return { input: { lotId: lot.id!, version, carriageMinor: 450 } };
  },
  "lot.spread": async () => {
    const lot = await valueOf(
      await act("lot.add", { code: "L-S", seller: "s", priceMinor: 3000, carriageMinor: 0 }),
    );
    await takeIn({ origin: { source: "lot", lotId: lot.id! } });
    const { version } = one(await db("lot").where({ id: lot.id }).first("version"));
    return { input: { lotId: lot.id!, version, way: "even", hand: [] } };
  },
  "question.send": async () => {
    const { unitId, body } = await question();
    return { input: { unitId, body, days: 5 } };
  },
  "question.remind": async () => ({ input: { questionId: (await asked()).questionId } }),
  "question.withdraw": async () => ({ input: { questionId: (await asked()).questionId } }),
  "question.record": async () => {
    const { questionId, faultId } = await asked();
    return {
      input: {
        questionId,
        answer: { name: "Orsolya", words: "", changes: false, choices: [{ faultId, choice: "dome" }] },
      },
    };
  },
  "catalogue.save": async () => ({ input: { version: 1, catalogue: shippedCatalogue() }, by: lead }),
  "stock.receive": async () => ({
    input: { part: "SOLDER", supplier: "tidewater-parts", pieces: 10, costMinor: 90, bin: "C1" },
  }),
  "stock.take": async () => ({
    input: { batchId: (await receive("SW-4L-O")).id, count: 1, for: { kind: "use", unitId: null }, why: "" },
  }),
  "stock.move": async () => ({ input: { batchId: (await receive("SW-4L-O")).id, bin: "B2" } }),
  "stock.count": async () => {
    const { id } = await receive("SW-4L-O");
    const { version } = one(await db("batch").where({ id }).first("version"));
    return { input: { batchId: id, version, counted: 4, why: "one fell" } };
  },
  "stock.split": async () => ({
    input: {
      batchId: (await receive("KIT-STICK", 2)).id,
      count: 1,
      lines: [
        { part: "SM-DUN-C", good: 2, bad: 0 },
        { part: "SWABS", good: 9, bad: 1 },
      ],
      bin: "B2",
      why: "",
    },
  }),
  "stock.join": async () => {
    const { id } = await receive("KIT-STICK", 2);
    const lines = [{ part: "SM-DUN-C", good: 2, bad: 0 }];
    await valueOf(await act("stock.split", { batchId: id, count: 1, lines, bin: "B2", why: "" }));
    return { input: { batchId: id } };
  },
  "stock.reserve": async () => ({
    input: {
      unitId: (await dunlin()).unitId,
      slot: "module.left",
      batchId: (await receive("SM-DUN-O")).id,
      count: 1,
    },
  }),
  "stock.unreserve": async () => {
    const { unitId } = await dunlin();
    const { id } = await receive("SM-DUN-O");
    await valueOf(await act("stock.reserve", { unitId, slot: "module.left", batchId: id, count: 1 }));
    return {
      input: { reservationId: one(await db("reservation").where({ unit_id: unitId }).first("id")).id },
    };
  },
  "fitted.remove": async () => ({ input: { fittedId: await fitted(), to: "scrap", bin: null, why: "worn" } }),
  "fitted.feel": async () => ({ input: { fittedId: await fitted(), feel: 4, words: "soft" } }),
  "batch.read": async () => ({
    input: {
      batchId: (await receive("SM-DUN-D")).id,
      number: 1,
      reading: { ohms: null, thicknessMm: null, feel: 4, tells: [] },
      instrument: "hand",
      tookMs: 30_000,
    },
  }),
  "batch.judge": async () => {
    const { id } = await receive("SM-DUN-D");
    const { version } = one(await db("batch").where({ id }).first("version"));
    return { input: { batchId: id, version, verdict: "reject", why: "stiff" } };
  },
  "batch.dispose": async () => {
    const { id } = await receive("SM-DUN-D");
    const { version } = one(await db("batch").where({ id }).first("version"));
    await valueOf(await act("batch.judge", { batchId: id, version, verdict: "reject", why: "stiff" }));
    return { input: { batchId: id, version: version + 1, how: "electrical waste" } };
  },
  "donor.judge": async () => ({
    input: { unitId: (await donor()).unitId, slot: "antenna.radio", state: "bad", words: "torn at the clip" },
  }),
  "donor.take": async () => {
    const { unitId } = await donor();
    const dome = (await donorView(db, unitId)).parts.find((p) => p.slot === "dome.centre")!;
    return {
      input: {
        unitId,
        slot: "dome.centre",
        part: dome.parts[0]!,
        bin: "D1",
        untestedWhy: "",
        forUnitId: null,
        forSlot: null,
      },
    };
  },
  "part.swap": async () => {
    const [a, b] = [await dunlin(), await dunlin()];
    return {
      input: {
        unitId: a.unitId,
        slot: "module.left",
        otherUnitId: b.unitId,
        otherSlot: "module.left",
        part: "SM-DUN-O",
        why: "to see",
      },
    };
  },
  "plan.apply": async () => {
    await receive("MO-CAN-8-O");
    const { unitId } = await dunlin();
    const line = {
      unitId,
      slot: "motor.motor.light",
      part: "MO-CAN-8-O",
      count: 1,
      source: { kind: "stock" as const },
    };
    return { input: { lines: [line], choices: [{ unitId, choice: "mend", why: "" }], valueMinor: 1000 } };
  },
  "order.place": async () => ({
    input: {
      supplier: "tidewater-parts",
      carriageMinor: 390,
      days: 3,
      lines: [{ part: "FLUX", pack: 10, packs: 1, costMinor: 620 }],
    },
  }),
  "order.cancel": async () => {
    await act("order.place", {
      supplier: "tidewater-parts",
      carriageMinor: 390,
      days: 3,
      lines: [{ part: "FLUX", pack: 10, packs: 1, costMinor: 620 }],
    });
    return { input: { orderId: one(await db("purchase_order").first("id")).id } };
  },
  "stock.import": async () => ({
    input: {
      kind: "stock",
      text: "batch,part,supplier,bin,on_hand,cost\r\n,SOLDER,tidewater-parts,C1,100,8.90\r\n",
      version: 1,
    },
    by: lead,
  }),
  "work.open": async () => {
    const { unitId, faultId } = await faulty();
    return {
      input: {
        unitId,
        targets: [{ faultId, what: "New dome sheet", slot: "dome.centre", route: "dome-dear" }],
        cleaningLevel: 1,
        calibrate: [],
      },
    };
  },
  "work.change": async () => {
    const { orderId } = await order();
    return { input: { orderId, version: 1, targets: [], cleaningLevel: 2, calibrate: [] } };
  },
  "work.undo": async () => {
    const { orderId } = await order();
    await valueOf(await act("work.do", { orderId, event: { kind: "apart", step: "cells" }, tookMs: 3000 }));
    return { input: { orderId } };
  },
  "work.revision": async () => {
    const { unitId } = await takeIn({ profileKey: "turnstone", revision: null });
    const { id } = await valueOf(
      await act("work.open", {
        unitId,
        targets: [{ faultId: null, what: "Look inside", slot: "module.left", route: null }],
        cleaningLevel: 0,
        calibrate: [],
      }),
    );
    return { input: { orderId: id!, revision: "b" } };
  },
  "work.drop": async () => ({ input: { orderId: (await order()).orderId, version: 1, why: "another day" } }),
  "work.do": async () => ({
    input: { orderId: (await order()).orderId, event: { kind: "apart", step: "cells" }, tookMs: 3000 },
  }),
  "damage.add": async () => ({
    input: {
      unitId: (await takeIn()).unitId,
      place: "upper lip",
      what: "tore",
      clipLost: true,
      stillFirm: true,
    },
  }),
  "damage.make-good": async () => {
    const { unitId } = await takeIn();
    await valueOf(
      await act("damage.add", { unitId, place: "upper lip", what: "tore", clipLost: true, stillFirm: true }),
    );
    const { id } = one(await db("damage").where({ unit_id: unitId }).first("id"));
    return { input: { damageId: id, version: 1, how: "another shell" } };
  },
  "wait.start": async () => ({ input: { unitId: null, kind: "charge", what: "charge", minutes: 10 } }),
  "wait.move": async () => ({ input: { waitId: await wait(), minutes: 5 } }),
  "wait.seen": async () => ({ input: { waitId: await wait(), outcome: "dry" } }),
  "heat.add": async () => ({
    input: {
      unitId: (await faulty()).unitId,
      job: "contacts",
      celsius: 360,
      exception: "",
      method: "wick",
      chips: ["main chip"],
      shielded: "",
      holes: [{ hole: 1, gaugeMm: 1.2, ringIntact: true }],
      joints: [],
    },
  }),
  "calibration.write": async () => ({ input: { ...(await calibration()), part: "centre" } }),
  "calibration.saved": async () => {
    const c = await calibration();
    for (const part of ["centre", "range"] as const)
      await valueOf(await act("calibration.write", { ...c, part }));
    const row = one(
      await db("calibration").where({ unit_id: c.unitId, part: "range" }).first("id", "table_after"),
    );
    return { input: { calibrationId: row.id, readBack: row.table_after } };
  },
  "tip.add": async () => ({
    input: {
      model: "knot",
      step: "board",
      kind: "tip",
      words: "warm it first",
      source: "a peer",
      unitId: null,
    },
  }),
  "tip.settle": async () => {
    await valueOf(
      await act("tip.add", {
        model: "knot",
        step: "board",
        kind: "tip",
        words: "x",
        source: "",
        unitId: null,
      }),
    );
    return { input: { tipId: one(await db("tip").first("id")).id, state: "confirmed" } };
  },
  "tools.save": async () => ({ input: { version: 0, tools: ["pry"] }, by: lead }),
  "unit.set-due": async () => ({
    input: { unitId: (await takeIn()).unitId, version: 1, dueOn: "2026-12-24" },
  }),
  "person.set-hours": async () => ({
    input: {
      personId: technician.id,
      skill: 2,
      hours: Array.from({ length: 7 }, () => [[540, 1020] as [number, number]]),
    },
    by: lead,
  }),
  "plan.pin": async () => ({
    input: { task: "B-0001 test", personId: technician.id, startAt: "2026-12-01T09:00:00Z" },
  }),
  "plan.unpin": async () => {
    await valueOf(
      await act("plan.pin", {
        task: "B-0001 test",
        personId: technician.id,
        startAt: "2026-12-01T09:00:00Z",
      }),
    );
    return { input: { task: "B-0001 test" } };
  },
  "proof.answer": async () => {
    const u = await ready();
    const { key } = (await look(u.tag)).proofSheet[0]!;
    return { input: { unitId: u.unitId, key, result: "pass", value: key === "storage" ? 0.5 : null } };
  },
  "unit.release": async () => {
    const { unit } = await look((await ready()).tag);
    return {
      input: {
        unitId: unit.id,
        version: unit.version,
        priceMinor: 1500,
        warrantyDays: 30,
        known: "",
        limit: "",
        reason: "",
      },
    };
  },
  "certificate.revoke": async () => {
    const { unitId } = await released();
    return {
      input: {
        certificateId: one(await db("certificate").where({ unit_id: unitId }).first("id")).id,
        why: "recalled",
      },
      by: lead,
    };
  },
  "unit.hand-over": async () => ({
    input: {
      unitId: (await released()).unitId,
      kind: "sold",
      channel: "market",
      priceMinor: 2000,
      handedOn: new Date().toISOString().slice(0, 10),
    },
  }),
  "unit.came-back": async () => {
    const { unitId } = await released();
    return { input: { unitId, version: await versionOf(unitId), mendId: null, words: "misses again" } };
  },
  "feed.make": async () => ({ input: { name: "phone" } }),
  "feed.revoke": async () => {
    await valueOf(await act("feed.make", { name: "phone" }));
    return { input: { feedId: one(await db("feed").where({ person_id: technician.id }).first("id")).id } };
  },
  "photo.remove": async () => {
    const { unitId } = await takeIn();
    const grey = { create: { width: 40, height: 30, channels: 3, background: "#885522" } } as const;
    await storePhoto(db, technician, unitId, "as it came", await sharp(grey).jpeg().toBuffer());
    return { input: { photoId: one(await db("photo").where({ unit_id: unitId }).first("id")).id } };
  },
  "bench.present": async () => ({ input: { unitId: (await takeIn()).unitId } }),
  "settings.save": async () => {
    const { settings, version } = await loadSettings(db);
    return { input: { version, settings: { ...settings, town: "Elsewhere" } }, by: lead };
  },
};

async function fitted(): Promise<string> {
  const { unitId } = await dunlin();
  const { id } = await receive("SM-DUN-O");
  await valueOf(
    await act("stock.take", {
      batchId: id,
      count: 1,
      for: { kind: "fit", unitId, slot: "module.left", mendId: null },
      why: "",
    }),
  );
  return one(await db("fitted").where({ unit_id: unitId }).first("id")).id;
}
const wait = async (): Promise<string> =>
  (await valueOf(await act("wait.start", { unitId: null, kind: "charge", what: "charge", minutes: 10 }))).id!;

/** What a hand, an old page or a stranger puts in the place of a value. */
const NASTY: readonly unknown[] = [
  null,
  undefined,
  "",
  " ",
  0,
  -1,
  0.5,
  2 ** 31,
  2 ** 40,
  1e308,
  -1e308,
  Number.MAX_SAFE_INTEGER,
  true,
  [],
  {},
  [[]],
  "x".repeat(5000),
  "7".repeat(300),
  "ÿ\u202e\u0007",
  "'; drop table unit; --",
  "../../etc/passwd",
  "00000000-0000-4000-8000-000000000000",
  "0000-01-01",
  "9999-12-31",
  "2026-02-30",
  "constructor",
  { __proto__: { role: "lead" } },
];

type Path = (string | number)[];
function pathsOf(value: unknown, at: Path = []): Path[] {
  if (typeof value !== "object" || value === null) return [at];
  return [
    at,
    ...Object.entries(value).flatMap(([k, v]) => pathsOf(v, [...at, Array.isArray(value) ? Number(k) : k])),
  ];
}
function bent(input: unknown, chance: Chance): unknown {
  const copy = { in: structuredClone(input) } as Record<string, unknown>;
  const paths = pathsOf(input).slice(0, 400);
  const path: Path = ["in", ...chance.pick(paths)];
  const holder = path
    .slice(0, -1)
    .reduce<Record<string | number, unknown>>((o, k) => o[k] as Record<string | number, unknown>, copy);
  const key = path.at(-1)!;
  if (chance.happens(0.1) && path.length > 1) delete holder[key];
  else if (
    chance.happens(0.1) &&
    typeof holder[key] === "object" &&
    holder[key] !== null &&
    !Array.isArray(holder[key])
  )
    (holder[key] as Record<string, unknown>).surprise = 1;
  else holder[key] = chance.pick(NASTY);
  return copy.in;
}

test.each(Object.keys(DEEDS) as DeedName[])(
  "%s: one that goes through, and many that are bent",
  async (name) => {
    const chance = seeded([...name].reduce((h, c) => h * 31 + c.charCodeAt(0), 7) % 2 ** 31);
    await house
      .transaction(async (trx) => {
        db = trx;
        const { input, by = technician } = await VALID[name]();
        const before = await figuresOf(trx);
        const send = (what: unknown) => doDeed(trx, by, name, randomUUID(), what);
        let refused = 0;
        for (let i = 0; i < BENT; i++) {
          const what = bent(input, chance);
          await trx.raw("savepoint bent");
          const reply = await send(what);
          if (!reply.ok) {
            refused++;
            expect([reply.problem.code, what]).not.toEqual([
              expect.stringMatching(/^(unexpected|busy|away)$/),
              what,
            ]);
            if (reply.problem.code === "bad-input")
              expect(JSON.stringify(reply.problem)).not.toMatch(
                /[Ii]nvalid|[Ee]xpected|Too (big|small)|<=|>=/,
              );
          }
          await trx.raw(reply.ok ? "rollback to savepoint bent" : "release savepoint bent");
        }
        expect(refused).toBeGreaterThan(0);
        // all that was refused left nothing behind
        expect(await figuresOf(trx)).toEqual(before);
        const noted = await eventsIn(trx);
        expect(await send(input)).toEqual({ ok: true, value: expect.anything() });
        expect(await figuresOf(trx)).not.toEqual(before);
        // it stands in the record, and whatever rests on the record followed it
        if (name !== "bench.present") expect(await eventsIn(trx)).toBeGreaterThan(noted);
        await mustFollowTheRecord(trx);
        throw new TakenBack();
      })
      .catch((error: unknown) => {
        if (!(error instanceof TakenBack)) throw error;
      })
      .finally(() => (db = house));
  },
);
const eventsIn = (trx: Knex): Promise<number> => countOf(trx("event"));
class TakenBack extends Error {}
