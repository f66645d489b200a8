import "server-only";

import { Circle, G, Line, Page, Polygon, Rect, Svg, Text } from "@react-pdf/renderer";

import type { MendGuide } from "@/core/profile/guide";
import type { ModelProfile } from "@/core/profile/profile";
import { codeWords } from "@/words/codes";
import { say } from "@/words/print";
import { Code, FAINT, FONT, INK, paperOf } from "./paper";

/**
 * A mat to lay under the tray: the unit to scale, back up, with a ring for each fastener; and the codes for
 * the scanner. Millimetres, from the top left of a sheet of A4 on its side.
 */

const MM = 72 / 25.4;
const POINT = 1 / MM; // a point of type or of a line in millimetres
const [WIDTH, HEIGHT] = [297, 210];
const [LEFT, TOP] = [20, 30];
const FACES = ["back", "front", "inside"] as const;
type Face = (typeof FACES)[number];
type Fastener = MendGuide["fasteners"][number];

const CODES: [code: string, words: string][] = [
  ["GO-DONE", say("done")],
  ["GO-NEXT", say("next")],
  ["GO-BACK", say("back")],
  ["GO-PROBLEM", say("problem")],
  ["GO-TICK", say("tick")],
  ["GO-PICTURE", say("picture")],
];
/** How many pieces to keep safe one face's list has room for. */
const MOST_PIECES = 18;

type WordsProps = {
  children: string;
  x: number;
  y: number;
  points: number;
  bold?: boolean;
  faint?: boolean;
  middle?: boolean;
};
const Words = ({ children, x, y, points, bold = false, faint = false, middle = false }: WordsProps) => (
  <Text
    x={x}
    y={y}
    fill={faint ? FAINT : INK}
    textAnchor={middle ? "middle" : "start"}
    style={{ fontFamily: FONT, fontSize: points * POINT, fontWeight: bold ? 700 : 400 }}
  >
    {children}
  </Text>
);

const Ring = ({ fastener: f, x, y }: { fastener: Fastener; x: number; y: number }) => (
  <G>
    <Circle cx={x} cy={y} r={4} stroke={INK} strokeWidth={(0.6 + f.lengthMm / 8) * POINT} fill="none" />
    <Words x={x} y={y + 7.5} points={8} bold middle>
      {say("lengthMmMm", { lengthMm: f.lengthMm })}
    </Words>
    <Words x={x} y={y + 10} points={6} faint middle>
      {`${codeWords(f.drive)} ${f.size}${f.under ? say("underUnder", { under: f.under }) : ""}`}
    </Words>
  </G>
);

const Pieces = ({ pieces, left }: { pieces: MendGuide["pieces"]; left: number }) => (
  <G>
    <Words x={left} y={36} points={9} bold>
      {say("fallsOutSpringsAndGears")}
    </Words>
    {pieces.slice(0, MOST_PIECES).map((p, i) => (
      <G key={p.id}>
        <Rect
          x={left}
          y={41 + i * 7}
          width={3}
          height={3}
          stroke={INK}
          strokeWidth={0.7 * POINT}
          fill="none"
        />
        <Words x={left + 5} y={43.4 + i * 7} points={8}>
          {p.name.slice(0, 40)}
        </Words>
      </G>
    ))}
  </G>
);

const ScannerCodes = ({ top }: { top: number }) => (
  <G>
    {CODES.map(([code, words], i) => (
      <G key={code}>
        <Code text={code} x={LEFT + i * 34} y={top} side={18} />
        <Words x={LEFT + i * 34} y={top + 22} points={9} bold>
          {words}
        </Words>
      </G>
    ))}
  </G>
);

type MatProps = { tag: string; profile: ModelProfile; guide: MendGuide; face: Face };
function Mat({ tag, profile, guide, face }: MatProps) {
  const { width, height, outlines } = profile.plan;
  // all but the front is mirrored: it lies on the mat as the unit lies in the hand
  const across = (x: number) => LEFT + (face !== "front" ? width - x : x);
  const down = (y: number) => TOP + y;
  return (
    <Svg width={WIDTH * MM} height={HEIGHT * MM} viewBox={`0 0 ${WIDTH} ${HEIGHT}`}>
      <Words x={LEFT} y={16} points={16} bold>
        {`${tag}  ${profile.name}: ${codeWords(face)}${face !== "front" ? say("turnedOver") : ""}`}
      </Words>
      <Words x={LEFT} y={22} points={9} faint>
        {say("scale11CheckThisLine")}
      </Words>
      <Line x1={LEFT + 70} y1={21} x2={LEFT + 120} y2={21} stroke={INK} strokeWidth={POINT} />
      {outlines.map((o, i) => (
        <Polygon
          key={i}
          points={o.points.map(([x, y]) => `${across(x)},${down(y)}`).join(" ")}
          stroke={FAINT}
          strokeWidth={0.8 * POINT}
          fill="none"
        />
      ))}
      {guide.fasteners
        .filter((f) => f.face === face)
        .map((f) => (
          <Ring key={f.id} fastener={f} x={across(f.at.x)} y={down(f.at.y)} />
        ))}
      <ScannerCodes top={Math.min(HEIGHT - 28, TOP + height + 22)} />
      <Pieces
        pieces={guide.pieces.filter((p) => p.falls || p.kind === "spring" || p.kind === "gear")}
        left={LEFT + width + 14}
      />
    </Svg>
  );
}

export const trayMatPdf = (tag: string, profile: ModelProfile, guide: MendGuide): Promise<Uint8Array> =>
  paperOf(
    say("trayMatTag", { tag }),
    FACES.filter((face) => guide.fasteners.some((f) => f.face === face)).map((face) => (
      <Page key={face} wrap={false} size={[WIDTH * MM, HEIGHT * MM]}>
        <Mat tag={tag} profile={profile} guide={guide} face={face} />
      </Page>
    )),
  );
