import "server-only";

import { readFile } from "node:fs/promises";
import { join } from "node:path";

import fontkit from "@pdf-lib/fontkit";
import { PDFDocument, type PDFFont, type PDFPage, rgb } from "pdf-lib";
import QRCode from "qrcode";

import type { CertificateBody, SignatureState } from "@/contract/certificate";
import type { Settings } from "@/contract/deeds";
import { type Curve, curveFrame, type CurveKind, type CurvePoint } from "@/core/plots/curve";

import { day, dayAndTime, figuresAsIn } from "@/text/format";
import { GRADE_WORDS, measureName, percent } from "@/text/measures";
import {
  CARE_WORDS,
  chargeText,
  CONDITION_WORDS,
  conditionRule,
  curveNote,
  disclosureText,
  fittedText,
  partCoverText,
  proofTakenText,
  PROOF_RESULT_WORDS,
  proofWords,
  SIGNATURE_WORDS,
} from "@/features/release/words/text";
import { personName } from "@/text/names";
import { CHECK_NAMES, TESTER_NAMES } from "@/features/case/words/text";
import { daysLater } from "@/core/days/days";
import { say } from "@/words/print";

/** Papers: certificates and letters, as PDF with the application's own font. Lengths in millimetres. */

/** The application's own font, which ships with it. */
export const FONT_FILE = (weight: 400 | 700) =>
  join(
    process.cwd(),
    `node_modules/@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-${weight}-normal.woff`,
  );
const INK = rgb(0.11, 0.14, 0.13);
const FAINT = rgb(0.35, 0.39, 0.37);
const LINE = rgb(0.8, 0.79, 0.74);

export async function newDocument(
  title: string,
): Promise<{ pdf: PDFDocument; plain: PDFFont; bold: PDFFont }> {
  const pdf = await PDFDocument.create();
  pdf.registerFontkit(fontkit);
  pdf.setTitle(title);
  pdf.setProducer("Birdcage");
  const [plain, bold] = await Promise.all(
    ([400, 700] as const).map(async (w) => pdf.embedFont(await readFile(FONT_FILE(w)), { subset: true })),
  );
  return { pdf, plain: plain!, bold: bold! };
}

/** The code as squares, drawn and not pasted, so that it prints sharp at any size. */
export function drawCode(page: PDFPage, text: string, x: number, y: number, side: number): void {
  const { modules } = QRCode.create(text, { errorCorrectionLevel: "M" });
  const cell = side / modules.size;
  for (let row = 0; row < modules.size; row++)
    for (let col = 0; col < modules.size; col++)
      if (modules.get(row, col))
        page.drawRectangle({
          x: x + col * cell,
          y: y + side - (row + 1) * cell,
          width: cell + 0.05,
          height: cell + 0.05,
          color: INK,
        });
}

const A4: [number, number] = [595.28, 841.89];
const MARGIN = 48;

/** A text as lines that fit a width: broken between words, and within a word that is wider than a line. */
export function brokenLines(
  text: string,
  width: number,
  font: Pick<PDFFont, "widthOfTextAtSize">,
  size: number,
): string[] {
  const fits = (s: string) => font.widthOfTextAtSize(s, size) <= width;
  const out: string[] = [];
  let line = "";
  for (const word of text.replace(/\s+/g, " ").trim().split(" ")) {
    const longer = line ? `${line} ${word}` : word;
    if (fits(longer)) {
      line = longer;
      continue;
    }
    if (line) out.push(line);
    line = "";
    for (const letter of word) {
      if (line && !fits(line + letter)) {
        out.push(line);
        line = "";
      }
      line += letter;
    }
  }
  if (line) out.push(line);
  return out;
}

/** Writes lines down pages of A4 and begins a new page when one is full. */
class Writer {
  page: PDFPage;
  y = A4[1] - MARGIN;
  constructor(
    readonly pdf: PDFDocument,
    readonly plain: PDFFont,
    readonly bold: PDFFont,
  ) {
    this.page = pdf.addPage(A4);
  }

  room(height: number): void {
    if (this.y - height > MARGIN) return;
    this.page = this.pdf.addPage(A4);
    this.y = A4[1] - MARGIN;
  }

  text(
    text: string,
    { size = 10, font = this.plain, x = MARGIN, color = INK, width = 0, gap = 1.35 } = {},
  ): void {
    for (const line of brokenLines(text, width || A4[0] - MARGIN - x, font, size)) {
      this.room(size * gap);
      this.y -= size * gap;
      this.page.drawText(line, { x, y: this.y, size, font, color });
    }
  }

  /** Cells side by side, each broken into as many lines as its words need: nothing is cut. */
  columns(
    cells: readonly { text: string; x: number; font?: PDFFont; color?: ReturnType<typeof rgb> }[],
    size = 9,
  ): void {
    const rows = cells.map((c, i) => {
      const room = (cells[i + 1]?.x ?? A4[0] - 2 * MARGIN) - c.x - 6;
      return brokenLines(c.text, room, c.font ?? this.plain, size);
    });
    const lines = Math.max(1, ...rows.map((r) => r.length));
    this.room(size * (1.5 + 1.2 * (lines - 1)));
    this.y -= size * 1.5;
    cells.forEach((c, i) =>
      rows[i]!.forEach((text, line) =>
        this.page.drawText(text, {
          x: MARGIN + c.x,
          y: this.y - line * size * 1.2,
          size,
          font: c.font ?? this.plain,
          color: c.color ?? INK,
        }),
      ),
    );
    this.y -= (lines - 1) * size * 1.2;
  }

  rule(): void {
    this.y -= 5;
    this.page.drawLine({
      start: { x: MARGIN, y: this.y },
      end: { x: A4[0] - MARGIN, y: this.y },
      color: LINE,
      thickness: 0.7,
    });
  }
}

/** A curve in its frame: before dashed, now solid. */
function drawCurve(w: Writer, kind: CurveKind, curve: Curve): void {
  const [width, height] = [200, 46];
  w.room(height + 8);
  const bottom = w.y - height - 2;
  const left = MARGIN + 12;
  const { place, lines } = curveFrame(kind, curve);
  const at = (p: CurvePoint) => {
    const [x, y] = place(p);
    return { x: left + x * width, y: bottom + y * height };
  };
  const beside = (text: string, y: number, size = 8) =>
    w.page.drawText(text, { x: left + width + 8, y, size, font: w.plain, color: FAINT });
  w.page.drawRectangle({ x: left, y: bottom, width, height, borderColor: LINE, borderWidth: 0.6 });
  for (const { value, what } of lines) {
    const { y } = at([0, value]);
    w.page.drawLine({
      start: { x: left, y },
      end: { x: left + width, y },
      thickness: 0.6,
      color: what === "limit" ? FAINT : LINE,
      ...(what === "limit" ? { dashArray: [1, 2] } : {}),
    });
  }
  const line = (points: readonly CurvePoint[], dashed: boolean) => {
    for (let i = 1; i < points.length; i++)
      w.page.drawLine({
        start: at(points[i - 1]!),
        end: at(points[i]!),
        thickness: dashed ? 0.7 : 1.3,
        color: dashed ? FAINT : INK,
        ...(dashed ? { dashArray: [2, 2] } : {}),
      });
  };
  line(curve.before, true);
  line(curve.now, false);
  if (curve.limit !== null)
    beside(say("dottedGradeAAtLeastLimit", { limit: percent(curve.limit) }), bottom + 14);
  beside(curveNote(kind, curve), bottom + 4);
  w.y = bottom - 2;
}

/** What of a certificate is not in its signed content, as it stands when the paper is made. */
export type PaperStanding = {
  revoked: boolean;
  superseded: boolean;
  signature: SignatureState;
  handedOn: string | null;
};

/** The certificate on paper, with a code that leads to its page. */
export async function certificatePdf(
  body: CertificateBody,
  address: string,
  shop: Settings,
  standing: PaperStanding,
): Promise<Uint8Array> {
  figuresAsIn(shop.locale); // a thread of the pool has heard of no shop
  const { pdf, plain, bold } = await newDocument(say("certificateTag", { tag: body.tag }));
  const w = new Writer(pdf, plain, bold);
  const section = (title: string) => {
    w.room(50);
    w.rule();
    w.text(title, { font: bold, size: 11 });
  };
  const item = (text: string) => w.text(text, { x: MARGIN + 12, size: 9 });
  drawCode(w.page, address, A4[0] - MARGIN - 76, A4[1] - MARGIN - 76, 76);
  w.text(`${body.shop.name}, ${body.shop.town}`, { color: FAINT });
  w.text(`${body.model}  ${body.tag}`, { size: 22, font: bold, width: 380 });
  w.text(
    say("functionGradeCondition", {
      grade: GRADE_WORDS[body.grade],
      condition: body.condition ? say("outsideGrade", { grade: CONDITION_WORDS[body.condition.grade] }) : "",
    }),
    {
      size: 15,
      font: bold,
      width: 380,
    },
  );
  for (const r of body.condition?.reasons ?? [])
    w.text(conditionRule(r), { size: 9, color: FAINT, width: 380 });
  const until =
    standing.handedOn && body.warrantyDays > 0
      ? daysLater(standing.handedOn, body.warrantyDays)
      : body.warrantyUntil;
  w.text(
    say("releasedReleasedAtUntilPartWarrantyDays", {
      releasedAt: day(body.releasedAt, shop),
      until: until
        ? say("warrantyUntilUntilHandedOn", {
            until: day(until, shop),
            handedOn: standing.handedOn ? "" : say("orAsManyDaysFromThe"),
          })
        : say("noWarranty"),
      partWarrantyDays: body.partWarrantyDays ? say("fittedPartsBody", { body: partCoverText(body) }) : "",
      revision: body.revision ? ` ${body.revision}.` : "",
      seal: body.seal ? say("sealSeal", { seal: body.seal }) : "",
    }),
    { width: 400 },
  );
  if (standing.revoked) w.text(say("thisCertificateHasBeenRevoked"), { size: 13, font: bold });
  if (standing.superseded) w.text(say("aLaterCertificateTookThePlace"), { size: 13, font: bold });
  if (standing.signature.state !== "good")
    w.text(`${SIGNATURE_WORDS[standing.signature.state]}.`, { size: 11, font: bold });
  if (body.limit)
    w.text(say("limitLimitReasonLimitReason", { limit: body.limit, limitReason: body.limitReason }), {
      size: 11,
      font: bold,
    });
  if (body.known) w.text(body.known);
  w.y -= 6;
  w.text(
    say("measuredByPersonOnAtSource", {
      person: personName(body.tester.person),
      at: dayAndTime(body.tester.at, shop),
      source: TESTER_NAMES[body.tester.source] ?? body.tester.source,
      tester: body.tester.label,
    }),
    { color: FAINT, size: 9 },
  );
  if (body.proofTaken) w.text(`${proofTakenText(body.proofTaken)}.`, { size: 11, font: bold });
  if (body.disclosures.length) {
    section(say("whatToKnowAboutIt"));
    for (const d of body.disclosures) item(disclosureText(d));
  }
  for (const c of body.controls) {
    w.room(40);
    w.rule();
    w.columns(
      [
        { text: c.name, x: 0, font: bold },
        { text: GRADE_WORDS[c.grade], x: 150, font: bold },
      ],
      10,
    );
    if (c.curve) drawCurve(w, c.id.startsWith("trigger") ? "trigger" : "stick", c.curve);
    for (const f of c.figures)
      w.columns([
        { text: measureName(f.measure), x: 12 },
        { text: f.value, x: 150, font: bold },
        { text: f.limit, x: 270, color: FAINT },
        { text: f.before ? say("beforeValue", { before: f.before }) : "", x: 390, color: FAINT },
      ]);
  }
  if (body.functions.length) {
    section(say("functions"));
    for (const f of body.functions)
      w.columns([
        { text: f.name, x: 12 },
        { text: CHECK_NAMES[f.result], x: 150, font: bold },
        {
          text: [f.with, personName(f.by), f.at ? day(f.at, shop) : ""].filter(Boolean).join(", "),
          x: 230,
          color: FAINT,
        },
      ]);
  }
  if (body.proof.length) {
    section(say("proofBesideTheTest"));
    for (const p of body.proof)
      item(
        `${proofWords(p.key).ask}: ${PROOF_RESULT_WORDS[p.result]}${p.value === null ? "" : `, ${chargeText(p.value)}`} (${personName(p.by)}, ${day(p.at, shop)})`,
      );
  }
  if (body.work.length) {
    section(say("workDone"));
    for (const m of body.work) item(`${m.what}${m.part ? ` (${m.part})` : ""}`);
  }
  if (body.parts.length) {
    section(say("partsFitted"));
    for (const p of body.parts) item(fittedText(p));
  }
  if (body.care.length) {
    section(say("soThatItLasts"));
    for (const c of body.care) item(CARE_WORDS[c]);
  }
  w.room(40);
  w.rule();
  w.text(say("thisPaperRepeatsAddressWhich", { address }), {
    size: 8,
    color: FAINT,
  });
  if (standing.signature.state !== "unsigned")
    w.text(
      say("digestSHA256Sha256KeyKid", { sha256: standing.signature.sha256, kid: standing.signature.kid }),
      {
        size: 7,
        color: FAINT,
      },
    );
  return pdf.save();
}

export type Letter = {
  to: string;
  contact: string;
  tag: string;
  model: string;
  soldOn: string | null;
  place: string;
  address: string | null;
};

/** Letters to those who hold a piece of a bad batch, one a page. */
export async function recallLetters(
  letters: readonly Letter[],
  batch: { code: string; part: string; why: string },
  shop: Settings,
  today: string,
): Promise<Uint8Array> {
  const { pdf, plain, bold } = await newDocument(say("lettersBatchBatch", { batch: batch.code }));
  for (const l of letters) {
    const w = new Writer(pdf, plain, bold);
    w.text(`${shop.shopName}, ${shop.town}`, { color: FAINT });
    w.y -= 30;
    w.text(l.to, { size: 12, font: bold });
    if (l.contact) w.text(l.contact, { size: 11 });
    w.y -= 30;
    w.text(day(today, shop), { size: 10 });
    w.y -= 10;
    w.text(say("aboutYourModelTag", { model: l.model, tag: l.tag }), { size: 14, font: bold });
    w.y -= 8;
    const paragraph = (text: string) => {
      w.text(text, { size: 11, gap: 1.5 });
      w.y -= 8;
    };
    paragraph(
      say("soldOnThisControllerFromUsWe", {
        soldOn: l.soldOn ? say("onSoldOnYouHad", { soldOn: day(l.soldOn, shop) }) : say("youHad"),
        place: l.place,
        part: batch.part,
        why: batch.why,
      }),
    );
    paragraph(say("pleaseBringOrSendTheController"));
    if (l.address) paragraph(say("whatWeMeasuredWhenItLeft", { address: l.address }));
    paragraph(say("withOurApologies"));
    w.text(shop.shopName, { size: 11, font: bold });
    w.y -= 20;
    w.text(say("batchBatch", { batch: batch.code }), { size: 8, color: FAINT });
  }
  return pdf.save();
}
