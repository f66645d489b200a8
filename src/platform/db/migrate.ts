import type { Knex } from "knex";

import * as workshop from "./migrations/001-workshop";
import * as bench from "./migrations/002-bench";
import * as find from "./migrations/003-find";
import * as decide from "./migrations/004-decide";
import * as mend from "./migrations/006-mend";
import * as parts from "./migrations/005-parts";
import * as release from "./migrations/007-release";
import * as quick from "./migrations/008-quick";
import * as cover from "./migrations/009-cover";
import * as proof from "./migrations/010-proof";
import * as sessions from "./migrations/011-sessions";
import * as backup from "./migrations/012-backup";
import * as named from "./migrations/013-named";
import * as unitCase from "./migrations/014-case";
import * as papers from "./migrations/015-papers";
import * as seal from "./migrations/016-seal";
import * as mate from "./migrations/017-mate";

type Migration = { name: string; up(db: Knex): Promise<void>; down(db: Knex): Promise<void> };

const MIGRATIONS: readonly Migration[] = [
  workshop,
  bench,
  find,
  decide,
  parts,
  mend,
  release,
  quick,
  cover,
  proof,
  sessions,
  backup,
  named,
  unitCase,
  papers,
  seal,
  mate,
];

const source: Knex.MigrationSource<Migration> = {
  getMigrations: () => Promise.resolve([...MIGRATIONS]),
  getMigrationName: (m) => m.name,
  getMigration: (m) => Promise.resolve(m),
};

/** Brings the database to the newest shape; each migration runs in a transaction of its own. */
export async function migrate(db: Knex): Promise<void> {
  await db.migrate.latest({ migrationSource: source });
}

export async function rollBack(db: Knex): Promise<void> {
  await db.migrate.rollback({ migrationSource: source }, true);
}
