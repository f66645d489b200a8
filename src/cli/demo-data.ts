/**
 * Loads the demonstration workshop once: people, models, lots, customers and about 40 units at every stage.
 */
import { connect } from "@/platform/db/connection";
import { migrate, rollBack } from "@/platform/db/migrate";
import { demoMend } from "./demo/mending";
import { papers } from "./demo/papers";
import { listings, orders, partners, people, stock } from "./demo/shop";
import { unit } from "./demo/story";
import { DEMO_UNITS } from "./demo/units";
import { Workshop } from "./demo/workshop";

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
      const shop = new Workshop(trx);
      await people(shop);
      await partners(shop);
      await stock(shop);
      for (const [i, u] of DEMO_UNITS.entries()) await unit(shop, u, i + 1);
      await listings(shop);
      await orders(shop);
      await demoMend(
        trx,
        (by, ago, name, input) => shop.deed(by, ago, name, input),
        (name) => shop.as(name, 0),
        shop.now,
      );
      await papers(shop);
      await trx("setting").insert({ key: "demo", value: JSON.stringify({ v: 1 }) });
    });
  }
} finally {
  await db.destroy();
}
