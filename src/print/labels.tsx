import "server-only";

import { type Font, open } from "fontkit";
import { Page, Svg, Text } from "@react-pdf/renderer";
import sharp from "sharp";

import { type Label, layoutLabel, layoutSheet, type Measure, SHEET, type Size } from "@/core/labels/layout";
import { signPaths } from "@/core/grade/sign";
import { say } from "@/words/print";
import { Code, codePath, FONT, FONT_FILE, INK, paperOf } from "./paper";
import { signOn } from "./sign";

/** Labels as paper and as a label printer's dots. Lengths in millimetres. */

const MM = 72 / 25.4;

/** One page a label, or sheets of A4. */
export async function labelsPdf(labels: readonly Label[], size: Size, sheet: boolean): Promise<Uint8Array> {
  const measure = await measured();
  const format = sheet ? SHEET : size;
  const { places } = layoutSheet(size, labels.length);
  const placed = labels.map((label, i) => ({ label, at: sheet ? places[i]! : { page: i, x: 0, y: 0 } }));
  const pages = [...new Set(placed.map(({ at }) => at.page))];
  return paperOf(
    labels.length === 1 ? say("labelTitle", { title: labels[0]!.title }) : say("labels"),
    pages.map((page) => (
      <Page key={page} wrap={false} size={[format.widthMm * MM, format.heightMm * MM]}>
        <Svg
          width={format.widthMm * MM}
          height={format.heightMm * MM}
          viewBox={`0 0 ${format.widthMm} ${format.heightMm}`}
        >
          {placed
            .filter(({ at }) => at.page === page)
            .map(({ label, at }, i) => (
              <OneLabel key={i} label={label} size={size} at={at} measure={measure} />
            ))}
        </Svg>
      </Page>
    )),
  );
}

function OneLabel(p: { label: Label; size: Size; at: { x: number; y: number }; measure: Measure }) {
  const l = layoutLabel(p.label, p.size, p.measure);
  return (
    <>
      <Code text={p.label.code} x={p.at.x + l.code.x} y={p.at.y + l.code.y} side={l.code.side} />
      {p.label.sign && l.sign && signOn(p.label.sign, p.at.x + l.sign.x, p.at.y + l.sign.y, l.sign.r)}
      {l.texts.map((t, i) => (
        <Text
          key={i}
          x={p.at.x + t.x}
          y={p.at.y + t.baseline}
          fill={INK}
          style={{ fontFamily: FONT, fontSize: t.size, fontWeight: t.bold ? 700 : 400 }}
        >
          {t.text}
        </Text>
      ))}
    </>
  );
}

let fonts: Promise<{ plain: Font; bold: Font }> | undefined;
const loadFonts = () =>
  (fonts ??= Promise.all([open(FONT_FILE(400)), open(FONT_FILE(700))]).then(([plain, bold]) => ({
    plain: plain as Font, // a single font, not a collection
    bold: bold as Font,
  })));

/** Widths as the font has them. */
const measured = async (): Promise<Measure> => {
  const { plain, bold } = await loadFonts();
  return (text, heavy) => {
    const font = heavy ? bold : plain;
    return font.layout(text).advanceWidth / font.unitsPerEm;
  };
};

export const DOTS_PER_MM = 8;

/**
 * A label as black and white dots, eight a millimetre, the way a label printer takes it: PNG of one bit a
 * dot.
 */
export async function labelRaster(label: Label, size: Size): Promise<Buffer> {
  const { plain, bold } = await loadFonts();
  const l = layoutLabel(label, size, await measured());
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
  const sign =
    label.sign && l.sign
      ? signPaths(label.sign, l.sign.x, l.sign.y, l.sign.r, true).map(({ d, line, tone }) => {
          const ink = tone === "sign" ? "#000" : "#fff";
          return line === null
            ? `<path d="${d}" fill="${ink}"/>`
            : `<path d="${d}" fill="none" stroke="${ink}" stroke-width="${line}"/>`;
        })
      : [];
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${Math.round(size.widthMm * DOTS_PER_MM)}" height="${Math.round(size.heightMm * DOTS_PER_MM)}" viewBox="0 0 ${size.widthMm} ${size.heightMm}"><rect width="100%" height="100%" fill="#fff"/><path shape-rendering="crispEdges" d="${codePath(label.code, l.code.x, l.code.y, l.code.side)}"/>${sign.join("")}${words.join("")}</svg>`;
  return sharp(Buffer.from(svg))
    .flatten({ background: "#fff" })
    .greyscale()
    .threshold(140)
    .png({ palette: true, colours: 2 })
    .toBuffer();
}
