import "server-only";

import knex, { type Knex } from "knex";

import pg from "pg";

import { type Answer, ASK_FOR_NAMES, JsonNames } from "./door";
import { withoutValues } from "./trouble";

/** A day is a day, YYYY-MM-DD, and no moment of this machine's clock. */
pg.types.setTypeParser(pg.types.builtins.DATE, (text) => text);

/** Pages ask small questions, which compiling first makes slower; sums over years are sorted in memory. */
const SESSION = "-c jit=off -c work_mem=32MB";

/**
 * Connects to the database of DATABASE_URL. Error texts carry no bound values, since those may be personal.
 * `named` false: no question is prepared by name (bench/named.ts measures what that is worth).
 */
export function connect(url: string, poolMax = 10, schema: string | null = null, named = true): Knex {
  const names = new Names();
  const json = new JsonNames();
  return timed(
    knex({
      client: "pg",
      connection: { connectionString: url, application_name: "birdcage", options: SESSION },
      pool: {
        min: 0,
        max: poolMax,
        afterCreate: (connection: Asked, done: (error: null, connection: Asked) => void) => {
          prepare(connection, named ? names : null);
          openDoor(connection, json);
          done(null, connection);
        },
      },
      acquireConnectionTimeout: 8000,
      compileSqlOnError: false,
      ...(schema === null ? {} : { searchPath: [schema] }),
    }),
  );
}

const PREPARED_AFTER = 5;
const MOST_PREPARED = 400;

/** Which questions are asked often enough to be prepared, and by which name. */
class Names {
  private readonly asked = new Map<string, number>();
  private readonly names = new Map<string, string>();
  private made = 0;

  of(sql: string): string | undefined {
    const name = this.names.get(sql);
    if (name !== undefined || this.names.size >= MOST_PREPARED) return name;
    const times = (this.asked.get(sql) ?? 0) + 1;
    this.asked.set(sql, times);
    if (times >= PREPARED_AFTER) this.names.set(sql, `read ${++this.made}`);
    if (this.asked.size > 10 * MOST_PREPARED) this.asked.clear(); // lists of changing length are other questions each time
    return undefined;
  }

  /** A table changed its shape: all are prepared anew, by other names. */
  forget(): void {
    this.names.clear();
  }
}

type Question = { text: string; name?: string };
type Done = (error: unknown, answer?: unknown) => void;
type Asked = { query: (question: Question, done: Done) => unknown };

/** Every answer passes the door for stored JSON (door.ts); tables that are new to it are asked for once. */
function openDoor(connection: Asked, json: JsonNames): void {
  const ask = connection.query.bind(connection);
  const lifted = (answer: Answer, done: Done): void => {
    try {
      json.lift(answer);
    } catch (error) {
      return done(error);
    }
    done(null, answer);
  };
  connection.query = (question, done) => {
    if (typeof question?.text !== "string" || typeof done !== "function") return ask(question, done); // a stream of rows
    return ask(question, (error, given) => {
      if (error) return done(error);
      const answer = given as Answer;
      if (!json.lacks(answer)) return lifted(answer, done);
      ask({ text: ASK_FOR_NAMES }, (trouble, names) => {
        if (trouble) return done(trouble);
        json.learn((names as Answer).rows ?? []);
        lifted(answer, done);
      });
    });
  };
}

/**
 * A page asks dozens of small questions, and the server thinks longer about how to answer them than it
 * answers: what was asked some times is prepared on each connection and asked by the driver's own naming of
 * statements. Reads outside transactions only.
 */
function prepare(connection: Asked, names: Names | null): void {
  const ask = connection.query.bind(connection);
  let inTransaction = false;
  connection.query = (question, done) => {
    if (typeof question?.text !== "string" || typeof done !== "function") return ask(question, done); // a stream of rows
    if (/^begin\b/i.test(question.text)) inTransaction = true;
    else if (/^(commit|rollback(?! to))\b/i.test(question.text)) inTransaction = false;
    const name =
      !inTransaction && /^(select|with)\b/.test(question.text) ? names?.of(question.text) : undefined;
    return ask(name === undefined ? question : { ...question, name }, (error, answer) => {
      if ((error as { code?: string } | null)?.code === "0A000") names?.forget();
      done(error && withoutValues(error), answer);
    });
  };
}

export type SqlTime = { sql: string; bindings: readonly unknown[]; ms: number };

/**
 * For the bench of a large workshop (server/main.mjs sets it up): how long each query took. Nothing is kept
 * otherwise.
 */
function timed(db: Knex): Knex {
  const times = (globalThis as { birdcageSqlTimes?: SqlTime[] }).birdcageSqlTimes;
  if (!times) return db;
  const began = new Map<string, number>();
  db.on("query", (q: { __knexQueryUid: string }) => began.set(q.__knexQueryUid, performance.now()));
  db.on(
    "query-response",
    (_answer: unknown, q: { __knexQueryUid: string; sql: string; bindings: readonly unknown[] }) => {
      const start = began.get(q.__knexQueryUid);
      began.delete(q.__knexQueryUid);
      if (start !== undefined)
        times.push({ sql: q.sql, bindings: q.bindings, ms: performance.now() - start });
    },
  );
  return db;
}

/** A request, and which records it is about: nobody's until its person is known (src/door/session.ts). */
export type AskedNow = { path: string; bench: "unknown" | "house" | "practice" };
type Held = {
  birdcageDb?: Knex;
  birdcagePractice?: Knex;
  /** the request that is answered now, set by the server (server/main.mjs) */
  birdcageRequest?: { getStore(): AskedNow | undefined };
};
const held = globalThis as Held;

function address(): string {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error("DATABASE_URL is not set; start Birdcage with npm run demo or npm start.");
  return url;
}

export const requestOf = (): AskedNow | undefined => held.birdcageRequest?.getStore();

/** Whether the person who asks works on the practice bench now. */
export const inPractice = (): boolean => requestOf()?.bench === "practice";

/** The workshop's own records, whoever asks: accounts are always here. */
export const houseDatabase = (): Knex => (held.birdcageDb ??= connect(address()));

const ANSWER_MS = 3000;
/** Rejects when the database does not answer in time. */
export const mustAnswer = async (db: Knex): Promise<void> =>
  void (await db.raw("select 1").timeout(ANSWER_MS));

export const PRACTICE_SCHEMA = "practice";
/**
 * The practice bench: the same tables in a schema of their own, so that nothing of it can meet the real
 * records.
 */
export const practiceDatabase = (): Knex =>
  (held.birdcagePractice ??= connect(address(), 4, PRACTICE_SCHEMA));

/** A schema beside the workshop's, to try something in; whoever asks for it ends it. */
export const scratchDatabase = (schema: string): Knex => connect(address(), 2, schema);

/**
 * The records that a page or a deed is about: the workshop's, or the practice bench's while somebody
 * practises. A request whose person is not known has none; pages for everybody ask the house itself.
 * Command-line tools have no request and work for the house.
 */
export function database(): Knex {
  const bench = requestOf()?.bench ?? "house";
  if (bench === "unknown") throw new Error("records were asked for before it was known whose");
  return bench === "practice" ? practiceDatabase() : houseDatabase();
}
