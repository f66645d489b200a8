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
import type { Similarity } from "@/core/math/similarity";
import { LEAST_SIGN, LETTER_FROM } from "@/core/grade/sign";
import { type ShownState, STATE_WORDS, StateShape } from "@/ui/state/StateMark";
import { say } from "@/words/kit";
import { codeWords } from "@/words/codes";
import { Drawing } from "./Drawing";
import { INK } from "./inks";

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
  /** which side is drawn: the back is mirrored, as it lies when the unit is turned over, and bears no controls */
  side?: "front" | "back";
  /** turns it over, where both sides can be looked at */
  onTurn?: () => void;
  onPlace?: (x: number, y: number) => void;
  label?: string;
  /** without marks, names or a way to pick: for small cards */
  plain?: boolean;
  /** can be brought nearer */
  zoom?: boolean;
  /** a photograph behind: the drawing lies over it in lines, or is not there yet while it is alone */
  photo?: (PhotoBehind & { alone: boolean }) | null;
};
/** A photograph by its own pixels, and the way from them to the millimetres of the plan. */
type PhotoBehind = { href: string; width: number; height: number; fit: Similarity };

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

/** Half the width that a control leaves for its sign, in millimetres. */
const roomOf = (c: ProfileControl): number =>
  0.42 * (c.kind === "stick" ? c.diameter : Math.min(c.width, c.height));

/**
 * Where the sign of a control sits, and how large: with room for its letter where the control has it, and never smaller
 * than can be told. A ring shares its middle with a stick: its sign sits on the ring's lower edge.
 */
function markPlace(c: ProfileControl, scale: number) {
  const [least, lettered] = [LEAST_SIGN / 2 / scale, (LETTER_FROM / 2 + 0.2) / scale];
  if (c.kind === "button" && c.shape === "ring")
    return { x: c.at.x + c.width * 0.36, y: c.at.y + c.width * 0.36, r: Math.max(2.3, least) };
  return { ...c.at, r: Math.max(Math.min(lettered, roomOf(c)), least) };
}

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
  scale: number;
  onPick: ((id: string) => void) | undefined;
};

/** What cannot be seen from outside, such as the radio: a small plate where it sits, with its sign. */
const FunctionMark = ({ function: f, state, picked, scale, onPick }: FunctionProps) => {
  const r = Math.max(2, LEAST_SIGN / 2 / scale);
  return (
    <g onClick={onPick && (() => onPick(f.id))} style={{ cursor: onPick ? "pointer" : undefined }}>
      <title>{`${f.name}: ${STATE_WORDS[state ?? "untested"]}`}</title>
      <rect
        x={f.at.x - r * 1.6}
        y={f.at.y - r * 1.2}
        width={r * 3.2}
        height={r * 2.4}
        rx={r * 0.5}
        fill={INK.paper}
        stroke={picked ? INK.signal : INK.line}
        strokeWidth={picked ? 1.2 : 0.5}
      />
      {state && <StateShape state={state} x={f.at.x} y={f.at.y} r={r} letter={hasRoom(r, scale)} />}
    </g>
  );
};

const hasRoom = (r: number, scale: number): boolean => 2 * r * scale >= LETTER_FROM;

type ControlProps = {
  control: ProfileControl;
  state: ShownState | undefined;
  /** how far it is moved or pressed right now, 0..1 */
  on: number;
  picked: boolean;
  scale: number;
  /** the line of a control that is not picked */
  line: number;
  seeThrough: boolean;
  onPick: ((id: string) => void) | undefined;
};

const fillOf = (on: number, seeThrough: boolean): string => {
  if (seeThrough) return "none";
  return on > 0.5 ? INK.signal : INK.paper;
};

function ControlMark({ control: c, state, on, picked, scale, line, seeThrough, onPick }: ControlProps) {
  const m = markPlace(c, scale);
  const words = `${placeName(c)}${state ? `: ${STATE_WORDS[state]}` : ""}`;
  return (
    <g {...pickable(c.id, words, picked, onPick)}>
      <title>{words}</title>
      <ControlShape
        c={c}
        fill={fillOf(on, seeThrough)}
        stroke={picked || on > 0.05 ? INK.signal : INK.line}
        width={picked ? 1.8 : line}
      />
      {state && <StateShape state={state} x={m.x} y={m.y} r={m.r} letter={hasRoom(m.r, scale)} />}
    </g>
  );
}

/** A mark of wear: a pin whose point is at the place, with its number in the head. */
const WearPin = ({ mark: m, number, scale }: { mark: Mark; number: number; scale: number }) => {
  const r = Math.max(3.2, (LETTER_FROM / 2 + 1) / scale);
  const head = m.y - r * 1.9;
  return (
    <g>
      <title>{`${number}: ${codeWords(m.kind)} ${m.words}`}</title>
      <path
        d={`M${m.x} ${m.y}L${m.x - r * 0.75} ${head + r * 0.66}A${r} ${r} 0 1 1 ${m.x + r * 0.75} ${head + r * 0.66}Z`}
        fill={INK.text}
        stroke={INK.paper}
        strokeWidth={0.5}
        strokeLinejoin="round"
      />
      <text
        x={m.x}
        y={head + r * 0.48}
        fontSize={r * 1.35}
        fontWeight={800}
        textAnchor="middle"
        fill={INK.paper}
      >
        {number}
      </text>
    </g>
  );
};

const Behind = ({ href, width, height, fit: { a, b, e, f } }: PhotoBehind) => (
  <image href={href} width={width} height={height} transform={`matrix(${a} ${b} ${-b} ${a} ${e} ${f})`} />
);

/** Where on the plan a pointer is, in tenths of a millimetre; null before the drawing is laid out. */
function placeOf(e: PointerEvent<SVGSVGElement>): { x: number; y: number } | null {
  const box = e.currentTarget.getScreenCTM();
  if (!box) return null;
  const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(box.inverse());
  return { x: Math.round(p.x * 10) / 10, y: Math.round(p.y * 10) / 10 };
}

const nameOf = (profile: string, isBack: boolean): string =>
  isBack ? say("backOfTheProfile", { profile }) : say("planOfTheProfile", { profile });

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
    zoom = false,
    photo = null,
    side = "front",
    onTurn,
  } = props;
  const { width, height, outlines } = profile.plan;
  const controls = controlsOf(profile, revision).sort((a, b) => order(a) - order(b));
  const isBack = side === "back";
  const shown = photo?.alone || isBack ? [] : controls;
  const functions = plain || photo || isBack ? [] : functionsOf(profile, revision).filter((f) => f.at);
  return (
    <Drawing
      extent={{ x: -6, y: -8, width: width + 12, height: height + 14 }}
      role={plain ? "img" : "group"}
      label={label ?? nameOf(profile.name, isBack)}
      zoom={zoom}
      {...(onTurn ? { onTurn } : {})}
      {...(onPlace ? { cursor: "crosshair" } : {})}
      onPointerDown={(e) => {
        const at = onPlace && placeOf(e);
        if (at) onPlace(isBack ? width - at.x : at.x, at.y);
      }}
    >
      {(scale) => (
        <>
          {photo && <Behind {...photo} />}
          <g transform={isBack ? `translate(${width} 0) scale(-1 1)` : undefined}>
            {(photo?.alone ? [] : outlines).map((o, i) => (
              <path
                key={i}
                d={outlinePath(o.points)}
                fill={photo ? "none" : INK.body}
                stroke={INK.line}
                strokeWidth={plain ? 1.6 : 0.9}
              />
            ))}
          </g>
          {functions.map((f) => (
            <FunctionMark
              key={f.id}
              function={{ id: f.id, name: f.name, at: f.at! }}
              state={states[f.id]}
              picked={selected === f.id}
              scale={scale}
              onPick={onPick}
            />
          ))}
          {shown.map((c) => (
            <ControlMark
              key={c.id}
              control={c}
              state={states[c.id]}
              on={active[c.id] ?? 0}
              picked={selected === c.id}
              scale={scale}
              line={plain ? 1.2 : 0.7}
              seeThrough={photo !== null}
              onPick={onPick}
            />
          ))}
          {marks.map(
            (m, i) =>
              m.face === side && (
                <WearPin key={i} mark={isBack ? { ...m, x: width - m.x } : m} number={i + 1} scale={scale} />
              ),
          )}
        </>
      )}
    </Drawing>
  );
});

/** Rings first, so that the stick inside stays on top and can be picked. */
const order = (c: ProfileControl) => (c.kind === "button" && c.shape === "ring" ? 0 : 1);
