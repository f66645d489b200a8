import { LEAST_SIGN } from "@/core/grade/sign";
import type { Wiring } from "@/core/profile/wiring";
import { Drawing } from "@/ui/plan/Drawing";
import { INK } from "@/ui/plan/inks";
import { type ShownState, STATE_WORDS, StateShape } from "@/ui/state/StateMark";
import { codeWords } from "@/words/codes";
import { say } from "@/features/find/words/words";

type BoardViewProps = {
  wiring: Wiring;
  board: string;
  face: "top" | "bottom";
  /** live or dead by what the part serves; none where nothing was seen */
  states: Record<string, ShownState>;
  suspicion: Record<string, number>;
  /** test points that were read: whether they are off */
  readings: Record<string, boolean | null>;
  selected: string | null;
  onPick: (node: string) => void;
  onTurn: () => void;
};

/** What BoardView knows and does; the components below only show it. */
function useBoard({ wiring, board, face, states, suspicion, readings, selected, onPick }: BoardViewProps) {
  const b = wiring.boards.find((x) => x.id === board)!;
  // turned over, left and right change sides as they do in the hand
  const place = (at: { x: number; y: number }) => ({ x: face === "top" ? at.x : b.width - at.x, y: at.y });
  const parts = wiring.nodes.filter((n) => n.board === board && (n.face ?? "top") === face && n.at);
  const points = wiring.points.filter((p) => p.board === board && p.face === face);
  return { face, states, suspicion, readings, selected, onPick, b, place, parts, points };
}
/** `sign`: how large a state is drawn, as a radius on the board */
type Drawn = ReturnType<typeof useBoard> & { sign: number };

/** One face of a board: parts and test points where they sit, mirrored when the board is turned over. */
export function BoardView(props: BoardViewProps) {
  const s = useBoard(props);
  const { face, b } = s;

  return (
    <Drawing
      extent={{ x: -3, y: -3, width: b.width + 6, height: b.height + 8 }}
      role="group"
      label={`${b.name}, ${codeWords(face)}${face === "bottom" ? say("mirrored") : ""}`}
      zoom
      onTurn={props.onTurn}
    >
      {(scale) => <Board {...s} sign={Math.max(1.4, LEAST_SIGN / 2 / scale)} />}
    </Drawing>
  );
}

function Board(s: Drawn) {
  const { b, face } = s;
  return (
    <>
      <rect width={b.width} height={b.height} rx={2} fill={INK.body} stroke={INK.line} strokeWidth={0.5} />
      <BoardParts {...s} />
      <BoardPoints {...s} />
      <text x={b.width / 2} y={b.height + 4} fontSize={3.4} textAnchor="middle" fill={INK.line}>
        {b.name}, {codeWords(face)}
        {face === "bottom" ? say("turnedOverMirrored") : ""}
      </text>
    </>
  );
}

function BoardParts({ parts, place, suspicion, states, selected, onPick, sign }: Drawn) {
  return parts.map((n) => {
    const { x, y } = place(n.at!);
    const p = suspicion[n.id] ?? 0;
    const state = states[n.id] ?? "untested";
    const words = `${n.name}: ${STATE_WORDS[state]}${p > 0.01 ? say("suspectedP", { p: Math.round(p * 100) }) : ""}`;
    return (
      <g
        key={n.id}
        role="button"
        tabIndex={0}
        aria-label={words}
        aria-pressed={selected === n.id}
        onClick={() => onPick(n.id)}
        onKeyDown={(e) => {
          if (e.key !== "Enter" && e.key !== " ") return;
          e.preventDefault();
          onPick(n.id);
        }}
        style={{ cursor: "pointer" }}
      >
        <title>{words}</title>
        <rect
          x={x - 4}
          y={y - 3}
          width={8}
          height={6}
          rx={1}
          fill={INK.paper}
          stroke={selected === n.id ? INK.signal : INK.line}
          strokeWidth={selected === n.id ? 1 : 0.35}
        />
        <rect x={x - 4} y={y - 3} width={8} height={6} rx={1} fill={INK.fail} opacity={Math.min(0.85, p)} />
        <StateShape state={state} x={x} y={y} r={sign} />
      </g>
    );
  });
}

function BoardPoints({ points, place, readings, sign }: Drawn) {
  return points.map((p) => {
    const { x, y } = place(p.at);
    const off = readings[p.id];
    const words = { untested: say("notRead"), fail: say("off"), pass: say("right") } as const;
    const stateOf = (): keyof typeof words => {
      if (off === undefined || off === null) return "untested";
      return off ? "fail" : "pass";
    };
    const state = stateOf();
    return (
      <g key={p.id}>
        <title>{`${p.name}: ${words[state]}`}</title>
        <circle cx={x} cy={y} r={sign * 1.45} fill={INK.paper} stroke={INK.signal} strokeWidth={sign * 0.3} />
        <StateShape state={state} x={x} y={y} r={sign} />
      </g>
    );
  });
}
