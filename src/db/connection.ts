import "server-only";

import knex, { type Knex } from "knex";

/** Connects to the database of DATABASE_URL. Error texts carry no bound values, since those may be personal. */
export function connect(url: string, poolMax = 10): Knex {
  return timed(
    knex({
      client: "pg",
      connection: { connectionString: url, application_name: "birdcage" },
      pool: { min: 0, max: poolMax },
      acquireConnectionTimeout: 8000,
      compileSqlOnError: false,
    }),
  );
}

export type SqlTime = { sql: string; bindings: readonly unknown[]; ms: number };

/** For the bench of a large workshop (server/main.mjs sets it up): how long each query took. Nothing is kept otherwise. */
function timed(db: Knex): Knex {
  const times = (globalThis as { birdcageSqlTimes?: SqlTime[] }).birdcageSqlTimes;
  if (!times) return db;
  const began = new Map<string, number>();
  db.on("query", (q: { __knexQueryUid: string }) => began.set(q.__knexQueryUid, performance.now()));
  db.on("query-response", (_answer: unknown, q: { __knexQueryUid: string; sql: string; bindings: readonly unknown[] }) => {
    const start = began.get(q.__knexQueryUid);
    began.delete(q.__knexQueryUid);
    if (start !== undefined) times.push({ sql: q.sql, bindings: q.bindings, ms: performance.now() - start });
  });
  return db;
}

const held = globalThis as { birdcageDb?: Knex };

/** The application's one pool. */
export function database(): Knex {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error("DATABASE_URL is not set; start Birdcage with npm run demo or npm start.");
  return (held.birdcageDb ??= connect(url));
}
