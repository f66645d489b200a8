import "server-only";

import type { Knex } from "knex";

import { guideOf } from "@/core/profile/guide";
import type { Grade } from "@/core/grade/grade";
import type { Label, LabelKind } from "@/core/labels/layout";
import { loadCatalogue } from "@/features/stock/catalogue";
import { rowsOf } from "@/platform/db/joined";
import { GRADE_WORDS } from "@/text/measures";
import { codeWords } from "@/words/codes";
import { say } from "@/features/labels/words/words";
/**
 * Labels for units, trays, parts, batches and donors: which there are, as PDF in millimetres, and as dots for
 * a label printer.
 */

export type LabelChoice = Label & { note: string };
const MOST = 120;

/** What can be labelled, newest first; `codes` picks some by their code, `q` those whose code holds it. */
export async function labelChoices(
  db: Knex,
  kind: LabelKind,
  codes: readonly string[] | null,
  q = "",
): Promise<LabelChoice[]> {
  const like = `%${q.replace(/[%_\\]/g, "\\$&")}%`;
  switch (kind) {
    case "tray":
      return Array.from({ length: 9 }, (_, i) => ({
        code: `TRAY-${i + 1}`,
        title: say("trayI", { i: i + 1 }),
        line: say("scanToGoThere"),
        note: "",
      })).filter((l) => !codes || codes.includes(l.code));
    case "part": {
      const { value } = await loadCatalogue(db);
      return value.parts
        .filter((p) =>
          codes
            ? codes.includes(`PART-${p.code}`)
            : `${p.code} ${p.name}`.toLowerCase().includes(q.toLowerCase()),
        )
        .slice(0, MOST)
        .map((p) => ({ code: `PART-${p.code}`, title: p.code, line: p.name, note: p.class }));
    }
    case "batch": {
      const { value } = await loadCatalogue(db);
      const query = db("batch").orderBy("at", "desc").limit(MOST).select("code", "part", "bin", "on_hand");
      if (codes) query.whereIn("code", [...codes]);
      else if (q) query.where((w) => w.whereILike("code", like).orWhereILike("part", like));
      return (await query).map((b) => ({
        code: b.code,
        title: b.code,
        line: say("findBinBin", {
          find: value.parts.find((p) => p.code === b.part)?.name ?? b.part,
          bin: b.bin,
        }),
        note: say("onhandOnHand", { onhand: b.on_hand }),
      }));
    }
    case "piece":
      return piecesOf(db, codes, q);
    case "unit":
    case "donor": {
      const found = db("unit as u")
        .join("model_profile as m", "m.id", "u.profile_id")
        .orderBy("u.received_at", "desc")
        .limit(MOST);
      if (kind === "donor") void found.where({ "u.ending": "donor" });
      if (codes) void found.whereIn("u.tag", [...codes]);
      else if (q) void found.whereILike("u.tag", like);
      const rows = await rowsOf(
        found,
        { u: "unit", m: "model_profile" },
        "u.id",
        "u.ending",
        "u.tag",
        "m.name as model",
        "u.stage",
      );
      const proven =
        kind === "unit"
          ? await provenGrades(
              db,
              // who came back is open again: what was proven then says nothing of it now
              rows.flatMap((u) => (u.ending === null ? [] : [u.id])),
            )
          : new Map<string, Grade>();
      const lineOf = (u: (typeof rows)[number]) => {
        const grade = proven.get(u.id);
        if (kind === "donor") return say("modelDonor", { model: u.model });
        return grade ? say("modelGrade", { model: u.model, grade: GRADE_WORDS[grade] }) : u.model;
      };
      return rows.map((u) => ({
        code: u.tag,
        title: u.tag,
        line: lineOf(u),
        note: codeWords(u.stage),
        ...(proven.has(u.id) ? { sign: proven.get(u.id)! } : {}),
      }));
    }
  }
}

/**
 * Boards and loose pieces of a unit whose tag is asked for, or of those on the trays: many look alike once they are
 * out. Their codes begin with the tag, so that a scan leads to it.
 */
async function piecesOf(db: Knex, codes: readonly string[] | null, q: string): Promise<LabelChoice[]> {
  const tags = codes ? [...new Set(codes.map((c) => c.split("-").slice(0, 2).join("-")))] : null;
  const found = db("unit as u").join("model_profile as m", "m.id", "u.profile_id").orderBy("u.tray").limit(9);
  if (tags) void found.whereIn("u.tag", tags);
  else if (q) void found.whereILike("u.tag", `%${q.replace(/[%_\\]/g, "\\$&")}%`);
  else void found.whereNotNull("u.tray");
  const units = await rowsOf(
    found,
    { u: "unit", m: "model_profile" },
    "u.tag",
    "u.revision",
    "u.stage",
    "m.body",
  );
  return units.flatMap(({ tag, revision, stage, body }) =>
    (body.guide ? guideOf(body.guide, revision).pieces : [])
      .map((p) => ({
        code: `${tag}-${p.id.replaceAll(".", "-")}`.slice(0, 40),
        title: tag,
        line: p.name,
        note: say("modelStage", { model: body.name, stage: codeWords(stage) }),
      }))
      .filter((l) => !codes || codes.includes(l.code)),
  );
}

/** The grades of those units that have a certificate which still stands. */
async function provenGrades(db: Knex, ids: readonly string[]): Promise<Map<string, Grade>> {
  const rows = await db("certificate")
    .whereIn("unit_id", [...ids])
    .whereNull("revoked_at")
    .whereNull("superseded_by")
    .orderBy("at")
    .select("unit_id", "body");
  return new Map(rows.map((c) => [c.unit_id, c.body.grade]));
}
