import Papa from "papaparse";

import { type Place, placesOf } from "../base/finding";
import { spreadsheetCsv } from "../export/spreadsheet";
import { type Minor, parseAmount, plainForm, writeAmount } from "../money/money";
import {
  type Catalogue,
  catalogueSchema,
  type Offer,
  offerSchema,
  type Part,
  partSchema,
  traitsSchema,
} from "./catalogue";

/**
 * Catalogue, offers and stock as CSV (RFC 4180): written for spreadsheets, read with what each row would do
 * before it does it.
 */

/** What a row says, does or lacks; the sentences live in src/text/parts. */
export type RowSaid =
  | { code: "header-long"; needs: string }
  | { code: "header-twice"; column: string }
  | { code: "header-lacks"; lacks: string; needs: string }
  | { code: "unreadable"; why: string }
  | { code: "too-many"; most: number }
  | { code: "twice"; what: "code" | "batch" }
  | { code: "trait"; pair: string }
  | { code: "found"; place: Place }
  | { code: "no-amount"; column: "price" | "cost"; text: string }
  | { code: "no-part" | "no-supplier"; name: string }
  | { code: "no-count"; text: string }
  | { code: "bin" | "nothing-received" | "no-batch" }
  | { code: "holds"; part: string }
  | { code: "named"; name: string }
  | { code: "becomes"; field: string; had: string; now: string }
  | { code: "pack"; pieces: number; priceMinor: Minor }
  | { code: "price"; hadMinor: Minor | null; priceMinor: Minor }
  | { code: "received"; pieces: number; bin: string; costMinor: Minor }
  | { code: "counted"; had: number; now: number }
  | { code: "moves"; from: string; to: string };

/** `about`: what the row is of, in its own letters; a row 0 is the whole file. */
export type RowEffect = {
  row: number;
  about: string[];
  effect: "new" | "changes" | "same" | "error";
  said: RowSaid[];
};
export type CatalogueImport = { rows: RowEffect[]; catalogue: Catalogue | null };

const PART_COLUMNS = [
  "code",
  "class",
  "kind",
  "name",
  "make",
  "use",
  "unit",
  "low",
  "lacks",
  "uses",
  "disposal",
  "traits",
] as const;
const OFFER_COLUMNS = ["supplier", "part", "pack", "packs_from", "price", "lead_days"] as const;
const STOCK_COLUMNS = ["batch", "part", "supplier", "bin", "on_hand", "cost"] as const;

/** Reading takes off the apostrophe that writing puts before what a spreadsheet would take for a formula. */
const plain = (text: string | undefined): string => (text ?? "").trim().replace(/^'(?=[=+\-@])/, "");

export const partsCsv = (c: Catalogue): string =>
  spreadsheetCsv(
    PART_COLUMNS,
    c.parts.map((p) => [
      p.code,
      p.class,
      p.kind ?? "",
      p.name,
      p.make ?? "",
      p.use,
      p.unit,
      String(p.low),
      p.lacks.join("; "),
      p.uses,
      p.disposal,
      Object.entries(p.traits)
        .map(([k, v]) => `${k}=${v}`)
        .join("; "),
    ]),
  );

/** `digits`: those of the shop's currency; amounts in the file have a point and as many. */
export const offersCsv = (c: Catalogue, digits = 2): string =>
  spreadsheetCsv(
    OFFER_COLUMNS,
    c.offers.flatMap((o) =>
      o.breaks.map((b) => [
        o.supplier,
        o.part,
        String(o.pack),
        String(b.packs),
        writeAmount(b.priceMinor, plainForm(digits)),
        String(o.leadDays),
      ]),
    ),
  );

export type StockRow = {
  batch: string;
  part: string;
  supplier: string;
  bin: string;
  onHand: number;
  valueMinor: Minor;
};
export const stockCsv = (rows: readonly StockRow[], digits = 2): string =>
  spreadsheetCsv(
    STOCK_COLUMNS,
    rows.map((r) => [
      r.batch,
      r.part,
      r.supplier,
      r.bin,
      String(r.onHand),
      writeAmount(r.valueMinor, plainForm(digits)),
    ]),
  );

const MOST_ROWS = 5000;
const MOST_HEADER = 2000; // a dozen columns and as many of somebody's own

type Table = { rows: Record<string, string>[]; problem: RowEffect | null };
function table(text: string, columns: readonly string[]): Table {
  const bad = (row: number, said: RowSaid): Table => ({
    rows: [],
    problem: { row, about: [], effect: "error", said: [said] },
  });
  const needs = columns.join(", ");
  const bare = text.replace(/^\uFEFF/, "");
  const head = /^[^\r\n]*/.exec(bare.slice(0, MOST_HEADER + 1))![0];
  if (head.length > MOST_HEADER) return bad(1, { code: "header-long", needs });
  const names = Papa.parse<string[]>(head).data[0] ?? [];
  const twice = names.find((n, i) => names.indexOf(n) < i);
  if (twice !== undefined) return bad(1, { code: "header-twice", column: twice });
  const parsed = Papa.parse<Record<string, string>>(bare, { header: true, skipEmptyLines: true });
  const missing = columns.filter((c) => !parsed.meta.fields?.includes(c));
  if (missing.length > 0) return bad(1, { code: "header-lacks", lacks: missing.join(", "), needs });
  const broken = parsed.errors[0];
  if (broken) return bad((broken.row ?? 0) + 2, { code: "unreadable", why: broken.code });
  if (parsed.data.length > MOST_ROWS) return bad(1, { code: "too-many", most: MOST_ROWS });
  return { rows: parsed.data, problem: null };
}

const foundIn = (error: Parameters<typeof placesOf>[0]): RowSaid[] =>
  placesOf(error, 2).map((place) => ({ code: "found", place }));

const NUMERIC_TRAITS = new Set(["heightMm", "thicknessMm"]);

/**
 * Parts: a known code is changed in what its row says, an unknown one is new. Nothing is taken if a row is
 * wrong.
 */
export function readPartsCsv(text: string, c: Catalogue): CatalogueImport {
  const { rows, problem } = table(text, PART_COLUMNS);
  if (problem) return { rows: [problem], catalogue: null };
  const next = new Map(c.parts.map((p) => [p.code, p]));
  const seen = new Set<string>();
  const effects = rows.map((raw, i): RowEffect => {
    const row = i + 2;
    const cell = (name: string) => plain(raw[name]);
    const code = cell("code");
    const fail = (...said: RowSaid[]): RowEffect => ({ row, about: [code], effect: "error", said });
    if (seen.has(code)) return fail({ code: "twice", what: "code" });
    seen.add(code);
    const had = next.get(code);
    const traits: Record<string, string | number> = {};
    for (const pair of cell("traits")
      .split(";")
      .map((x) => x.trim())
      .filter(Boolean)) {
      const [k, ...v] = pair.split("=");
      if (v.length !== 1) return fail({ code: "trait", pair });
      traits[k!.trim()] = NUMERIC_TRAITS.has(k!.trim()) ? Number(v[0]) : v[0]!.trim();
    }
    const knownTraits = traitsSchema.safeParse(traits);
    if (!knownTraits.success) return fail(...foundIn(knownTraits.error));
    const parsed = partSchema.safeParse({
      tells: [],
      check: null,
      contents: [],
      ...had,
      code,
      class: cell("class"),
      kind: cell("kind") || null,
      name: cell("name"),
      make: cell("make") || null,
      use: cell("use"),
      unit: cell("unit") || "piece",
      low: Number(cell("low") || "0"),
      lacks: cell("lacks")
        .split(";")
        .map((x) => x.trim())
        .filter(Boolean),
      uses: cell("uses"),
      disposal: cell("disposal"),
      traits: knownTraits.data,
    });
    if (!parsed.success) return fail(...foundIn(parsed.error));
    next.set(code, parsed.data);
    if (!had) return { row, about: [code], effect: "new", said: [{ code: "named", name: parsed.data.name }] };
    const changed = (Object.keys(parsed.data) as (keyof Part)[]).filter(
      (k) => JSON.stringify(sorted(parsed.data[k])) !== JSON.stringify(sorted(had[k])),
    );
    return {
      row,
      about: [code],
      effect: changed.length === 0 ? "same" : "changes",
      said: changed.map((k) => ({ code: "becomes", field: k, had: show(had[k]), now: show(parsed.data[k]) })),
    };
  });
  return finish(effects, { ...c, parts: [...next.values()] });
}

const sorted = (v: unknown): unknown =>
  v !== null && typeof v === "object" && !Array.isArray(v)
    ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1)))
    : v;
/** A cell's value in its own letters; empty where it holds nothing. */
function show(v: unknown): string {
  if (Array.isArray(v)) return v.join(", ");
  if (v === null || typeof v !== "object") return String(v ?? "");
  return Object.entries(v)
    .map(([k, x]) => `${k}=${String(x)}`)
    .join(", ");
}

function finish(rows: RowEffect[], catalogue: Catalogue): CatalogueImport {
  if (rows.some((r) => r.effect === "error")) return { rows, catalogue: null };
  const whole = catalogueSchema.safeParse(catalogue);
  if (whole.success) return { rows, catalogue: whole.data };
  return {
    rows: [...rows, { row: 0, about: [], effect: "error", said: foundIn(whole.error) }],
    catalogue: null,
  };
}

/**
 * Offers: the rows of one supplier, part and pack size replace its breaks; the suppliers must be there
 * already.
 */
export function readOffersCsv(text: string, c: Catalogue, digits = 2): CatalogueImport {
  const { rows, problem } = table(text, OFFER_COLUMNS);
  if (problem) return { rows: [problem], catalogue: null };
  const keyOf = (o: Pick<Offer, "supplier" | "part" | "pack">) => `${o.supplier} ${o.part} ${o.pack}`;
  const next = new Map(c.offers.map((o) => [keyOf(o), o]));
  const fresh = new Map<string, Offer>();
  const effects = rows.map((raw, i): RowEffect => {
    const row = i + 2;
    const cell = (name: string) => plain(raw[name]);
    const about = [cell("part"), cell("supplier")];
    const fail = (...said: RowSaid[]): RowEffect => ({ row, about, effect: "error", said });
    const price = parseAmount(cell("price"), plainForm(digits));
    if (price === null) return fail({ code: "no-amount", column: "price", text: cell("price") });
    if (!c.parts.some((p) => p.code === cell("part"))) return fail({ code: "no-part", name: cell("part") });
    if (!c.suppliers.some((s) => s.id === cell("supplier")))
      return fail({ code: "no-supplier", name: cell("supplier") });
    const one = {
      supplier: cell("supplier"),
      part: cell("part"),
      pack: Number(cell("pack")),
      leadDays: Number(cell("lead_days")),
    };
    const step = { packs: Number(cell("packs_from")), priceMinor: price };
    const key = keyOf(one);
    const parsed = offerSchema.safeParse({ ...one, breaks: [...(fresh.get(key)?.breaks ?? []), step] });
    if (!parsed.success) return fail(...foundIn(parsed.error));
    fresh.set(key, parsed.data);
    const old = next.get(key)?.breaks.find((b) => b.packs === step.packs);
    if (!next.has(key))
      return { row, about, effect: "new", said: [{ code: "pack", pieces: one.pack, priceMinor: price }] };
    if (old?.priceMinor === price && next.get(key)!.leadDays === one.leadDays)
      return { row, about, effect: "same", said: [] };
    return {
      row,
      about,
      effect: "changes",
      said: [{ code: "price", hadMinor: old?.priceMinor ?? null, priceMinor: price }],
    };
  });
  for (const [key, offer] of fresh) next.set(key, offer);
  return finish(effects, { ...c, offers: [...next.values()] });
}

export type StockChange =
  | { kind: "receive"; part: string; supplier: string; bin: string; pieces: number; costMinor: Minor }
  | { kind: "move"; batch: string; bin: string }
  | { kind: "count"; batch: string; counted: number };

/**
 * Stock: a row without a batch is received, one with a batch is counted and moved. Money of a known batch is
 * never changed here.
 */
export function readStockCsv(
  text: string,
  c: Catalogue,
  now: readonly StockRow[],
  digits = 2,
): { rows: RowEffect[]; changes: StockChange[] | null } {
  const { rows, problem } = table(text, STOCK_COLUMNS);
  if (problem) return { rows: [problem], changes: null };
  const changes: StockChange[] = [];
  const seen = new Set<string>();
  const effects = rows.map((raw, i): RowEffect => {
    const row = i + 2;
    const cell = (name: string) => plain(raw[name]);
    const code = cell("batch");
    const about = [code || cell("part")];
    const fail = (...said: RowSaid[]): RowEffect => ({ row, about, effect: "error", said });
    if (!/^\d{1,6}$/.test(cell("on_hand"))) return fail({ code: "no-count", text: cell("on_hand") });
    const count = Number(cell("on_hand"));
    if (!/^[A-Za-z0-9][A-Za-z0-9 .-]{0,19}$/.test(cell("bin"))) return fail({ code: "bin" });
    if (code === "") {
      const cost = parseAmount(cell("cost"), plainForm(digits));
      if (!c.parts.some((p) => p.code === cell("part"))) return fail({ code: "no-part", name: cell("part") });
      if (cost === null) return fail({ code: "no-amount", column: "cost", text: cell("cost") });
      if (count < 1) return fail({ code: "nothing-received" });
      changes.push({
        kind: "receive",
        part: cell("part"),
        supplier: cell("supplier"),
        bin: cell("bin"),
        pieces: count,
        costMinor: cost,
      });
      return {
        row,
        about,
        effect: "new",
        said: [{ code: "received", pieces: count, bin: cell("bin"), costMinor: cost }],
      };
    }
    if (seen.has(code)) return fail({ code: "twice", what: "batch" });
    seen.add(code);
    const had = now.find((s) => s.batch === code);
    if (!had) return fail({ code: "no-batch" });
    if (cell("part") !== had.part) return fail({ code: "holds", part: had.part });
    const said: RowSaid[] = [];
    if (count !== had.onHand) {
      said.push({ code: "counted", had: had.onHand, now: count });
      changes.push({ kind: "count", batch: code, counted: count });
    }
    if (cell("bin") !== had.bin) {
      said.push({ code: "moves", from: had.bin, to: cell("bin") });
      changes.push({ kind: "move", batch: code, bin: cell("bin") });
    }
    return { row, about, effect: said.length ? "changes" : "same", said };
  });
  return { rows: effects, changes: effects.some((e) => e.effect === "error") ? null : changes };
}
