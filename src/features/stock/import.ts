import "server-only";

import type { Knex } from "knex";

import type { DeedParsed } from "@/contract/deeds";
import { type RowEffect, readOffersCsv, readPartsCsv, readStockCsv } from "@/core/parts/csv";
import { digitsOf } from "@/core/money/money";
import { loadSettings } from "@/features/settings/settings";
import { rowWords } from "@/features/parts/words/text";
import { Refused, overtaken } from "@/platform/deed/base";
import { deed } from "@/platform/deed/declare";
import { keepCatalogue, loadCatalogue } from "./catalogue";
import { batchNow, moveBatch, receiveBatch, setCount, stockRows } from "./deeds";

/** Catalogue, stock and counts out of a CSV file. */

async function batchesInFile({ kind, text }: DeedParsed<"stock.import">, db: Knex): Promise<string[]> {
  if (kind !== "stock") return [];
  const { value: catalogue } = await loadCatalogue(db);
  const named = (readStockCsv(text, catalogue, await stockRows(db)).changes ?? []).flatMap((c) =>
    c.kind === "receive" ? [] : [c.batch],
  );
  return db("batch").whereIn("code", named).pluck("id");
}

export const importCsv = deed(
  "stock.import",
  { batches: batchesInFile },
  async (work, { kind, text, version }) => {
    const { db, batches } = work;
    const { value: catalogue, version: now } = await loadCatalogue(db);
    const digits = digitsOf((await loadSettings(db)).settings.currency);
    const refuse = (rows: readonly RowEffect[]): never => {
      throw new Refused({
        code: "csv",
        problems: rows
          .filter((r) => r.effect === "error")
          .map((r) => ({ row: r.row, message: rowWords(r) }))
          .slice(0, 20),
      });
    };
    if (kind === "stock") {
      const read = readStockCsv(text, catalogue, await stockRows(db), digits);
      if (!read.changes) return refuse(read.rows);
      for (const c of read.changes) {
        if (c.kind === "receive") {
          await receiveBatch(work, { ...c, source: "bought", orderLineId: null });
          continue;
        }
        const held = [...batches.values()].find((b) => b.code === c.batch);
        if (!held) throw new Refused({ code: "not-found", what: "batch" });
        const batch = await batchNow(db, held.id); // a file may name it twice
        if (c.kind === "move") await moveBatch(work, batch, c.bin);
        else await setCount(work, batch, c.counted, "by a file");
      }
      return { changed: read.changes.length };
    }
    if (now !== version) throw overtaken();
    const read = kind === "parts" ? readPartsCsv(text, catalogue) : readOffersCsv(text, catalogue, digits);
    if (!read.catalogue) return refuse(read.rows);
    await keepCatalogue(work, version, read.catalogue);
    return { changed: read.rows.filter((r) => r.effect !== "same").length };
  },
);

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [importCsv] as const;
