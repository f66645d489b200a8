/** Brings the database of DATABASE_URL to the newest shape, and shipped models to their part slots. */
import { connect, PRACTICE_SCHEMA } from "@/platform/db/connection";
import { migrate } from "@/platform/db/migrate";
import { hasTable } from "@/platform/db/joined";
import { fillOutcomes } from "@/features/case/outcome";
import { renewShipped } from "@/features/models/shipped";

const db = connect(process.env.DATABASE_URL!, 2);
await migrate(db);
await renewShipped(db);
await fillOutcomes(db);
// somebody may practise still: their bench has the same shape
if (await hasTable(db, `${PRACTICE_SCHEMA}.person`)) {
  const practice = connect(process.env.DATABASE_URL!, 2, PRACTICE_SCHEMA);
  await migrate(practice);
  await practice.destroy();
}
await db.destroy();
