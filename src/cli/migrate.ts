/** Brings the database of DATABASE_URL to the newest shape, and shipped models to their part slots. */
import { connect } from "@/db/connection";
import { migrate } from "@/db/migrate";
import { fillOutcomes } from "@/service/outcome";
import { addSlotsToShipped } from "@/service/shipped";

const db = connect(process.env.DATABASE_URL!, 2);
await migrate(db);
await addSlotsToShipped(db);
await fillOutcomes(db);
await db.destroy();
