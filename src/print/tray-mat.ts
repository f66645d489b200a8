import "server-only";

import { rgb } from "pdf-lib";

import type { MendGuide } from "@/core/profile/guide";
import type { ModelProfile } from "@/core/profile/profile";
import { drawCode, newDocument } from "./documents";
import { say } from "@/words/print";
import { codeWords } from "@/words/codes";

/**
 * A mat to lay under the tray: the unit to scale, back up, with a ring for each fastener; and the codes for
 * the scanner. Millimetres.
 */

const MM = 72 / 25.4;
const [WIDTH, HEIGHT] = [297, 210];
const INK = rgb(0.11, 0.14, 0.13);
const FAINT = rgb(0.45, 0.49, 0.47);

const CODES: [code: string, words: string][] = [
  ["GO-DONE", say("done")],
  ["GO-NEXT", say("next")],
  ["GO-BACK", "back"],
  ["GO-PROBLEM", say("problem")],
  ["GO-TICK", say("tick")],
  ["GO-PICTURE", say("picture")],
];

export async function trayMatPdf(tag: string, profile: ModelProfile, guide: MendGuide): Promise<Uint8Array> {
  const { pdf, plain, bold } = await newDocument(say("trayMatTag", { tag }));
  const { width, height, outlines } = profile.plan;
  const faces = (["back", "front", "inside"] as const).filter((f) =>
    guide.fasteners.some((x) => x.face === f),
  );
  for (const face of faces) {
    const page = pdf.addPage([WIDTH * MM, HEIGHT * MM]);
    const left = 20;
    const top = 30;
    // the back is mirrored: it lies on the mat as the unit lies in the hand
    const X = (v: number) => (left + (face === "back" ? width - v : v)) * MM;
    const Y = (v: number) => (HEIGHT - top - v) * MM;
    const text = (words: string, x: number, y: number, size: number, font = plain, color = INK) =>
      page.drawText(words, { x, y, size, font, color });
    text(
      `${tag}  ${profile.name}: ${codeWords(face)}${face === "back" ? say("turnedOver") : ""}`,
      left * MM,
      (HEIGHT - 16) * MM,
      16,
      bold,
    );
    text(say("scale11CheckThisLine"), left * MM, (HEIGHT - 22) * MM, 9, plain, FAINT);
    page.drawLine({
      start: { x: (left + 70) * MM, y: (HEIGHT - 21) * MM },
      end: { x: (left + 120) * MM, y: (HEIGHT - 21) * MM },
      thickness: 1,
      color: INK,
    });
    for (const o of outlines)
      o.points.forEach((p, i) => {
        const q = o.points[(i + 1) % o.points.length]!;
        page.drawLine({
          start: { x: X(p[0]), y: Y(p[1]) },
          end: { x: X(q[0]), y: Y(q[1]) },
          thickness: 0.8,
          color: FAINT,
        });
      });
    for (const f of guide.fasteners.filter((x) => x.face === face)) {
      page.drawCircle({
        x: X(f.at.x),
        y: Y(f.at.y),
        size: 4 * MM,
        borderColor: INK,
        borderWidth: 0.6 + f.lengthMm / 8,
      });
      const words = say("lengthMmMm", { lengthMm: f.lengthMm });
      text(words, X(f.at.x) - bold.widthOfTextAtSize(words, 8) / 2, Y(f.at.y) - 7.5 * MM, 8, bold);
      const more = `${codeWords(f.drive)} ${f.size}${f.under ? say("underUnder", { under: f.under }) : ""}`;
      text(more, X(f.at.x) - plain.widthOfTextAtSize(more, 6) / 2, Y(f.at.y) - 10 * MM, 6, plain, FAINT);
    }
    CODES.forEach(([code, words], i) => {
      const x = (left + i * 34) * MM;
      const y = Math.max(10, HEIGHT - top - height - 40) * MM;
      drawCode(page, code, x, y, 18 * MM);
      text(words, x, y - 4 * MM, 9, bold);
    });
    const pieces = guide.pieces.filter((p) => p.falls || p.kind === "spring" || p.kind === "gear");
    text(say("fallsOutSpringsAndGears"), (left + width + 14) * MM, (HEIGHT - 36) * MM, 9, bold);
    pieces.slice(0, 18).forEach((p, i) => {
      page.drawRectangle({
        x: (left + width + 14) * MM,
        y: (HEIGHT - 44 - i * 7) * MM,
        width: 9,
        height: 9,
        borderColor: INK,
        borderWidth: 0.7,
      });
      text(p.name.slice(0, 40), (left + width + 19) * MM, (HEIGHT - 43.4 - i * 7) * MM, 8);
    });
  }
  return pdf.save();
}
