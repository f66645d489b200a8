import Box from "@mui/material/Box";

import type { Wiring } from "@/core/profile/wiring";
import type { Cause } from "@/features/find/view";
import type { Seen } from "@/features/find/seen";
import { stateColour } from "@/ui/state/StateMark";
import { Drawing } from "@/ui/plan/Drawing";
import { INK } from "@/ui/plan/inks";
import { say } from "@/features/find/words/words";

const COLUMN = 118;
const ROW = 26;
const short = (s: string) => (s.length > 19 ? `${s.slice(0, 18)}…` : s);

type GraphViewProps = {
  wiring: Wiring;
  seen: readonly Seen[];
  causes: readonly Cause[];
};

/** What GraphView knows and does; the components below only show it. */
function useGraph({ wiring, seen, causes }: GraphViewProps) {
  const failing = seen.filter((s) => s.outcome !== "works" && wiring.serves[s.id]).slice(0, 6);
  const byId = new Map(wiring.nodes.map((n) => [n.id, n]));
  const depth = new Map<string, number>();
  const visit = (id: string, d: number) => {
    if ((depth.get(id) ?? -1) >= d) return;
    depth.set(id, d);
    byId.get(id)?.needs.forEach((need) => visit(need, d + 1));
  };
  failing.forEach((f) => wiring.serves[f.id]!.forEach((n) => visit(n, 1)));
  const columns: string[][] = [];
  for (const [id, d] of depth) (columns[d] ??= []).push(id);
  columns[0] = failing.map((f) => f.id);
  const at = new Map<string, { x: number; y: number }>();
  columns.forEach((ids, c) => (ids ?? []).forEach((id, r) => at.set(id, { x: c * COLUMN, y: r * ROW })));
  const probability = new Map(causes.map((c) => [c.node, c.probability]));
  const edges = [
    ...failing.flatMap((f) => wiring.serves[f.id]!.map((n) => [f.id, n] as const)),
    ...[...depth.keys()].flatMap((id) => (byId.get(id)?.needs ?? []).map((need) => [id, need] as const)),
  ];
  const width = columns.length * COLUMN;
  const height = Math.max(1, ...columns.map((c) => c?.length ?? 0)) * ROW;
  const nameOf = (id: string) => byId.get(id)?.name ?? seen.find((s) => s.id === id)?.name ?? id;
  const words = causes
    .slice(0, 3)
    .map((c) => `${c.name} ${Math.round(c.probability * 100)} %`)
    .join(", ");
  return { failing, byId, at, probability, edges, width, height, nameOf, words };
}
type GraphState = ReturnType<typeof useGraph>;

/** What the failing things rest on, drawn from them to the supply; suspects shaded by how likely they are. */
export function GraphView(props: GraphViewProps) {
  const s = useGraph(props);
  const { failing, width, height, words } = s;

  return (
    <Box sx={{ aspectRatio: `${width + 8} / ${height + 8}`, width: "100%", maxHeight: 420 }}>
      <Drawing
        extent={{ x: -4, y: -4, width: width + 8, height: height + 8 }}
        role="img"
        label={say("whatFailingRestOnMostSuspected", {
          failing: failing.map((f) => f.name).join(", "),
          words,
        })}
        zoom
      >
        {() => (
          <>
            <Edges {...s} />
            <Nodes {...s} />
          </>
        )}
      </Drawing>
    </Box>
  );
}

function Edges({ edges, at }: GraphState) {
  return edges.map(([a, b]) => {
    const p = at.get(a);
    const q = at.get(b);
    return p && q ? (
      <path
        key={`${a} ${b}`}
        d={`M${p.x + 104} ${p.y + 9}C${p.x + 114} ${p.y + 9} ${q.x - 8} ${q.y + 9} ${q.x} ${q.y + 9}`}
        fill="none"
        stroke={INK.ground}
        strokeWidth={1.4}
      />
    ) : null;
  });
}

function Nodes({ at, probability, nameOf, byId }: GraphState) {
  return [...at].map(([id, { x, y }]) => {
    const p = probability.get(id) ?? 0;
    return (
      <g key={id}>
        <title>{`${nameOf(id)}${p ? ` ${Math.round(p * 100)} %` : ""}`}</title>
        <rect
          x={x}
          y={y}
          width={104}
          height={18}
          rx={3}
          fill={INK.paper}
          stroke={byId.has(id) ? INK.line : stateColour("fail")}
          strokeWidth={byId.has(id) ? 0.6 : 1.6}
        />
        <rect x={x} y={y} width={104} height={18} rx={3} fill={INK.fail} opacity={Math.min(0.75, p)} />
        <text x={x + 5} y={y + 12.5} fontSize={9.5} fill={INK.text}>
          {short(nameOf(id))}
        </text>
      </g>
    );
  });
}
