"use client";

import { type KeyboardEvent, memo, type PointerEvent } from "react";

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

/** A way to pick a place by hand and by key. */
const pickable = (id: string, words: string, picked: boolean, onPick?: (id: string) => void) =>
  onPick && {
    role: "button",
    tabIndex: 0,
    "aria-label": words,
    "aria-pressed": picked,
    onClick: () => onPick(id),
    onKeyDown: (e: KeyboardEvent) => {
      if (e.key !== "Enter" && e.key !== " ") return;
      e.preventDefault();
      onPick(id);
    },
    style: { cursor: "pointer" },
  };

type FunctionProps = {
  function: { id: string; name: string; at: { x: number; y: number } };
  state: ShownState | undefined;
  picked: boolean;
  onPick: ((id: string) => void) | undefined;
};

const FunctionMark = ({ function: f, state, picked, onPick }: FunctionProps) => (
  <g onClick={onPick && (() => onPick(f.id))} style={{ cursor: onPick ? "pointer" : undefined }}>
    <title>{`${f.name}: ${STATE_WORDS[state ?? "untested"]}`}</title>
    <rect
      x={f.at.x - 2}
      y={f.at.y - 2}
      width={4}
      height={4}
      transform={`rotate(45 ${f.at.x} ${f.at.y})`}
      fill={FACE}
      stroke={picked ? SIGNAL : LINE}
      strokeWidth={picked ? 1.2 : 0.5}
    />
    {state && <StateShape state={state} x={f.at.x} y={f.at.y} r={1.5} />}
  </g>
);

type ControlProps = {
  control: ProfileControl;
  state: ShownState | undefined;
  /** how far it is moved or pressed right now, 0..1 */
  on: number;
  picked: boolean;
  /** the line of a control that is not picked */
  line: number;
  onPick: ((id: string) => void) | undefined;
};

function ControlMark({ control: c, state, on, picked, line, onPick }: ControlProps) {
  const m = markPlace(c);
  const words = `${placeName(c)}${state ? `: ${STATE_WORDS[state]}` : ""}`;
  return (
    <g {...pickable(c.id, words, picked, onPick)}>
      <title>{words}</title>
      <ControlShape
        c={c}
        fill={on > 0.5 ? SIGNAL : FACE}
        stroke={picked || on > 0.05 ? SIGNAL : LINE}
        width={picked ? 1.8 : line}
      />
      {state && <StateShape state={state} x={m.x} y={m.y} r={m.r} />}
    </g>
  );
}

const WearMark = ({ mark: m, number }: { mark: Mark; number: number }) => (
  <g>
    <title>{`${codeWords(m.kind)} ${m.words}`}</title>
    <path
      d={`M${m.x - 2.4} ${m.y - 2.4}l4.8 4.8m0-4.8l-4.8 4.8`}
      stroke="var(--mui-palette-caution-main)"
      strokeWidth={1.3}
      strokeLinecap="round"
    />
    <text x={m.x + 3} y={m.y - 2} fontSize={5} fontWeight={700} fill="var(--mui-palette-caution-main)">
      {number}
    </text>
  </g>
);

/** Where on the plan a pointer is, in tenths of a millimetre; null before the drawing is laid out. */
function placeOf(e: PointerEvent<SVGSVGElement>): { x: number; y: number } | null {
  const box = e.currentTarget.getScreenCTM();
  if (!box) return null;
  const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(box.inverse());
  return { x: Math.round(p.x * 10) / 10, y: Math.round(p.y * 10) / 10 };
}

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
  const functions = plain ? [] : functionsOf(profile, revision).filter((f) => f.at);
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
      onPointerDown={(e) => {
        const at = onPlace && placeOf(e);
        if (at) onPlace(at.x, at.y);
      }}
    >
      {outlines.map((o, i) => (
        <path key={i} d={outlinePath(o.points)} fill={BODY} stroke={LINE} strokeWidth={plain ? 1.6 : 0.9} />
      ))}
      {functions.map((f) => (
        <FunctionMark
          key={f.id}
          function={{ id: f.id, name: f.name, at: f.at! }}
          state={states[f.id]}
          picked={selected === f.id}
          onPick={onPick}
        />
      ))}
      {controls.map((c) => (
        <ControlMark
          key={c.id}
          control={c}
          state={states[c.id]}
          on={active[c.id] ?? 0}
          picked={selected === c.id}
          line={plain ? 1.2 : 0.7}
          onPick={onPick}
        />
      ))}
      {marks.map((m, i) => (
        <WearMark key={i} mark={m} number={i + 1} />
      ))}
    </svg>
  );
});

/** Rings first, so that the stick inside stays on top and can be picked. */
const order = (c: ProfileControl) => (c.kind === "button" && c.shape === "ring" ? 0 : 1);
