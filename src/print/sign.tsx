import { Path, Svg } from "@react-pdf/renderer";

import { type Sign, signPaths } from "@/core/grade/sign";
import { INK } from "./paper";

/** The state code on paper: in one ink, so its fill alone tells it. */

export const signOn = (sign: Sign, x: number, y: number, r: number) =>
  signPaths(sign, x, y, r, true).map(({ d, line, tone }, i) => {
    const ink = tone === "sign" ? INK : "#ffffff";
    return line === null ? (
      <Path key={i} d={d} fill={ink} />
    ) : (
      <Path key={i} d={d} fill="none" stroke={ink} strokeWidth={line} />
    );
  });

/** The sign by itself beside words; `side` in points. */
export const SignOnPaper = ({ sign, side }: { sign: Sign; side: number }) => (
  <Svg width={side} height={side} viewBox="-10 -10 20 20" style={{ marginRight: side * 0.35 }}>
    {signOn(sign, 0, 0, 9.8)}
  </Svg>
);
