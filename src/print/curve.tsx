import "server-only";

import { Line, Polyline, Rect, Svg, Text, View } from "@react-pdf/renderer";

import { type Curve, curveFrame, type CurveKind, type CurvePoint } from "@/core/plots/curve";
import { curveNote } from "@/features/release/words/text";
import { percent } from "@/text/measures";
import { say } from "@/words/print";
import { FAINT, INK, LINE, type } from "./paper";

const [WIDTH, HEIGHT] = [200, 46];

/** A curve in its frame: before dashed, now solid, what grade A asks dotted. */
export function CurveOnPaper({ kind, curve }: { kind: CurveKind; curve: Curve }) {
  const { place, lines } = curveFrame(kind, curve);
  const at = (p: CurvePoint) => {
    const [fromLeft, fromBottom] = place(p);
    return { x: fromLeft * WIDTH, y: (1 - fromBottom) * HEIGHT };
  };
  const path = (points: readonly CurvePoint[]) =>
    points
      .map(at)
      .map(({ x, y }) => `${x},${y}`)
      .join(" ");
  return (
    <View wrap={false} style={{ flexDirection: "row", alignItems: "flex-end", marginLeft: 12, marginTop: 2 }}>
      <Svg width={WIDTH} height={HEIGHT}>
        <Rect x={0.3} y={0.3} width={WIDTH - 0.6} height={HEIGHT - 0.6} stroke={LINE} strokeWidth={0.6} />
        {lines.map(({ value, what }) => (
          <Line
            key={what}
            x1={0}
            x2={WIDTH}
            y1={at([0, value]).y}
            y2={at([0, value]).y}
            strokeWidth={0.6}
            stroke={what === "limit" ? FAINT : LINE}
            {...(what === "limit" ? { strokeDasharray: "1 2" } : {})}
          />
        ))}
        {curve.before.length > 1 && (
          <Polyline points={path(curve.before)} stroke={FAINT} strokeWidth={0.7} strokeDasharray="2 2" />
        )}
        {curve.now.length > 1 && <Polyline points={path(curve.now)} stroke={INK} strokeWidth={1.3} />}
      </Svg>
      <View style={{ marginLeft: 8, flex: 1 }}>
        {curve.limit !== null && (
          <Text style={{ ...type(8), color: FAINT }}>
            {say("dottedGradeAAtLeastLimit", { limit: percent(curve.limit) })}
          </Text>
        )}
        <Text style={{ ...type(8), color: FAINT }}>{curveNote(kind, curve)}</Text>
      </View>
    </View>
  );
}
