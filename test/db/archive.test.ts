import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

import { strToU8, unzipSync, zipSync } from "fflate";
import type { Knex } from "knex";
import sharp from "sharp";

import { migrate, rollBack } from "@/platform/db/migrate";
import { readArchive } from "@/features/archive/read";
import { TABLES, unknownTables } from "@/features/archive/tables";
import { archiveChunks } from "@/features/archive/write";
import { type Actor, Refused } from "@/platform/deed/base";
import { certificateByToken } from "@/features/certificate/view";
import { hashPassword } from "@/features/account/passwords";
import { insertPerson, signIn } from "@/features/people/deeds";
import { storePhoto } from "@/features/intake/photos";
import { recordingCsv } from "@/features/test/recordings";
import { shippedCatalogue } from "@/features/models/shipped";
import { unitView } from "@/features/units/view";
import { benchOf, closeShop, openShop, valueOf } from "./shop";
import { one } from "@/core/base/one";

let db: Knex;
let lead: Actor;
let technician: Actor;
const folder = mkdtempSync(join(tmpdir(), "birdcage-archive-test-"));

beforeAll(async () => {
  ({ db, lead, technician } = await openShop(6));
});
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await closeShop(db);
});

const { act, ready, release, look } = benchOf(() => ({ db, technician }));

async function write(): Promise<Buffer> {
  const trx = await db.transaction();
  const chunks: Uint8Array[] = [];
  for await (const c of archiveChunks(trx)) chunks.push(c);
  await trx.commit();
  return Buffer.concat(chunks);
}
const onDisk = (bytes: Uint8Array): string => {
  const path = join(folder, `${Math.random().toString(36).slice(2)}.zip`);
  writeFileSync(path, bytes);
  return path;
};
const read = (bytes: Uint8Array) => readArchive(db, onDisk(bytes));
const whyNot = async (bytes: Uint8Array): Promise<string> => {
  try {
    await read(bytes);
    return "read in";
  } catch (error) {
    if (error instanceof Refused)
      return error.problem.code === "archive" ? error.problem.why : error.problem.code;
    throw error;
  }
};
/** An empty workshop again, with the lead's own password. */
async function wipe(): Promise<void> {
  await rollBack(db);
  await migrate(db);
  await insertPerson(db, "Lead", "lead", "a-new-long-password");
}

let archive: Buffer;
let certificate: string;
let tag: string;
let recordingId: string;

test("every table is either in the archive or kept back on purpose", async () =>
  expect(await unknownTables(db)).toEqual([]));

test("a workshop is written out, with its files, and without any secret", async () => {
  await valueOf(await act("catalogue.save", { version: 0, catalogue: shippedCatalogue() }, lead));
  await valueOf(
    await act("stock.receive", {
      part: "SOLDER",
      supplier: "tidewater-parts",
      pieces: 10,
      costMinor: 90,
      bin: "C1",
      source: "bought",
    }),
  );
  const { id: customerId } = await valueOf(
    await act("customer.add", { name: '=cmd|"x", Mirela', contact: "line one\nline two, \\N" }),
  );
  const u = await ready({
    claim: "\\N",
    origin: { source: "single", seller: '+quayside, "market"', priceMinor: 100, carriageMinor: 0 },
  });
  tag = u.tag;
  const picture = await sharp({ create: { width: 40, height: 30, channels: 3, background: "#885522" } })
    .jpeg()
    .toBuffer();
  await storePhoto(db, technician, u.unitId, "as it came", picture);
  const c = await ready({ origin: { source: "customer", customerId: customerId! } });
  const { id: faultId } = await valueOf(
    await act("fault.add", {
      unitId: c.unitId,
      place: "face.south",
      kind: "misses",
      words: "",
      foundWhen: "test",
      claimed: true,
      measure: null,
      recordingId: null,
    }),
  );
  await valueOf(
    await act("question.send", {
      unitId: c.unitId,
      days: 5,
      body: {
        v: 1,
        findings: "weak",
        faults: [
          {
            faultId: faultId!,
            number: 1,
            found: "weak",
            options: [{ key: "dome", words: "new dome", priceMinor: 500, days: 2, warrantyDays: 30 }],
          },
        ],
      },
    }),
  );
  await valueOf(await act("feed.make", { name: "phone" }));
  certificate = (await valueOf(await release(u.tag))).token!;
  recordingId = (await look(u.tag)).recordings[0]!.id;

  archive = await write();
  const files = unzipSync(archive);
  const names = Object.keys(files);
  expect(names.filter((n) => n.startsWith("tables/")).length).toBe(Object.keys(TABLES).length + 2);
  expect(names).toEqual(expect.arrayContaining(["datapackage.json", `recordings/${recordingId}.csv`]));
  expect(names.filter((n) => n.startsWith("photographs/"))).toHaveLength(2);
  const text = names
    .filter((n) => n.endsWith(".csv") || n.endsWith(".json"))
    .map((n) => Buffer.from(files[n]!).toString("utf8"))
    .join("\n");
  const secrets = [
    await db("person").pluck("password_hash"),
    await db("certificate").pluck("token"),
    await db("question").pluck("token"),
    await db("feed").pluck("token_sha256"),
    await db("signing_key").pluck("private_sealed"),
  ].flat();
  expect(secrets.length).toBeGreaterThanOrEqual(6);
  for (const s of secrets) expect(text).not.toContain(s);
  // the public key travels, and no private part of it
  expect(text).toContain(
    JSON.stringify(one(await db("signing_key").first("public_jwk")).public_jwk.x).replaceAll('"', ""),
  );
  // nothing is neutralised here: a text stays the text that it was
  expect(text).toContain("+quayside");
  expect(text).not.toContain("'+quayside");

  // the description is one that a reader of data packages understands
  const described = JSON.parse(Buffer.from(files["datapackage.json"]!).toString("utf8"));
  expect(described.profile).toBe("tabular-data-package");
  for (const r of described.resources) {
    expect(files[r.path]!.length).toBe(r.bytes);
    const head = Buffer.from(files[r.path]!).toString("utf8").split("\r\n")[0];
    expect(head!.split(",").map((h: string) => h.replaceAll('"', ""))).toEqual(
      r.schema.fields.map((f: { name: string }) => f.name),
    );
  }
});

test("a workshop that holds something takes no archive", async () =>
  expect(await whyNot(archive)).toBe("not-empty"));

test("wiped, read in and written out again it is the same, byte by byte", async () => {
  await wipe();
  const done = await read(archive);
  expect(done).toEqual({ units: 2, people: 2 });
  const again = await write();
  if (!again.equals(archive)) {
    const [a, b] = [unzipSync(archive), unzipSync(again)];
    expect(Object.keys(b)).toEqual(Object.keys(a));
    for (const n of Object.keys(a))
      expect([n, Buffer.from(b[n]!).toString("utf8").slice(0, 4000)]).toEqual([
        n,
        Buffer.from(a[n]!).toString("utf8").slice(0, 4000),
      ]);
  }
  expect(again.equals(archive)).toBe(true);
});

test("it goes on where it was: certificates verify, recordings open, numbers go on, people keep or need a password", async () => {
  expect((await certificateByToken(db, certificate))!.signature).toMatchObject({
    state: "good",
    retired: true,
  });
  expect((await recordingCsv(db, recordingId))!.csvGz.length).toBeGreaterThan(100);
  const view = (await unitView(db, tag, lead))!;
  expect([view.unit.claim, view.unit.seller, view.unit.ending]).toEqual([
    "\\N",
    '+quayside, "market"',
    "released",
  ]);
  expect((await signIn(db, "Lead", "a-new-long-password", "here")).ok).toBe(true);
  expect((await signIn(db, "Tech", "a-long-password", "here")).ok).toBe(false);
  expect((await signIn(db, "Tech", "", "here")).ok).toBe(false);
  const old = one(await db("person").where({ name: "Tech" }).first("id")).id;
  technician = { id: old, name: "Tech", role: "technician" };
  lead = { ...lead, id: one(await db("person").where({ name: "Lead" }).first("id")).id };
  await valueOf(
    await act("stock.receive", {
      part: "SOLDER",
      supplier: "tidewater-parts",
      pieces: 1,
      costMinor: 9,
      bin: "A",
      source: "bought",
    }),
  );
  expect(await db("batch").orderBy("code").pluck("code")).toEqual(["P-0001", "P-0002"]);
  const u = await ready();
  const mine = (await valueOf(await release(u.tag))).token!;
  expect((await certificateByToken(db, mine))!.signature).toMatchObject({ state: "good", retired: false });
});

describe("an archive that is not right changes nothing", () => {
  beforeAll(wipe);
  const files = () => unzipSync(archive);
  const packed = (change: (f: Record<string, Uint8Array>) => void): Uint8Array => {
    const f = files();
    change(f);
    return zipSync(f, { level: 6 });
  };
  const stillEmpty = async () => {
    expect(await db("unit").first("id")).toBeUndefined();
    expect(await db("person").pluck("name")).toEqual(["Lead"]);
    expect((await signIn(db, "Lead", "a-new-long-password", "here")).ok).toBe(true);
  };
  const text = (b: Uint8Array) => Buffer.from(b).toString("utf8");

  test.each<[string, RegExp, (f: Record<string, Uint8Array>) => void]>([
    ["a path that leads out", /leads out of its folder/, (f) => (f["../etc/passwd"] = strToU8("x"))],
    ["a file of another kind", /does not belong/, (f) => (f["notes.txt"] = strToU8("x"))],
    ["a table that is missing", /missing/, (f) => delete f["tables/unit.csv"]],
    ["no description", /missing/, (f) => delete f["datapackage.json"]],
    [
      "another version",
      /version 9/,
      (f) =>
        (f["datapackage.json"] = strToU8(
          text(f["datapackage.json"]!).replace('"version": "1"', '"version": "9"'),
        )),
    ],
    [
      "a changed table",
      /digest differs/,
      (f) => (f["tables/unit.csv"] = strToU8(text(f["tables/unit.csv"]!).replace("quayside", "somebody"))),
    ],
    [
      "a changed recording",
      /digest differs/,
      (f) => (f[`recordings/${recordingId}.csv`] = strToU8("t_ms,step\n0,rest\n")),
    ],
    ["a recording that is missing", /missing/, (f) => delete f[`recordings/${recordingId}.csv`]],
    [
      "something that unfolds too far",
      /unfolds suspiciously far/,
      (f) => (f["tables/zeros.csv"] = new Uint8Array(40 * 1024 * 1024)),
    ],
  ])("%s", async (_name, why, change) => {
    expect(await whyNot(packed(change))).toMatch(why);
    await stillEmpty();
  });

  test("a row that points to nothing", async () => {
    const { createHash } = await import("node:crypto");
    const f = files();
    const lines = text(f["tables/customer.csv"]!);
    const table = strToU8(lines.replace(/[0-9a-f]{8}-[0-9a-f-]{27}/, "00000000-0000-4000-8000-000000000000"));
    const described = JSON.parse(text(f["datapackage.json"]!));
    const r = described.resources.find((x: { name: string }) => x.name === "customer");
    r.bytes = table.length;
    r.hash = `sha256:${createHash("sha256").update(table).digest("hex")}`;
    f["tables/customer.csv"] = table;
    f["datapackage.json"] = strToU8(JSON.stringify(described));
    expect(await whyNot(zipSync(f))).toMatch(/a row does not fit/);
    await stillEmpty();
  });

  test("no zip at all, half a zip, and a bare password hash", async () => {
    expect(await whyNot(strToU8("not a zip"))).toMatch(/no zip/);
    expect(await whyNot(archive.subarray(0, archive.length / 2))).toMatch(/no zip|damaged/);
    await stillEmpty();
    expect(await hashPassword("x")).toMatch(/^\$argon2id/); // an imported person's empty hash never looks like one
  });

  test("two who read one in at once: one fills the workshop, the other is told", async () => {
    const both = await Promise.all([whyNot(archive), whyNot(archive)]);
    expect(both.sort()).toEqual(["not-empty", "read in"]);
    expect((await write()).equals(archive)).toBe(true);
  });
});
