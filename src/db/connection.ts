import "server-only";

import knex, { type Knex } from "knex";

/** Connects to the database of DATABASE_URL. Error texts carry no bound values, since those may be personal. */
export function connect(url: string, poolMax = 10): Knex {
  return knex({
    client: "pg",
    connection: { connectionString: url, application_name: "birdcage" },
    pool: { min: 0, max: poolMax },
    acquireConnectionTimeout: 8000,
    compileSqlOnError: false,
  });
}

const held = globalThis as { birdcageDb?: Knex };

/** The application's one pool. */
export function database(): Knex {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error("DATABASE_URL is not set; start Birdcage with npm run demo or npm start.");
  return (held.birdcageDb ??= connect(url));
}
