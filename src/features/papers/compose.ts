import "server-only";

import type { Knex } from "knex";

import type { PaperBody, PaperKind } from "@/contract/papers";
import type { Settings } from "@/contract/deeds";
import { NO } from "@/contract/question";
import type { Id } from "@/core/base/ids";
import { addUp } from "@/core/money/money";
import { dayOf } from "@/core/days/days";
import type { BillLine } from "@/core/prove/bill";
import { type PaidFor, taxOnPaper, taxOwed } from "@/core/money/paper-tax";
import { standingAfter } from "@/features/after/deeds";
import { questionsOf } from "@/features/case/asked";
import { billFor } from "@/features/case/bill";
import { purchaseOf } from "@/features/case/purchase";
import { certificatesOf, partsIn } from "@/features/certificate/view";
import { modelById } from "@/features/models/deeds";
import { loadSettings } from "@/features/settings/settings";
import { Refused } from "@/platform/deed/base";
import type { UnitRow } from "@/platform/db/tables";
import { money } from "@/text/format";
import { GRADE_WORDS } from "@/text/measures";
import { say } from "@/features/papers/words/words";

/** What a paper says, worked out from the record on the day when it is written; nobody types an amount. */

export type Composed = { ofId: string; lotId: Id<"lot"> | null; body: Omit<PaperBody, "corrects"> };
type About = { unit: UnitRow; settings: Settings; model: string; contact: string; at: Date };
type Lines = PaperBody["lines"];
/** A line that bills no fault. */
const plainLine = (words: string, detail: string, amountMinor: number | null): Lines[number] => ({
  words,
  detail,
  fault: null,
  amountMinor,
});

const sumOf = (lines: Lines): number => lines.reduce((sum, l) => sum + (l.amountMinor ?? 0), 0);

function bodyOf(
  { unit, settings, model, contact, at }: About,
  other: { name: string; contact: string },
  said: Pick<PaperBody, "lines"> & Partial<PaperBody> & { of: PaidFor | null; purchaseMinor: number },
): Omit<PaperBody, "corrects"> {
  const { of, purchaseMinor, ...rest } = said;
  const sumMinor = rest.sumMinor ?? sumOf(rest.lines);
  const none = { scheme: "none", rate: 0, netMinor: sumMinor, taxMinor: 0 } as const;
  const tax = of === null ? none : taxOnPaper(sumMinor, of, settings.rates);
  const owedMinor = of === null ? 0 : taxOwed(sumMinor, purchaseMinor, tax, settings.rates.taxRate);
  return {
    v: 1,
    issuedOn: dayOf(at, settings.timeZone),
    shop: { name: settings.shopName, town: settings.town },
    other: { name: other.name, contact: contact || other.contact },
    tag: unit.tag,
    model,
    claim: unit.claim,
    findings: "",
    until: null,
    refused: [],
    done: [],
    covers: [],
    currency: settings.currency,
    ...rest,
    sumMinor,
    tax,
    books: { purchaseMinor, owedMinor },
  };
}

async function customerOf(db: Knex, unit: UnitRow): Promise<{ name: string; contact: string }> {
  const row = unit.customer_id
    ? await db("customer").where({ id: unit.customer_id }).first("name", "contact")
    : null;
  return row ?? { name: "", contact: "" };
}

/** An offer: what was found, and what can be done about it for how much. Nothing is owed by it yet. */
async function offer(db: Knex, about: About, questionId: string | null): Promise<Composed> {
  const { unit, settings } = about;
  const question = (await questionsOf(db, unit.id)).find((q) => q.id === questionId);
  if (!question || question.state === "withdrawn") throw new Refused({ code: "not-found", what: "question" });
  const { findings, faults, refresh } = question.body;
  const amount = (minor: number) => money(minor, settings);
  const body = bodyOf(about, await customerOf(db, unit), {
    findings,
    until: dayOf(new Date(question.expiresAt), settings.timeZone),
    lines: [
      ...faults.flatMap((f) => [
        plainLine(say("faultFound", { number: f.number, found: f.found }), "", null),
        ...f.options.flatMap((o) => [
          plainLine(
            o.words,
            say("aboutDaysWithWarranty", { days: o.days, warranty: o.warrantyDays }),
            o.priceMinor,
          ),
          ...(o.like
            ? [
                plainLine(
                  say("withLike", { words: o.like.words }),
                  say("likeSaves", { saves: amount(o.like.savesMinor) }),
                  o.like.priceMinor,
                ),
              ]
            : []),
        ]),
      ]),
      ...(refresh.length > 0
        ? [
            plainLine(
              say("fullRefresh", { parts: refresh.map((r) => r.words).join(", ") }),
              say("likeSaves", { saves: amount(addUp(refresh.map((r) => r.savesMinor))) }),
              addUp(refresh.map((r) => r.priceMinor)),
            ),
          ]
        : []),
    ],
    sumMinor: 0,
    of: null,
    purchaseMinor: 0,
  });
  return { ofId: question.id, lotId: null, body };
}

/** Faults to whose mending the newest answer was no. */
async function refusedBy(db: Knex, unit: UnitRow): Promise<string[]> {
  const out = new Map<string, string | null>();
  for (const q of (await questionsOf(db, unit.id)).filter((x) => x.state !== "withdrawn").reverse())
    for (const a of q.answers)
      out.set(
        a.faultId,
        a.choice === NO ? (q.body.faults.find((f) => f.faultId === a.faultId)?.found ?? null) : null,
      );
  return [...out.values()].filter((found) => found !== null);
}

function detailOf({ billed, isLike, found }: BillLine): string {
  if (billed) return found;
  return isLike ? say("notFitted", { found }) : say("notCured", { found });
}

/** What is billed for: each agreed mend of a customer's, or the unit that was sold. */
async function billed(
  db: Knex,
  { unit, model }: About,
  priceMinor: number,
  grade: string | null,
): Promise<Lines> {
  const bill = await billFor(db, unit);
  if (bill === null)
    return [plainLine(say("controllerSold", { model, tag: unit.tag }), grade ?? "", priceMinor)];
  const lines: Lines = bill.lines.map((l) => ({
    words: l.words,
    detail: detailOf(l),
    fault: l.number,
    amountMinor: l.billed ? l.priceMinor : 0,
  }));
  const rest = priceMinor - sumOf(lines);
  if (lines.length === 0) return [plainLine(say("workOn", { model, tag: unit.tag }), "", priceMinor)];
  return rest === 0 ? lines : [...lines, plainLine(say("lessThanWasAgreed"), "", rest)];
}

/** A bill, once the unit is closed: lines, what was refused and done, and what is covered until when. */
async function bill(db: Knex, about: About): Promise<Composed> {
  const { unit } = about;
  const ending = await db("ending").where({ unit_id: unit.id }).orderBy("at", "desc").first();
  if (!ending || unit.ending === null || ["donor", "scrap"].includes(unit.ending))
    throw new Refused({ code: "nothing-to-bill", why: "not-closed" });
  const after = await standingAfter(db, unit.id);
  const isCustomers = unit.source === "customer";
  const priceMinor = after?.priceMinor ?? ending.price_minor;
  if (priceMinor === null) throw new Refused({ code: "nothing-to-bill", why: "no-price" });
  if (!isCustomers && !after) throw new Refused({ code: "nothing-to-bill", why: "not-sold" });
  const certificate = (await certificatesOf(db, unit.id)).find((c) => c.revokedAt === null);
  const parts = ending.kind === "released" ? await partsIn(db, unit.id) : [];
  const until = (what: "unit" | "part", id: string | null) =>
    after?.covers.find((c) => c.what === what && c.fittedId === id)?.until ?? null;
  const other = isCustomers
    ? await customerOf(db, unit)
    : { name: after?.buyer ?? "", contact: after?.contact ?? "" };
  const body = bodyOf(about, other, {
    lines: await billed(db, about, priceMinor, ending.grade ? GRADE_WORDS[ending.grade] : null),
    refused: isCustomers ? await refusedBy(db, unit) : [],
    done: certificate?.body.work ?? [],
    covers: [
      ...(ending.warranty_days
        ? [{ name: say("theUnit"), days: ending.warranty_days, until: until("unit", null) }]
        : []),
      ...parts
        .filter((p) => (p.coverDays ?? 0) > 0)
        .map((p) => ({ name: `${p.name}, ${p.place}`, days: p.coverDays!, until: until("part", p.id) })),
    ],
    of: isCustomers ? "work" : "goods",
    purchaseMinor: isCustomers ? 0 : purchaseOf(unit),
  });
  return { ofId: ending.id, lotId: null, body };
}

/** What the shop paid a private seller, who signs for it. A lot has one receipt for all of it. */
async function receipt(db: Knex, about: About): Promise<Composed> {
  const { unit, model } = about;
  if (unit.source === "customer") throw new Refused({ code: "nothing-to-bill", why: "not-bought" });
  if (unit.source === "lot" && unit.lot_id) {
    const lot = await db("lot").where({ id: unit.lot_id }).first();
    if (!lot) throw new Refused({ code: "not-found", what: "lot" });
    const tags = await db("unit").where({ lot_id: lot.id }).orderBy("tag").pluck("tag");
    const body = bodyOf(
      about,
      { name: lot.seller, contact: "" },
      {
        lines: [
          plainLine(
            say("lotBought", { code: lot.code, count: tags.length }),
            tags.join(", "),
            lot.price_minor,
          ),
        ],
        of: null,
        purchaseMinor: lot.price_minor,
      },
    );
    return { ofId: lot.id, lotId: lot.id, body };
  }
  const body = bodyOf(
    about,
    { name: unit.seller, contact: "" },
    {
      lines: [plainLine(say("controllerBought", { model, tag: unit.tag }), "", unit.price_minor)],
      of: null,
      purchaseMinor: unit.price_minor ?? 0,
    },
  );
  return { ofId: unit.id, lotId: null, body };
}

/** What a paper of a kind would say today. */
export async function compose(
  db: Knex,
  kind: PaperKind,
  unit: UnitRow,
  asked: { questionId: string | null; contact: string; at: Date },
): Promise<Composed> {
  const { settings } = await loadSettings(db);
  if (settings.shopName === "") throw new Refused({ code: "shop-unnamed" });
  const about: About = {
    unit,
    settings,
    model: (await modelById(db, unit.profile_id)).body.name,
    contact: asked.contact,
    at: asked.at,
  };
  if (kind === "offer") return offer(db, about, asked.questionId);
  return kind === "bill" ? bill(db, about) : receipt(db, about);
}
