import Papa from "papaparse";

import { spreadsheetCsv } from "../export/spreadsheet";
import { type Minor, parseAmount } from "../money/money";
import { type Catalogue, catalogueSchema, type Offer, offerSchema, type Part, partSchema, traitsSchema } from "./catalogue";

/** Catalogue, offers and stock as CSV (RFC 4180): written for spreadsheets, read with what each row would do before it does it. */

export type RowEffect = { row: number; about: string; effect: "new" | "changes" | "same" | "error"; words: string };
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
const amount = (minor: Minor): string => `${Math.floor(minor / 100)}.${String(minor % 100).padStart(2, "0")}`;

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

export const offersCsv = (c: Catalogue): string =>
  spreadsheetCsv(
    OFFER_COLUMNS,
    c.offers.flatMap((o) =>
      o.breaks.map((b) => [o.supplier, o.part, String(o.pack), String(b.packs), amount(b.priceMinor), String(o.leadDays)]),
    ),
  );

export type StockRow = { batch: string; part: string; supplier: string; bin: string; onHand: number; valueMinor: Minor };
export const stockCsv = (rows: readonly StockRow[]): string =>
  spreadsheetCsv(
    STOCK_COLUMNS,
    rows.map((r) => [r.batch, r.part, r.supplier, r.bin, String(r.onHand), amount(r.valueMinor)]),
  );

const MOST_HEADER = 2000; // a dozen columns and as many of somebody's own

type Table = { rows: Record<string, string>[]; problem: RowEffect | null };
function table(text: string, columns: readonly string[]): Table {
  const bad = (row: number, words: string): Table => ({ rows: [], problem: { row, about: "", effect: "error", words } });
  const bare = text.replace(/^\uFEFF/, "");
  const head = /^[^\r\n]*/.exec(bare.slice(0, MOST_HEADER + 1))![0];
  if (head.length > MOST_HEADER) return bad(1, `the header is too long; it needs ${columns.join(", ")}`);
  const names = Papa.parse<string[]>(head).data[0] ?? [];
  const twice = names.find((n, i) => names.indexOf(n) < i);
  if (twice !== undefined) return bad(1, `the header names "${twice}" twice`);
  const parsed = Papa.parse<Record<string, string>>(bare, { header: true, skipEmptyLines: true });
  const missing = columns.filter((c) => !parsed.meta.fields?.includes(c));
  if (missing.length > 0) return bad(1, `the header lacks ${missing.join(", ")}; it needs ${columns.join(", ")}`);
  const broken = parsed.errors[0];
  if (broken) return bad((broken.row ?? 0) + 2, `this row cannot be read: ${broken.message.toLowerCase()}`);
  if (parsed.data.length > 5000) return bad(1, "at most 5,000 rows at once");
  return { rows: parsed.data, problem: null };
}

const issueText = (error: { issues: { path: PropertyKey[]; message: string }[] }) =>
  error.issues
    .slice(0, 2)
    .map((i) => `${i.path.join(".") || "row"}: ${i.message}`)
    .join("; ");

const NUMERIC_TRAITS = new Set(["heightMm", "thicknessMm"]);

/** Parts: a known code is changed in what its row says, an unknown one is new. Nothing is taken if a row is wrong. */
export function readPartsCsv(text: string, c: Catalogue): CatalogueImport {
  const { rows, problem } = table(text, PART_COLUMNS);
  if (problem) return { rows: [problem], catalogue: null };
  const next = new Map(c.parts.map((p) => [p.code, p]));
  const seen = new Set<string>();
  const effects = rows.map((raw, i): RowEffect => {
    const row = i + 2;
    const cell = (name: string) => plain(raw[name]);
    const code = cell("code");
    const fail = (words: string): RowEffect => ({ row, about: code, effect: "error", words });
    if (seen.has(code)) return fail("this code stands twice in the file");
    seen.add(code);
    const had = next.get(code);
    const traits: Record<string, string | number> = {};
    for (const pair of cell("traits")
      .split(";")
      .map((x) => x.trim())
      .filter(Boolean)) {
      const [k, ...v] = pair.split("=");
      if (v.length !== 1) return fail(`traits: "${pair}" should read name=value`);
      traits[k!.trim()] = NUMERIC_TRAITS.has(k!.trim()) ? Number(v[0]) : v[0]!.trim();
    }
    const knownTraits = traitsSchema.safeParse(traits);
    if (!knownTraits.success) return fail(issueText(knownTraits.error));
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
    if (!parsed.success) return fail(issueText(parsed.error));
    next.set(code, parsed.data);
    if (!had) return { row, about: code, effect: "new", words: parsed.data.name };
    const changed = (Object.keys(parsed.data) as (keyof Part)[]).filter(
      (k) => JSON.stringify(sorted(parsed.data[k])) !== JSON.stringify(sorted(had[k])),
    );
    return changed.length === 0
      ? { row, about: code, effect: "same", words: "" }
      : {
          row,
          about: code,
          effect: "changes",
          words: changed.map((k) => `${k}: ${show(had[k])} becomes ${show(parsed.data[k])}`).join("; "),
        };
  });
  return finish(effects, { ...c, parts: [...next.values()] });
}

const sorted = (v: unknown): unknown =>
  v !== null && typeof v === "object" && !Array.isArray(v)
    ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1)))
    : v;
const show = (v: unknown): string =>
  v === null || v === ""
    ? "nothing"
    : typeof v === "object"
      ? Array.isArray(v)
        ? v.join(", ") || "nothing"
        : Object.entries(v)
            .map(([k, x]) => `${k}=${String(x)}`)
            .join(", ") || "nothing"
      : String(v);

function finish(rows: RowEffect[], catalogue: Catalogue): CatalogueImport {
  if (rows.some((r) => r.effect === "error")) return { rows, catalogue: null };
  const whole = catalogueSchema.safeParse(catalogue);
  if (whole.success) return { rows, catalogue: whole.data };
  return { rows: [...rows, { row: 0, about: "the whole", effect: "error", words: issueText(whole.error) }], catalogue: null };
}

/** Offers: the rows of one supplier, part and pack size replace its breaks; the suppliers must be there already. */
export function readOffersCsv(text: string, c: Catalogue): CatalogueImport {
  const { rows, problem } = table(text, OFFER_COLUMNS);
  if (problem) return { rows: [problem], catalogue: null };
  const keyOf = (o: Pick<Offer, "supplier" | "part" | "pack">) => `${o.supplier} ${o.part} ${o.pack}`;
  const next = new Map(c.offers.map((o) => [keyOf(o), o]));
  const fresh = new Map<string, Offer>();
  const effects = rows.map((raw, i): RowEffect => {
    const row = i + 2;
    const cell = (name: string) => plain(raw[name]);
    const about = `${cell("part")} by ${cell("supplier")}`;
    const fail = (words: string): RowEffect => ({ row, about, effect: "error", words });
    const price = parseAmount(cell("price"));
    if (price === null) return fail(`price "${cell("price")}" is no amount, such as 2.60`);
    if (!c.parts.some((p) => p.code === cell("part"))) return fail(`part ${cell("part") || "(empty)"} is not in the catalogue`);
    if (!c.suppliers.some((s) => s.id === cell("supplier")))
      return fail(`supplier ${cell("supplier") || "(empty)"} is not known`);
    const one = {
      supplier: cell("supplier"),
      part: cell("part"),
      pack: Number(cell("pack")),
      leadDays: Number(cell("lead_days")),
    };
    const step = { packs: Number(cell("packs_from")), priceMinor: price };
    const key = keyOf(one);
    const parsed = offerSchema.safeParse({ ...one, breaks: [...(fresh.get(key)?.breaks ?? []), step] });
    if (!parsed.success) return fail(issueText(parsed.error));
    fresh.set(key, parsed.data);
    const old = next.get(key)?.breaks.find((b) => b.packs === step.packs);
    if (!next.has(key)) return { row, about, effect: "new", words: `${one.pack} for ${amount(price)}` };
    if (old?.priceMinor === price && next.get(key)!.leadDays === one.leadDays) return { row, about, effect: "same", words: "" };
    return { row, about, effect: "changes", words: `${old ? amount(old.priceMinor) : "no price"} becomes ${amount(price)}` };
  });
  for (const [key, offer] of fresh) next.set(key, offer);
  return finish(effects, { ...c, offers: [...next.values()] });
}

export type StockChange =
  | { kind: "receive"; part: string; supplier: string; bin: string; pieces: number; costMinor: Minor }
  | { kind: "move"; batch: string; bin: string }
  | { kind: "count"; batch: string; counted: number };

/** Stock: a row without a batch is received, one with a batch is counted and moved. Money of a known batch is never changed here. */
export function readStockCsv(
  text: string,
  c: Catalogue,
  now: readonly StockRow[],
): { rows: RowEffect[]; changes: StockChange[] | null } {
  const { rows, problem } = table(text, STOCK_COLUMNS);
  if (problem) return { rows: [problem], changes: null };
  const changes: StockChange[] = [];
  const seen = new Set<string>();
  const effects = rows.map((raw, i): RowEffect => {
    const row = i + 2;
    const cell = (name: string) => plain(raw[name]);
    const code = cell("batch");
    const about = code || cell("part");
    const fail = (words: string): RowEffect => ({ row, about, effect: "error", words });
    if (!/^\d{1,6}$/.test(cell("on_hand"))) return fail(`on_hand "${cell("on_hand")}" is no whole number`);
    const count = Number(cell("on_hand"));
    if (!/^[A-Za-z0-9][A-Za-z0-9 .-]{0,19}$/.test(cell("bin"))) return fail("bin: letters and digits, 20 at most, such as A3");
    if (code === "") {
      const cost = parseAmount(cell("cost"));
      if (!c.parts.some((p) => p.code === cell("part"))) return fail(`part ${cell("part") || "(empty)"} is not in the catalogue`);
      if (cost === null) return fail(`cost "${cell("cost")}" is no amount, such as 12.50`);
      if (count < 1) return fail("on_hand: at least 1 of what is received");
      changes.push({
        kind: "receive",
        part: cell("part"),
        supplier: cell("supplier"),
        bin: cell("bin"),
        pieces: count,
        costMinor: cost,
      });
      return { row, about, effect: "new", words: `${count} received into ${cell("bin")} for ${amount(cost)}` };
    }
    if (seen.has(code)) return fail("this batch stands twice in the file");
    seen.add(code);
    const had = now.find((s) => s.batch === code);
    if (!had) return fail("there is no such batch; leave the cell empty to receive one");
    if (cell("part") !== had.part) return fail(`this batch holds ${had.part}: a batch does not change its part`);
    const words: string[] = [];
    if (count !== had.onHand) {
      words.push(`counted ${had.onHand} becomes ${count}`);
      changes.push({ kind: "count", batch: code, counted: count });
    }
    if (cell("bin") !== had.bin) {
      words.push(`moves from ${had.bin} to ${cell("bin")}`);
      changes.push({ kind: "move", batch: code, bin: cell("bin") });
    }
    return { row, about, effect: words.length ? "changes" : "same", words: words.join("; ") };
  });
  return { rows: effects, changes: effects.some((e) => e.effect === "error") ? null : changes };
}
