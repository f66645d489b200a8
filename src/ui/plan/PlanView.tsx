"use client";

import { memo, type PointerEvent } from "react";

import type { Mark } from "@/contract/intake";
import {
  controlsOf,
  functionsOf,
  type ModelProfile,
  placeName,
  type ProfileControl,
} from "@/core/profile/profile";
import { type ShownState, STATE_WORDS, StateShape } from "@/ui/state/StateMark";
import { say } from "@/words/kit";
import { codeWords } from "@/words/codes";

/** The drawing of a unit from its profile: map and record in one. Lengths in millimetres on the plan. */

type Props = {
  profile: ModelProfile;
  revision: string | null;
  states?: Record<string, ShownState>;
  selected?: string | null;
  /** controls that move or are pressed right now, 0..1 */
  active?: Record<string, number>;
  onPick?: (id: string) => void;
  marks?: readonly Mark[];
  onPlace?: (x: number, y: number) => void;
  label?: string;
  /** without marks, names or a way to pick: for small cards */
  plain?: boolean;
};

/** A closed smooth outline through points (Catmull-Rom as cubic curves). */
export function outlinePath(points: readonly (readonly [number, number])[]): string {
  const n = points.length;
  const at = (i: number) => points[(i + n) % n]!;
  let d = `M${at(0)[0]} ${at(0)[1]}`;
  for (let i = 0; i < n; i++) {
    const [p0, p1, p2, p3] = [at(i - 1), at(i), at(i + 1), at(i + 2)];
    d += `C${p1[0] + (p2[0] - p0[0]) / 6} ${p1[1] + (p2[1] - p0[1]) / 6} ${p2[0] - (p3[0] - p1[0]) / 6} ${p2[1] - (p3[1] - p1[1]) / 6} ${p2[0]} ${p2[1]}`;
  }
  return d + "Z";
}

const LINE = "var(--mui-palette-text-secondary)";
const BODY = "var(--mui-palette-bench-paper)";
const FACE = "var(--mui-palette-background-paper)";
const SIGNAL = "var(--mui-palette-primary-main)";

function ControlShape({
  c,
  fill,
  stroke,
  width,
}: {
  c: ProfileControl;
  fill: string;
  stroke: string;
  width: number;
}) {
  const { x, y } = c.at;
  const style = { fill, stroke, strokeWidth: width };
  if (c.kind === "stick")
    return (
      <>
        <circle cx={x} cy={y} r={c.diameter / 2} {...style} />
        <circle cx={x} cy={y} r={c.diameter / 3.4} fill="none" stroke={stroke} strokeWidth={width * 0.6} />
      </>
    );
  if (c.kind === "trigger")
    return (
      <rect
        x={x - c.width / 2}
        y={y - c.height / 2}
        width={c.width}
        height={c.height}
        rx={Math.min(c.width, c.height) / 2.4}
        {...style}
      />
    );
  if (c.shape === "ring")
    return (
      <circle
        cx={x}
        cy={y}
        r={c.width / 2}
        fill="none"
        stroke={stroke}
        strokeWidth={width}
        strokeDasharray="3 1.6"
      />
    );
  if (c.shape === "round") return <circle cx={x} cy={y} r={c.width / 2} {...style} />;
  if (c.shape === "wedge")
    return (
      <rect x={x - c.width / 2} y={y - c.height / 2} width={c.width} height={c.height} rx={1.4} {...style} />
    );
  const rx = c.shape === "paddle" ? 3 : Math.min(c.width, c.height) / 2;
  return (
    <rect x={x - c.width / 2} y={y - c.height / 2} width={c.width} height={c.height} rx={rx} {...style} />
  );
}

/** A ring shares its middle with a stick: its mark sits on the ring's lower edge. */
const markPlace = (c: ProfileControl) =>
  c.kind === "button" && c.shape === "ring"
    ? { x: c.at.x + c.width * 0.36, y: c.at.y + c.width * 0.36, r: 2.3 }
    : { x: c.at.x, y: c.at.y, r: c.kind === "stick" ? 3.6 : 2.7 };

export const PlanView = memo(function PlanView(props: Props) {
  const {
    profile,
    revision,
    states = {},
    selected,
    active = {},
    onPick,
    marks = [],
    onPlace,
    label,
    plain,
  } = props;
  const { width, height, outlines } = profile.plan;
  const controls = controlsOf(profile, revision).sort((a, b) => order(a) - order(b));
  const functions = functionsOf(profile, revision).filter((f) => f.at);
  const place = (e: PointerEvent<SVGSVGElement>) => {
    if (!onPlace) return;
    const box = e.currentTarget.getScreenCTM();
    if (!box) return;
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(box.inverse());
    onPlace(Math.round(p.x * 10) / 10, Math.round(p.y * 10) / 10);
  };
  return (
    <svg
      viewBox={`-6 -8 ${width + 12} ${height + 14}`}
      role={plain ? "img" : "group"}
      aria-label={label ?? say("planOfTheProfile", { profile: profile.name })}
      style={{
        width: "100%",
        height: "100%",
        display: "block",
        touchAction: "manipulation",
        cursor: onPlace ? "crosshair" : undefined,
      }}
      onPointerDown={place}
    >
      {outlines.map((o, i) => (
        <path key={i} d={outlinePath(o.points)} fill={BODY} stroke={LINE} strokeWidth={plain ? 1.6 : 0.9} />
      ))}
      {!plain &&
        functions.map((f) => (
          <g
            key={f.id}
            onClick={onPick && (() => onPick(f.id))}
            style={{ cursor: onPick ? "pointer" : undefined }}
          >
            <title>{`${f.name}: ${STATE_WORDS[states[f.id] ?? "untested"]}`}</title>
            <rect
              x={f.at!.x - 2}
              y={f.at!.y - 2}
              width={4}
              height={4}
              transform={`rotate(45 ${f.at!.x} ${f.at!.y})`}
              fill={FACE}
              stroke={selected === f.id ? SIGNAL : LINE}
              strokeWidth={selected === f.id ? 1.2 : 0.5}
            />
            {states[f.id] && <StateShape state={states[f.id]!} x={f.at!.x} y={f.at!.y} r={1.5} />}
          </g>
        ))}
      {controls.map((c) => {
        const on = active[c.id] ?? 0;
        const isSelected = selected === c.id;
        const state = states[c.id];
        const m = markPlace(c);
        const name = placeName(c);
        const words = `${name}${state ? `: ${STATE_WORDS[state]}` : ""}`;
        const widthOf = () => {
          if (isSelected) return 1.8;
          if (plain) return 1.2;
          return 0.7;
        };
        return (
          <g
            key={c.id}
            {...(onPick
              ? {
                  role: "button",
                  tabIndex: 0,
                  "aria-label": words,
                  "aria-pressed": isSelected,
                  onClick: () => onPick(c.id),
                  onKeyDown: (e) => {
                    if (e.key === "Enter" || e.key === " ") {
                      e.preventDefault();
                      onPick(c.id);
                    }
                  },
                  style: { cursor: "pointer" },
                }
              : {})}
          >
            <title>{words}</title>
            <ControlShape
              c={c}
              fill={on > 0.5 ? SIGNAL : FACE}
              stroke={isSelected || on > 0.05 ? SIGNAL : LINE}
              width={widthOf()}
            />
            {state && <StateShape state={state} x={m.x} y={m.y} r={m.r} />}
          </g>
        );
      })}
      {marks.map((m, i) => (
        <g key={i}>
          <title>{`${codeWords(m.kind)} ${m.words}`}</title>
          <path
            d={`M${m.x - 2.4} ${m.y - 2.4}l4.8 4.8m0-4.8l-4.8 4.8`}
            stroke="var(--mui-palette-caution-main)"
            strokeWidth={1.3}
            strokeLinecap="round"
          />
          <text x={m.x + 3} y={m.y - 2} fontSize={5} fontWeight={700} fill="var(--mui-palette-caution-main)">
            {i + 1}
          </text>
        </g>
      ))}
    </svg>
  );
});

/** Rings first, so that the stick inside stays on top and can be picked. */
const order = (c: ProfileControl) => (c.kind === "button" && c.shape === "ring" ? 0 : 1);
