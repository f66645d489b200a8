/**
 * backup FOLDER | restore FILE DATABASE: both on the server of DATABASE_URL. A backup counts only once it was
 * read into a scratch database and found the same: rows and contents of every table, and every certificate
 * verifies. A restore is held against the same.
 */
import { spawn } from "node:child_process";
import { once } from "node:events";
import {
  createReadStream,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
} from "node:fs";
import { open } from "node:fs/promises";
import { join } from "node:path";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";

import knex from "knex";

import { keptOf } from "@/core/backup/retention";
import { z } from "@/core/base/schema";
import { connect } from "@/platform/db/connection";
import { badCertificates, differences, type Figures, figuresOf, noteBackup } from "@/features/archive/backup";
import { BackupProblem, openSealed, writeSealed } from "./backup-file";
import { asked, countOf } from "@/platform/db/joined";
import { one } from "@/core/base/one";

const url = process.env.DATABASE_URL!;
const bin = process.env.BIRDCAGE_PG_BIN ?? "";
const keyFile = process.env.BIRDCAGE_BACKUP_KEY;
const passphrase = keyFile ? readFileSync(keyFile, "utf8").trim() : null;
/** What is nobody's work: the practice bench, and schemas that an archive is tried in. */
const WITHOUT = ["--exclude-schema=practice", "--exclude-schema=archive_check_*"];
const MOST_MANIFEST = 4 * 1024 * 1024;
const NAME = /^birdcage-(\d{4}-\d{2}-\d{2})T(\d{2})(\d{2})(\d{2})Z\.backup$/;

const manifestSchema = z.strictObject({
  takenAt: z.iso.datetime(),
  sessionSecret: z.string(),
  figures: z.record(z.string(), z.strictObject({ rows: z.int(), sum: z.string() })),
});
type Manifest = z.infer<typeof manifestSchema>;

const other = (database: string): string => {
  const u = new URL(url);
  u.pathname = `/${database}`;
  return u.href;
};
/** A program of PostgreSQL's; what it says of trouble ends the run. */
async function program(name: string, args: string[], input?: Readable): Promise<void> {
  const child = spawn(join(bin, name), args, { stdio: [input ? "pipe" : "ignore", "ignore", "pipe"] });
  let said = "";
  child.stderr!.on("data", (c: Buffer) => (said += c.toString()));
  const ended = once(child, "close");
  if (input) await pipeline(input, child.stdin!).catch(() => {}); // it ended before its input did: it says why
  const [code] = (await ended) as [number];
  if (code !== 0) throw new BackupProblem(`${name} failed: ${said.trim().slice(0, 600)}`);
}

const secretNow = (): string => process.env.SESSION_SECRET ?? "";

/** Writes a backup of one moment: the dump and the figures share a snapshot. */
async function write(path: string): Promise<Manifest> {
  const db = connect(url, 2);
  try {
    return await db.transaction(
      async (trx) => {
        const moment = one(
          (await asked<{ id: string; at: Date }>(trx, "select pg_export_snapshot() as id, now() as at"))[0],
        );
        const manifest: Manifest = {
          takenAt: moment.at.toISOString(),
          sessionSecret: secretNow(),
          figures: await figuresOf(trx),
        };
        const dump = spawn(
          join(bin, "pg_dump"),
          ["--format=custom", `--snapshot=${moment.id}`, ...WITHOUT, url],
          {
            stdio: ["ignore", "pipe", "pipe"],
          },
        );
        let said = "";
        dump.stderr.on("data", (c: Buffer) => (said += c.toString()));
        const ended = once(dump, "close");
        const head = Buffer.from(JSON.stringify(manifest));
        const length = Buffer.alloc(4);
        length.writeUInt32BE(head.length);
        async function* body() {
          yield length;
          yield head;
          yield* dump.stdout;
        }
        await writeSealed(path, Readable.from(body()), passphrase);
        const [code] = (await ended) as [number];
        if (code !== 0) throw new BackupProblem(`pg_dump failed: ${said.trim().slice(0, 600)}`);
        return manifest;
      },
      { isolationLevel: "repeatable read" },
    );
  } finally {
    await db.destroy();
  }
}

/**
 * Reads a backup into a database that must not be there yet; answers what differs from the moment that it was
 * taken.
 */
async function readInto(
  path: string,
  database: string,
): Promise<{ manifest: Manifest; wrong: string[]; certificates: number }> {
  const plain = `${path}.open-${process.pid}`;
  const admin = knex({ client: "pg", connection: other("postgres"), pool: { min: 0, max: 1 } });
  try {
    await openSealed(path, plain, passphrase);
    const file = await open(plain);
    const length = Buffer.alloc(4);
    await file.read(length, 0, 4, 0);
    const most = length.readUInt32BE(0);
    if (most > MOST_MANIFEST) throw new BackupProblem(`${path} is damaged`);
    const head = Buffer.alloc(most);
    await file.read(head, 0, most, 4);
    await file.close();
    const manifest = manifestSchema.parse(JSON.parse(head.toString("utf8")));
    await admin.raw("create database ??", [database]);
    const scratch = connect(other(database), 2);
    try {
      await program(
        "pg_restore",
        ["--exit-on-error", "--no-owner", "-d", other(database)],
        createReadStream(plain, { start: 4 + most }),
      );
      process.env.SESSION_SECRET = manifest.sessionSecret || process.env.SESSION_SECRET;
      const wrong = differences(manifest.figures as Figures, await figuresOf(scratch));
      const certificates = await badCertificates(scratch);
      return {
        manifest,
        wrong: [
          ...wrong.map((t) => `the table ${t} differs`),
          ...certificates.bad.map((c) => `certificate ${c} does not verify`),
        ],
        certificates: certificates.checked,
      };
    } finally {
      await scratch.destroy();
    }
  } finally {
    rmSync(plain, { force: true });
    await admin.destroy();
  }
}

async function dropDatabase(name: string): Promise<void> {
  const admin = knex({ client: "pg", connection: other("postgres"), pool: { min: 0, max: 1 } });
  await admin.raw("drop database if exists ?? with (force)", [name]);
  await admin.destroy();
}

async function backup(folder: string): Promise<void> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  forgetLeftOver(folder);
  const stamp = `${new Date().toISOString().slice(0, 19).replaceAll(":", "")}Z`;
  const file = `birdcage-${stamp}.backup`;
  const part = join(folder, `${file}.part`);
  const scratch = `birdcage_check_${process.pid}`;
  try {
    const manifest = await write(part);
    const { wrong, certificates } = await readInto(part, scratch);
    if (wrong.length)
      throw new BackupProblem(`read back, it is not the same: ${wrong.slice(0, 5).join("; ")}`);
    renameSync(part, join(folder, file));
    const db = connect(url, 1);
    await noteBackup(db, {
      file,
      bytes: statSync(join(folder, file)).size,
      takenAt: new Date(manifest.takenAt),
    });
    await db.destroy();
    const rows = Object.values(manifest.figures).reduce((n, f) => n + f.rows, 0);
    console.log(
      `${join(folder, file)}: ${rows} rows of ${Object.keys(manifest.figures).length} tables and ${certificates} certificates, read back and found the same${passphrase ? ", sealed" : ""}.`,
    );
    forgetOld(folder);
  } finally {
    rmSync(part, { force: true });
    await dropDatabase(scratch);
  }
}

const LEFT_OVER_MS = 3600_000;
/**
 * What a run left that was killed goes: half a backup, and one that lay open while it was read back, also
 * where it was sealed.
 */
function forgetLeftOver(folder: string): void {
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    if (/\.part(\.open-\d+)?$|\.open-\d+$/.test(name) && Date.now() - statSync(path).mtimeMs > LEFT_OVER_MS)
      rmSync(path);
  }
}

/** Only a new good backup lets old ones go. */
function forgetOld(folder: string): void {
  const taken = readdirSync(folder).flatMap((name) => {
    const m = NAME.exec(name);
    return m ? [{ name, at: new Date(`${m[1]}T${m[2]}:${m[3]}:${m[4]}Z`) }] : [];
  });
  const kept = new Set(keptOf(taken.map((t) => t.at)).map((d) => d.getTime()));
  for (const t of taken) if (!kept.has(t.at.getTime())) rmSync(join(folder, t.name));
}

async function restore(path: string, database: string): Promise<void> {
  if (!existsSync(path)) throw new BackupProblem(`there is no file ${path}`);
  const fresh = `${database}_restored`;
  await dropDatabase(fresh);
  try {
    const { manifest, wrong, certificates } = await readInto(path, fresh);
    if (wrong.length) throw new BackupProblem(`it is not what was taken: ${wrong.slice(0, 5).join("; ")}`);
    const admin = knex({ client: "pg", connection: other("postgres"), pool: { min: 0, max: 1 } });
    const there = (await countOf(admin("pg_database").where({ datname: database }))) > 0;
    const before = `${database}_before_${new Date().toISOString().slice(0, 19).replace(/\D/g, "")}`;
    if (there) await admin.raw("alter database ?? rename to ??", [database, before]);
    await admin.raw("alter database ?? rename to ??", [fresh, database]);
    await admin.destroy();
    console.log(
      `Restored the workshop of ${manifest.takenAt}: every table the same, ${certificates} certificates verify.${there ? ` What was here before is the database ${before}.` : ""}`,
    );
    if (manifest.sessionSecret) process.send?.({ sessionSecret: manifest.sessionSecret });
  } catch (error) {
    await dropDatabase(fresh);
    throw error;
  }
}

const [what, ...args] = process.argv.slice(2);
try {
  if (what === "backup") await backup(args[0]!);
  else await restore(args[0]!, args[1]!);
} catch (error) {
  console.error(error instanceof BackupProblem ? `Not done: ${error.message}.` : error);
  process.exitCode = 1;
}
if (process.connected) process.disconnect();
