import "server-only";

import { join } from "node:path";

import { Document, Font, Path, renderToBuffer, StyleSheet, Text, View } from "@react-pdf/renderer";
import QRCode from "qrcode";
import type { ReactElement, ReactNode } from "react";

/** What every paper is made of: the application's own font, inks, a code to scan and the way to a PDF. */

/** The application's own font, which ships with it. */
export const FONT_FILE = (weight: 400 | 700) =>
  join(
    process.cwd(),
    `node_modules/@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-${weight}-normal.woff`,
  );
export const FONT = "Paper";
Font.register({
  family: FONT,
  fonts: ([400, 700] as const).map((fontWeight) => ({ src: FONT_FILE(fontWeight), fontWeight })),
});
// words are broken between letters only where a word is longer than any column: no hyphen in a tag
const LONGEST_WHOLE_WORD = 60;
Font.registerHyphenationCallback((word) => (word.length > LONGEST_WHOLE_WORD ? [...word] : [word]));

export const INK = "#1c2421";
export const FAINT = "#59635e";
export const LINE = "#cccabd";

/** A size of type in points with the distance of its lines: an inherited distance would stay that of the page. */
export const type = (size: number, lines = 1.35) => ({ fontSize: size, lineHeight: lines });

export const styles = StyleSheet.create({
  page: { fontFamily: FONT, ...type(10), color: INK, padding: 48 },
  bold: { fontWeight: 700 },
  faint: { color: FAINT },
  rule: { borderTopWidth: 0.7, borderTopColor: LINE, marginTop: 5, paddingTop: 2 },
});

/** The code as squares in a drawing of its own size, drawn and not pasted, so that it prints sharp. */
export function codePath(text: string, x: number, y: number, side: number): string {
  const { modules } = QRCode.create(text, { errorCorrectionLevel: "M" });
  const cell = side / modules.size;
  const squares: string[] = [];
  for (let row = 0; row < modules.size; row++)
    for (let col = 0; col < modules.size; col++)
      if (modules.get(row, col))
        squares.push(`M${x + col * cell} ${y + row * cell}h${cell}v${cell}h${-cell}z`);
  return squares.join("");
}

export const Code = ({ text, x, y, side }: { text: string; x: number; y: number; side: number }) => (
  <Path d={codePath(text, x, y, side)} fill={INK} />
);

/** A heading with a line above, which never stands alone at the end of a page. */
export const Section = ({ title, children }: { title: string; children: ReactNode }) => (
  <View>
    <View style={styles.rule} minPresenceAhead={40} wrap={false}>
      <Text style={[styles.bold, { ...type(11) }]}>{title}</Text>
    </View>
    {children}
  </View>
);

/** A document as a PDF file. */
export const paperOf = (title: string, pages: ReactNode): Promise<Uint8Array> =>
  renderToBuffer(
    (
      <Document title={title} producer="Birdcage">
        {pages}
      </Document>
    ) as ReactElement<object>,
  );
