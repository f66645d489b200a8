import "server-only";

import { readFile } from "node:fs/promises";
import { join } from "node:path";

import fontkit from "@pdf-lib/fontkit";
import { PDFDocument, type PDFFont, type PDFPage, rgb } from "pdf-lib";
import QRCode from "qrcode";

import type { CertificateBody } from "@/contract/certificate";
import type { Settings } from "@/contract/deeds";
import { day, dayAndTime } from "@/text/format";
import { GRADE_WORDS, measureName } from "@/text/measures";
import { CHECK_NAMES, TESTER_NAMES } from "@/text/words";

/** Papers: the certificate and the label, as PDF with the application's own font. Lengths in millimetres. */

const MM = 72 / 25.4;
const FONT = (weight: 400 | 700) =>
  join(
    process.cwd(),
    `node_modules/@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-${weight}-normal.woff`,
  );
const INK = rgb(0.11, 0.14, 0.13);
const FAINT = rgb(0.35, 0.39, 0.37);
const LINE = rgb(0.8, 0.79, 0.74);

export async function newDocument(title: string): Promise<{ pdf: PDFDocument; plain: PDFFont; bold: PDFFont }> {
  const pdf = await PDFDocument.create();
  pdf.registerFontkit(fontkit);
  pdf.setTitle(title);
  pdf.setProducer("Birdcage");
  const [plain, bold] = await Promise.all(
    ([400, 700] as const).map(async (w) => pdf.embedFont(await readFile(FONT(w)), { subset: true })),
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

/** The largest size at which the text fits the width. */
const fitted = (font: PDFFont, text: string, width: number, most: number) =>
  Math.min(most, (most * width) / font.widthOfTextAtSize(text, most));

/** A label of the given size: the tag in words and as a code that holds the tag alone. */
export async function labelPdf(tag: string, model: string, widthMm: number, heightMm: number): Promise<Uint8Array> {
  const { pdf, plain, bold } = await newDocument(`Label ${tag}`);
  const [w, h] = [widthMm * MM, heightMm * MM];
  const page = pdf.addPage([w, h]);
  const margin = Math.min(w, h) * 0.08;
  const side = Math.min(h - 2 * margin, w * 0.46);
  drawCode(page, tag, margin, (h - side) / 2, side);
  const left = margin * 2 + side;
  const room = w - left - margin;
  const size = fitted(bold, tag, room, h * 0.34);
  page.drawText(tag, { x: left, y: h / 2 + size * 0.1, size, font: bold, color: INK });
  const small = fitted(plain, model, room, size * 0.5);
  page.drawText(model, { x: left, y: h / 2 - small * 1.35, size: small, font: plain, color: INK });
  return pdf.save();
}

const A4: [number, number] = [595.28, 841.89];
const MARGIN = 48;

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

  text(text: string, { size = 10, font = this.plain, x = MARGIN, color = INK, width = 0, gap = 1.35 } = {}): void {
    const room = width || A4[0] - MARGIN - x;
    let line = "";
    const out = () => {
      this.room(size * gap);
      this.y -= size * gap;
      this.page.drawText(line, { x, y: this.y, size, font, color });
      line = "";
    };
    for (const word of text.replace(/\s+/g, " ").split(" ")) {
      const longer = line ? `${line} ${word}` : word;
      if (line && font.widthOfTextAtSize(longer, size) > room) {
        out();
        line = word;
      } else line = longer;
    }
    if (line) out();
  }

  columns(cells: readonly { text: string; x: number; font?: PDFFont; color?: ReturnType<typeof rgb> }[], size = 9): void {
    this.room(size * 1.5);
    this.y -= size * 1.5;
    for (const c of cells)
      this.page.drawText(c.text, { x: MARGIN + c.x, y: this.y, size, font: c.font ?? this.plain, color: c.color ?? INK });
  }

  rule(): void {
    this.y -= 5;
    this.page.drawLine({ start: { x: MARGIN, y: this.y }, end: { x: A4[0] - MARGIN, y: this.y }, color: LINE, thickness: 0.7 });
  }
}

/** The certificate on paper, with a code that leads to its page. */
export async function certificatePdf(
  body: CertificateBody,
  address: string,
  shop: Settings,
  revoked: boolean,
): Promise<Uint8Array> {
  const { pdf, plain, bold } = await newDocument(`Certificate ${body.tag}`);
  const w = new Writer(pdf, plain, bold);
  drawCode(w.page, address, A4[0] - MARGIN - 76, A4[1] - MARGIN - 76, 76);
  w.text(`${body.shop.name}, ${body.shop.town}`, { color: FAINT });
  w.text(`${body.model}  ${body.tag}`, { size: 22, font: bold, width: 380 });
  w.text(`Function: ${GRADE_WORDS[body.grade]}`, { size: 15, font: bold });
  w.text(
    `Released ${day(body.releasedAt, shop)}. ${body.warrantyUntil ? `Warranty until ${day(body.warrantyUntil, shop)}.` : "No warranty."}${body.revision ? ` ${body.revision}.` : ""}`,
  );
  if (revoked) w.text("This certificate has been revoked.", { size: 13, font: bold });
  if (body.limit) w.text(`Limit: ${body.limit}. Reason: ${body.limitReason}.`, { size: 11, font: bold });
  if (body.known) w.text(body.known);
  w.y -= 6;
  w.text(
    `Measured by ${body.tester.person} on ${dayAndTime(body.tester.at, shop)}, ${TESTER_NAMES[body.tester.source] ?? body.tester.source}: ${body.tester.label}.`,
    { color: FAINT, size: 9 },
  );
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
    for (const f of c.figures)
      w.columns([
        { text: measureName(f.measure), x: 12 },
        { text: f.value.slice(0, 34), x: 150, font: bold },
        { text: f.limit, x: 270, color: FAINT },
        { text: f.before ? `before: ${f.before.slice(0, 26)}` : "", x: 390, color: FAINT },
      ]);
  }
  if (body.functions.length) {
    w.room(50);
    w.rule();
    w.text("Functions", { font: bold, size: 11 });
    for (const f of body.functions)
      w.columns([
        { text: f.name, x: 12 },
        { text: CHECK_NAMES[f.result], x: 150, font: bold },
      ]);
  }
  if (body.work.length) {
    w.room(50);
    w.rule();
    w.text("Work done", { font: bold, size: 11 });
    for (const m of body.work) w.text(`${m.what}${m.part ? ` (${m.part})` : ""}`, { x: MARGIN + 12, size: 9 });
  }
  w.room(40);
  w.rule();
  w.text(`This paper repeats ${address}, which says whether it still stands.`, { size: 8, color: FAINT });
  return pdf.save();
}
