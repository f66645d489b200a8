"use client";

import Box from "@mui/material/Box";
import { type ReactNode, useState } from "react";

import type { PicturedItem, PlanOf, Side, StepPicture as Picture } from "@/core/mend/picture";
import type { Item } from "@/core/mend/work";
import type { Hazard, MendGuide, Way } from "@/core/profile/guide";
import { placeName, type ProfileControl } from "@/core/profile/profile";
import { HAZARD_WORDS, WAY_WORDS } from "@/features/mend/words/text";
import { say } from "@/features/mend/words/words";
import { PlanFrame } from "@/features/units/ui/unit/Station";
import { Drawing } from "@/ui/plan/Drawing";
import { INK } from "@/ui/plan/inks";
import { outlinePath } from "@/ui/plan/PlanView";
import { Row, Text } from "@/ui/kit/layout";
import { mark } from "@/words/figures";
import { codeWords } from "@/words/codes";
import { itemDetail } from "./ItemList";

/** What a step is about, drawn where it is: turned over as the hand turns the unit. */

/** As high as there is room above what is done next and the strips. */
const BESIDE_WORDS = "calc(100vh - 318px - var(--bench-edge, 56px))";

type Props = {
  picture: Picture;
  plan: PlanOf;
  guide: MendGuide;
  items: readonly Item[];
  hazards: readonly Hazard[];
  title: string;
};

/** In words what the drawing shows: each item by its number, with how it lets go and what it hides under. */
function inWords({ picture, guide, title, plan }: Props): string {
  const things = [...plan.controls, ...plan.functions];
  const items = picture.items.map((p, i) =>
    [`${i + 1}`, itemDetail(guide, p.id).name, ...hintsOf(p)].filter(Boolean).join(" "),
  );
  const places = picture.places.map((id) => placeName(things.find((t) => t.id === id) ?? { id }));
  const parts = picture.board?.parts.filter((p) => p.isIt).map((p) => p.name) ?? [];
  return say("pictureOfTitle", {
    title,
    what: [...items, ...places, ...parts].join("; "),
  });
}

function hintsOf({ is }: PicturedItem): string[] {
  if (is.kind === "fastener")
    return [is.under ? say("underThe", { under: is.under }) : "", is.deep ? say("inADeepWell") : ""];
  if (is.kind === "clip") return [is.way ? WAY_WORDS[is.way] : ""];
  if (is.kind === "cable") return [is.soldered ? say("solderedOn") : "", is.way ? WAY_WORDS[is.way] : ""];
  return [is.falls ? say("fallsOut") : ""];
}

export function StepPicture(props: Props) {
  const { picture, plan } = props;
  const [turned, setTurned] = useState(false);
  const side: Side = turned ? (picture.side === "front" ? "back" : "front") : picture.side;
  const label = inWords(props);
  if (picture.board) return <OnBoard board={picture.board} label={label} />;
  return (
    <Box>
      <PlanFrame height={BESIDE_WORDS}>
        <Drawing
          extent={{ x: -12, y: -12, width: plan.width + 24, height: plan.height + 26 }}
          label={label}
          role="img"
          zoom
          onTurn={() => setTurned((t) => !t)}
        >
          {(scale) => <OnUnit {...props} side={side} scale={scale} />}
        </Drawing>
      </PlanFrame>
      <Row gap={1} at="center" spread>
        <Text color="text.secondary" size="small">
          {side === "front" ? say("seenFromTheFront") : say("turnedOverSide", { side: codeWords(side) })}
          {picture.items.some(({ is }) => "way" in is && is.way === "up") && say("chevronsMeanUp")}
        </Text>
      </Row>
    </Box>
  );
}

type OnUnitProps = Props & { side: Side; scale: number };

/** The unit with what the step is about; all but the front is mirrored, as it lies when it is turned over. */
function OnUnit({ picture, plan, items, hazards, side, scale }: OnUnitProps) {
  const mirrored = side !== "front";
  const xOf = (x: number) => (mirrored ? plan.width - x : x);
  // a number in a disc is read from 16 pixels on
  const r = Math.max(4, 10.5 / scale);
  const isOut = (id: string) => items.find((i) => i.id === id)?.state === "out";
  return (
    <>
      <g transform={mirrored ? `translate(${plan.width} 0) scale(-1 1)` : undefined}>
        {plan.outlines.map((o, i) => (
          <path key={i} d={outlinePath(o.points)} fill={INK.body} stroke={INK.line} strokeWidth={0.9} />
        ))}
        {plan.controls.map((c) => (
          <Where key={c.id} c={c} isIt={picture.places.includes(c.id)} faint={side !== "front"} />
        ))}
        {plan.functions
          .filter((f) => picture.places.includes(f.id))
          .map((f) => (
            <circle
              key={f.id}
              cx={f.at.x}
              cy={f.at.y}
              r={r * 1.3}
              fill="none"
              stroke={INK.signal}
              strokeWidth={2}
            />
          ))}
      </g>
      <HazardsHere {...{ picture, hazards, plan, r }} xOf={xOf} />
      {spread(picture.items, r).map(({ item, at }, i) => (
        <OneItem
          key={item.id}
          item={item}
          n={i + 1}
          x={xOf(item.at.x)}
          y={item.at.y}
          at={{ x: xOf(at.x), y: at.y }}
          r={r}
          out={isOut(item.id)}
          mirrored={mirrored}
        />
      ))}
    </>
  );
}

/** What can hurt, beside the first place that it can hurt at. */
function HazardsHere({
  picture,
  hazards,
  plan,
  r,
  xOf,
}: Pick<Props, "picture" | "hazards" | "plan"> & { r: number; xOf: (x: number) => number }) {
  const [first, ...others] = picture.items;
  const known = [...plan.controls, ...plan.functions].find((t) => t.id === picture.places[0]);
  const at = first?.at ?? known?.at;
  if (!at || hazards.length === 0) return null;
  const x = xOf(at.x);
  // on the side that is farthest from everything else
  const sides = (
    [
      { dx: 2.2, dy: 0.4, anchor: "start" },
      { dx: -2.2, dy: 0.4, anchor: "end" },
      { dx: 0, dy: -2.6, anchor: "middle" },
      { dx: 0, dy: 3.6, anchor: "middle" },
    ] as const
  ).map((side) => {
    const to = { x: x + side.dx * r * 1.8, y: at.y + side.dy * r };
    const room = Math.min(
      ...others.map((o) => Math.hypot(xOf(o.at.x) - to.x, o.at.y - to.y)),
      to.x,
      plan.width - to.x,
      // what lets go downwards has its arrow there, what lets go upwards its chevrons
      (first?.is.kind === "cable" || first?.is.kind === "clip") && side.dx === 0 ? 0 : Infinity,
    );
    return { ...side, room };
  });
  const best = sides.reduce((m, side) => (side.room > m.room ? side : m));
  return (
    <text
      x={x + best.dx * r}
      y={at.y + best.dy * r}
      fontSize={r * 1.15}
      fontWeight={700}
      textAnchor={best.anchor}
      fill={INK.caution}
    >
      {hazards.map((h) => HAZARD_WORDS[h]).join(", ")}
    </text>
  );
}

/** Where numbers would lie over each other, each stands beside its place instead, one below the other. */
function spread(items: readonly PicturedItem[], r: number) {
  const taken: { x: number; y: number }[] = [];
  return items.map((item) => {
    const at = { ...item.at };
    while (taken.some((t) => Math.hypot(t.x - at.x, t.y - at.y) < 2.2 * r)) at.y += 2.3 * r;
    taken.push(at);
    return { item, at };
  });
}

/** A control faintly, to find one's way by; strongly where the step is about it. */
function Where({ c, isIt, faint }: { c: ProfileControl; isIt: boolean; faint: boolean }) {
  const style = {
    fill: isIt ? INK.signal : "none",
    fillOpacity: 0.25,
    stroke: isIt ? INK.signal : INK.line,
    strokeWidth: isIt ? 2 : 0.4,
    opacity: faint && !isIt ? 0.45 : 1,
  };
  if (c.kind === "stick") return <circle cx={c.at.x} cy={c.at.y} r={c.diameter / 2} {...style} />;
  return (
    <rect
      x={c.at.x - c.width / 2}
      y={c.at.y - c.height / 2}
      width={c.width}
      height={c.height}
      rx={Math.min(c.width, c.height) / 2.4}
      {...style}
    />
  );
}

type OneItemProps = {
  item: PicturedItem;
  n: number;
  /** its place, and where its number stands */
  x: number;
  y: number;
  at: { x: number; y: number };
  r: number;
  out: boolean;
  mirrored: boolean;
};

function OneItem({ item: { is }, n, x, y, at, r, out, mirrored }: OneItemProps) {
  const moved = at.x !== x || at.y !== y;
  return (
    <g>
      {moved && <path d={`M${x} ${y}L${at.x} ${at.y}`} stroke={INK.line} strokeWidth={0.5} />}
      {moved && <circle cx={x} cy={y} r={r * 0.25} fill={INK.text} />}
      {is.kind === "fastener" && is.under && (
        <rect
          x={x - r * 2.2}
          y={y - r * 1.5}
          width={r * 4.4}
          height={r * 3}
          rx={r * 0.4}
          fill={INK.paper}
          fillOpacity={0.7}
          stroke={INK.line}
          strokeWidth={0.6}
          strokeDasharray="2 1.4"
        />
      )}
      {is.kind === "cable" && is.endsUnit && (
        <circle cx={at.x} cy={at.y} r={r * 1.45} fill="none" stroke={INK.caution} strokeWidth={r * 0.35} />
      )}
      <Plate is={is} x={at.x} y={at.y} r={r} out={out}>
        {n}
      </Plate>
      {(is.kind === "clip" || is.kind === "cable") && is.way && (
        <Lets way={is.way} x={at.x} y={at.y} r={r} mirrored={mirrored} />
      )}
      {is.kind === "piece" && is.falls && <Falls x={at.x} y={at.y} r={r} />}
      <Beside is={is} x={at.x} y={at.y} r={r} />
    </g>
  );
}

/** The number on what it is: a fastener round with a rim by its length, a clip a tongue, a cable a plug, a piece a plate. */
function Plate({
  is,
  x,
  y,
  r,
  out,
  children,
}: {
  is: PicturedItem["is"];
  x: number;
  y: number;
  r: number;
  out: boolean;
  children: ReactNode;
}) {
  const line = {
    stroke: out ? INK.caution : INK.text,
    strokeDasharray: out ? "2 1.6" : undefined,
  };
  const isRound = is.kind === "fastener";
  const rim = is.kind === "fastener" ? 0.6 + is.lengthMm / 8 : 0.9;
  return (
    <>
      {isRound ? (
        <circle cx={x} cy={y} r={r} fill={INK.paper} strokeWidth={rim} {...line} />
      ) : (
        <rect
          x={x - r * 1.15}
          y={y - r * 0.85}
          width={r * 2.3}
          height={r * 1.7}
          rx={is.kind === "piece" ? r * 0.2 : r * 0.7}
          fill={is.kind === "piece" ? INK.paper : INK.signal}
          strokeWidth={rim}
          {...line}
        />
      )}
      <text
        x={x}
        y={y + r * 0.42}
        fontSize={r * 1.2}
        fontWeight={800}
        textAnchor="middle"
        fill={isRound || is.kind === "piece" ? INK.text : INK.onSignal}
      >
        {children}
      </text>
    </>
  );
}

const AIM: Record<Way, readonly [number, number]> = {
  up: [0, 0],
  "to-left": [-1, 0],
  "to-right": [1, 0],
  "to-upper": [0, -1],
  "to-lower": [0, 1],
};

/** Which way it lets go: an arrow along the drawing; straight up, towards the eye, two rising brackets. */
function Lets({ way, x, y, r, mirrored }: { way: Way; x: number; y: number; r: number; mirrored: boolean }) {
  const [dx, dy] = [AIM[way][0] * (mirrored ? -1 : 1), AIM[way][1]];
  const width = r * 0.35;
  if (dx === 0 && dy === 0)
    return (
      <path
        d={`M${x - r * 1.1} ${y - r * 1.15}l${r * 1.1} ${-r * 0.7}l${r * 1.1} ${r * 0.7}M${x - r * 1.1} ${y - r * 1.75}l${r * 1.1} ${-r * 0.7}l${r * 1.1} ${r * 0.7}`}
        fill="none"
        stroke={INK.signal}
        strokeWidth={width}
        strokeLinecap="round"
      />
    );
  const [fx, fy] = [x + dx * r * 1.4, y + dy * r * 1.1];
  const [tx, ty] = [fx + dx * r * 2.2, fy + dy * r * 2.2];
  const [bx, by] = [tx - dx * r * 0.9, ty - dy * r * 0.9];
  return (
    <path
      d={`M${fx} ${fy}L${tx} ${ty}M${bx - dy * r * 0.7} ${by - dx * r * 0.7}L${tx} ${ty}L${bx + dy * r * 0.7} ${by + dx * r * 0.7}`}
      fill="none"
      stroke={INK.signal}
      strokeWidth={width}
      strokeLinecap="round"
      strokeLinejoin="round"
    />
  );
}

/** What comes loose by itself: drops below it. */
const Falls = ({ x, y, r }: { x: number; y: number; r: number }) => (
  <path
    d={`M${x - r * 0.7} ${y + r * 1.1}v${r * 0.9}M${x} ${y + r * 1.1}v${r * 1.5}M${x + r * 0.7} ${y + r * 1.1}v${r * 0.9}`}
    stroke={INK.caution}
    strokeWidth={r * 0.25}
    strokeDasharray={`${r * 0.35} ${r * 0.25}`}
  />
);

/** Beside a fastener its length, and what it hides under. */
function Beside({ is, x, y, r }: { is: PicturedItem["is"]; x: number; y: number; r: number }) {
  if (is.kind !== "fastener") return null;
  return (
    <text x={x} y={y + r * 2.35} fontSize={r * 1.1} fontWeight={700} textAnchor="middle" fill={INK.text}>
      {mark(is.lengthMm)}
    </text>
  );
}

/** The board with the part or point that a check is about. */
function OnBoard({ board: b, label }: { board: NonNullable<Picture["board"]>; label: string }) {
  const xOf = (x: number) => (b.face === "top" ? x : b.width - x);
  return (
    <Box>
      <PlanFrame height={BESIDE_WORDS}>
        <Drawing
          extent={{ x: -6, y: -6, width: b.width + 12, height: b.height + 12 }}
          label={label}
          role="img"
          zoom
        >
          {(scale) => {
            const r = Math.max(2.2, 8 / scale);
            const it = b.parts.find((p) => p.isIt);
            return (
              <>
                <rect
                  width={b.width}
                  height={b.height}
                  rx={2}
                  fill={INK.body}
                  stroke={INK.line}
                  strokeWidth={0.5}
                />
                {b.parts.map((p) => (
                  <rect
                    key={p.id}
                    x={xOf(p.at.x) - 3}
                    y={p.at.y - 2.2}
                    width={6}
                    height={4.4}
                    rx={0.8}
                    fill={p.isIt ? INK.signal : INK.paper}
                    stroke={INK.line}
                    strokeWidth={0.35}
                  />
                ))}
                {it && (
                  <circle
                    cx={xOf(it.at.x)}
                    cy={it.at.y}
                    r={r * 1.9}
                    fill="none"
                    stroke={INK.signal}
                    strokeWidth={r * 0.35}
                  />
                )}
              </>
            );
          }}
        </Drawing>
      </PlanFrame>
      <Text color="text.secondary" size="small">
        {b.face === "top"
          ? say("boardFromAbove", { board: b.name })
          : say("boardTurnedOver", { board: b.name })}
      </Text>
    </Box>
  );
}
