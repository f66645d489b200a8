"use client";

import { median } from "@/core/math/quantile";
import type { Plots } from "@/core/plots/plots";
import { say } from "@/features/test/words/words";
import { figure } from "@/text/format";
import { Drawing } from "@/ui/plan/Drawing";
import { INK } from "@/ui/plan/inks";
import type { Healthy } from "@/features/test/readings";

/**
 * Each press against its cue: a column a cue, from when it was pressed to when it was let go, upwards in time; one that never
 * came stands as an empty column with a bar across. How a healthy one answers lies in grey behind.
 */

const SIZE = { width: 310, height: 150 };
const FIELD = { left: 44, top: 8, right: 270, bottom: 124 };
const FROM_MS = -150;
const TO_MS = 450;

const LEAST_COLUMNS = 15;

type Presses = Plots["buttons"][string];

/** The median answer of a healthy one: when it was pressed and when it was let go; null where it was never pressed. */
export function usualPress(presses: Presses | undefined): [number, number] | null {
  const came = (presses ?? []).filter((p) => p !== null);
  return came.length > 0
    ? [median(came.map(([ms]) => ms)), median(came.map(([ms, held]) => ms + held))]
    : null;
}

export function PressLanes({ id, presses, healthy }: { id: string; presses: Presses; healthy: Healthy }) {
  const missed = presses.filter((p) => p === null).length;
  const y = (ms: number) =>
    FIELD.bottom -
    ((Math.min(TO_MS, Math.max(FROM_MS, ms)) - FROM_MS) / (TO_MS - FROM_MS)) * (FIELD.bottom - FIELD.top);
  const wide = (FIELD.right - FIELD.left) / Math.max(LEAST_COLUMNS, presses.length);
  const usual = usualPress(healthy?.plots.buttons[id]);
  const label = [
    say("pressesAgainstCues", { cues: presses.length, missed }),
    ...(missed > 0 ? [say("missedAtCues", { cues: missedAt(presses).join(", ") })] : []),
  ].join("; ");
  return (
    <Drawing extent={{ x: 0, y: 0, ...SIZE }} label={label} role="img" zoom>
      {() => (
        <>
          {usual && (
            <rect
              x={FIELD.left}
              width={FIELD.right - FIELD.left}
              y={y(usual[1])}
              height={y(usual[0]) - y(usual[1])}
              fill={INK.ground}
            />
          )}
          <g fontSize={11} fill={INK.line}>
            <path d={`M${FIELD.left} ${y(0)}H${FIELD.right}`} stroke={INK.text} strokeWidth={1.5} />
            <text x={FIELD.left - 5} y={y(0) + 4} textAnchor="end">
              {say("cue")}
            </text>
            <text x={FIELD.left - 5} y={y(TO_MS) + 8} textAnchor="end">
              +{figure(TO_MS)}
            </text>
            <text x={(FIELD.left + FIELD.right) / 2} y={SIZE.height - 6} textAnchor="middle">
              {say("msEachCueInTurn")}
            </text>
          </g>
          {presses.map((press, i) => {
            const x = FIELD.left + i * wide;
            const inner = Math.max(1, wide * 0.7);
            if (press === null)
              return (
                <g key={i} stroke={INK.fail}>
                  <rect
                    x={x}
                    y={FIELD.top}
                    width={inner}
                    height={FIELD.bottom - FIELD.top}
                    fill={INK.fail}
                    fillOpacity={0.25}
                  />
                  <path d={`M${x} ${FIELD.top}L${x + inner} ${FIELD.bottom}`} strokeWidth={1.5} />
                </g>
              );
            const [ms, held] = press;
            return (
              <rect
                key={i}
                x={x}
                width={inner}
                y={y(ms + held)}
                height={Math.max(1, y(ms) - y(ms + held))}
                fill={INK.signal}
              />
            );
          })}
        </>
      )}
    </Drawing>
  );
}

const missedAt = (presses: Presses): number[] => presses.flatMap((p, i) => (p === null ? [i + 1] : []));
