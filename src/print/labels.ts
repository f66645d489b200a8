import "server-only";

import { readFile } from "node:fs/promises";

import fontkit from "@pdf-lib/fontkit";
import type { PDFPage } from "pdf-lib";
import QRCode from "qrcode";
import sharp from "sharp";

import { type Label, layoutLabel, layoutSheet, type Measure, SHEET, type Size } from "@/core/labels/layout";
import { drawCode, FONT_FILE, newDocument } from "./documents";
import { say } from "@/words/print";

/** Labels as paper and as a label printer's dots. */

const MM = 72 / 25.4;

/** One page a label, or sheets of A4. */
export async function labelsPdf(labels: readonly Label[], size: Size, sheet: boolean): Promise<Uint8Array> {
  const { pdf, plain, bold } = await newDocument(
    labels.length === 1 ? say("labelTitle", { title: labels[0]!.title }) : say("labels"),
  );
  const measure: Measure = (text, heavy) => (heavy ? bold : plain).widthOfTextAtSize(text, 1);
  const { places } = layoutSheet(size, labels.length);
  const pages: PDFPage[] = [];
  labels.forEach((label, i) => {
    const at = sheet ? places[i]! : { page: i, x: 0, y: 0 };
    const format = sheet ? SHEET : size;
    pages[at.page] ??= pdf.addPage([format.widthMm * MM, format.heightMm * MM]);
    const page = pages[at.page]!;
    const down = (y: number) => (format.heightMm - at.y - y) * MM;
    const l = layoutLabel(label, size, measure);
    drawCode(page, label.code, (at.x + l.code.x) * MM, down(l.code.y + l.code.side), l.code.side * MM);
    for (const t of l.texts)
      page.drawText(t.text, {
        x: (at.x + t.x) * MM,
        y: down(t.baseline),
        size: t.size * MM,
        font: t.bold ? bold : plain,
      });
  });
  return pdf.save();
}

type Font = ReturnType<typeof fontkit.create>;
let fonts: Promise<{ plain: Font; bold: Font }> | undefined;
const loadFonts = () =>
  (fonts ??= Promise.all([readFile(FONT_FILE(400)), readFile(FONT_FILE(700))]).then(([plain, bold]) => ({
    plain: fontkit.create(plain),
    bold: fontkit.create(bold),
  })));

export const DOTS_PER_MM = 8;

/**
 * A label as black and white dots, eight a millimetre, the way a label printer takes it: PNG of one bit a
 * dot.
 */
export async function labelRaster(label: Label, size: Size): Promise<Buffer> {
  const { plain, bold } = await loadFonts();
  const widthOf = (font: Font, text: string) => font.layout(text).advanceWidth / font.unitsPerEm;
  const l = layoutLabel(label, size, (text, heavy) => widthOf(heavy ? bold : plain, text));
  const { modules } = QRCode.create(label.code, { errorCorrectionLevel: "M" });
  const cell = l.code.side / modules.size;
  const squares: string[] = [];
  for (let row = 0; row < modules.size; row++)
    for (let col = 0; col < modules.size; col++)
      if (modules.get(row, col)) squares.push(`M${col * cell} ${row * cell}h${cell}v${cell}h${-cell}z`);
  const words = l.texts.map((t) => {
    const font = t.bold ? bold : plain;
    const scale = t.size / font.unitsPerEm;
    let x = 0;
    const run = font.layout(t.text);
    const glyphs = run.glyphs.map((g, i) => {
      const path = `<path transform="translate(${x} 0)" d="${g.path.toSVG()}"/>`;
      x += run.positions[i]!.xAdvance;
      return path;
    });
    return `<g transform="translate(${t.x} ${t.baseline}) scale(${scale} ${-scale})">${glyphs.join("")}</g>`;
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${Math.round(size.widthMm * DOTS_PER_MM)}" height="${Math.round(size.heightMm * DOTS_PER_MM)}" viewBox="0 0 ${size.widthMm} ${size.heightMm}"><rect width="100%" height="100%" fill="#fff"/><path transform="translate(${l.code.x} ${l.code.y})" shape-rendering="crispEdges" d="${squares.join("")}"/>${words.join("")}</svg>`;
  return sharp(Buffer.from(svg))
    .flatten({ background: "#fff" })
    .greyscale()
    .threshold(140)
    .png({ palette: true, colours: 2 })
    .toBuffer();
}
