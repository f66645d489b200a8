/** Brings the database of DATABASE_URL to the newest shape. */
import { connect } from "@/db/connection";
import { migrate } from "@/db/migrate";

const db = connect(process.env.DATABASE_URL!, 2);
await migrate(db);
await db.destroy();
