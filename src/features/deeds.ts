import "server-only";

import type { Knex } from "knex";

import { DEEDS, type DeedName } from "@/contract/deeds";
import type { Reply } from "@/contract/refusals";
import type { Actor } from "@/platform/deed/base";
import type { Deed } from "@/platform/deed/declare";
import { perform } from "@/platform/run/run";
import { deeds as accountFeed } from "./account/feed";
import { deeds as accountSessions } from "./account/sessions";
import { deeds as after } from "./after/deeds";
import { deeds as buying } from "./buying/deeds";
import { deeds as buyingLots } from "./buying/lots";
import { deeds as casePresence } from "./case/presence";
import { deeds as day } from "./day/deeds";
import { deeds as decide } from "./decide/deeds";
import { deeds as find } from "./find/deeds";
import { deeds as intakeCover } from "./intake/cover";
import { deeds as intake } from "./intake/deeds";
import { deeds as intakePhotos } from "./intake/photos";
import { deeds as mendCalibrate } from "./mend/calibrate";
import { deeds as mendFaults } from "@/features/mend/faults";
import { deeds as mend } from "./mend/deeds";
import { deeds as mendHeat } from "./mend/heat";
import { deeds as mendOrder } from "./mend/order";
import { deeds as mendTips } from "./mend/tips";
import { deeds as mendWorkDone } from "./mend/work-done";
import { deeds as mendWorkOrder } from "./mend/work-order";
import { deeds as models } from "./models/deeds";
import { deeds as papers } from "./papers/deeds";
import { deeds as partsDonors } from "./parts/donors";
import { deeds as partsOrders } from "./parts/orders";
import { deeds as partsPlan } from "./parts/plan";
import { deeds as people } from "./people/deeds";
import { deeds as proveDamage } from "./prove/damage";
import { deeds as prove } from "./prove/deeds";
import { deeds as questions } from "./questions/deeds";
import { deeds as release } from "./release/deeds";
import { deeds as routes } from "./routes/deeds";
import { deeds as settings } from "./settings/deeds";
import { deeds as stockBatches } from "./stock/batches";
import { deeds as stockCatalogue } from "./stock/catalogue";
import { deeds as stock } from "./stock/deeds";
import { deeds as stockFitted } from "./stock/fitted";
import { deeds as stockImport } from "./stock/import";
import { deeds as stockReserve } from "./stock/reserve";
import { deeds as stockSplit } from "./stock/split";
import { deeds as testReadings } from "./test/readings";
import { deeds as testRecordings } from "./test/recordings";
import { deeds as waits } from "./waits/deeds";

/** The body of every change, by its name in the contract: each feature lists its own. */
const BODIES = [
  ...accountFeed,
  ...accountSessions,
  ...after,
  ...buying,
  ...buyingLots,
  ...casePresence,
  ...day,
  ...decide,
  ...find,
  ...intake,
  ...intakeCover,
  ...intakePhotos,
  ...mendCalibrate,
  ...mendFaults,
  ...mend,
  ...mendHeat,
  ...mendOrder,
  ...mendTips,
  ...mendWorkDone,
  ...mendWorkOrder,
  ...models,
  ...papers,
  ...partsDonors,
  ...partsOrders,
  ...partsPlan,
  ...people,
  ...proveDamage,
  ...prove,
  ...questions,
  ...release,
  ...routes,
  ...settings,
  ...stockBatches,
  ...stockCatalogue,
  ...stock,
  ...stockFitted,
  ...stockImport,
  ...stockReserve,
  ...stockSplit,
  ...testReadings,
  ...testRecordings,
  ...waits,
] as const;

/** A name of the contract without a body does not compile. */
type Lacking = Exclude<DeedName, (typeof BODIES)[number]["name"]>;
const BY_NAME: [Lacking] extends [never] ? Map<string, (typeof BODIES)[number]> : Lacking = new Map(
  BODIES.map((d) => [d.name, d]),
);

export const isDeed = (name: string): name is DeedName => Object.hasOwn(DEEDS, name);

/** Does one deed by its name. */
export const doDeed = (
  db: Knex,
  actor: Actor,
  name: DeedName,
  requestId: string,
  raw: unknown,
): Promise<Reply> => perform(db, actor, BY_NAME.get(name) as Deed<DeedName>, requestId, raw);
