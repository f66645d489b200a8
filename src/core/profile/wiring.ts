import { type Finding, found, type Listed } from "../base/finding";
import { z } from "../base/schema";

/**
 * What depends on what inside a unit: boards with two faces, the parts on the way from a control or function
 * to the supply, and the points where a probe can be put. Part of the model profile. Lengths in millimetres
 * on each board, origin top left.
 */

const slug = z
  .string()
  .regex(/^[a-z0-9]+([.-][a-z0-9]+)*$/, found({ rule: "letters", of: "small" }))
  .max(60);
const words = (max: number) => z.string().trim().min(1).max(max);
const at = z.strictObject({ x: z.number().min(0).max(400), y: z.number().min(0).max(400) });

/** Kinds of part, each with its starting odds in core/diagnosis/priors.ts. */
export const NODE_KINDS = [
  "contact",
  "switch",
  "sensor",
  "mechanism",
  "flex",
  "connector",
  "joint",
  "trace",
  "chip",
  "supply",
  "cell",
  "lead",
  "antenna",
  "motor",
  "transducer",
  "light",
  "port",
  "board",
  "cap",
  "post",
  "spring",
  "gear",
  "rocker",
  "frame",
  "shell",
  "latch",
  "magnet",
  "track",
  "dome",
  "membrane",
  "fuse",
  "cell-contact",
  "plug",
  "socket",
] as const;
export type NodeKind = (typeof NODE_KINDS)[number];

export const FACES = ["top", "bottom"] as const;

const nodeSchema = z.strictObject({
  id: slug,
  kind: z.enum(NODE_KINDS),
  name: words(60),
  board: slug.optional(),
  face: z.enum(FACES).optional(),
  at: at.optional(),
  /** the axis of a stick that it is of, where it is of one */
  axis: z.enum(["x", "y"]).optional(),
  /** what this part itself needs in order to work: other parts of the list */
  needs: z.array(slug).max(20).default([]),
  /** the like part on the other side, to swap with or compare against */
  twin: slug.optional(),
  revisions: z.array(slug).min(1).optional(),
});

const pointSchema = z.strictObject({
  id: slug,
  name: words(60),
  board: slug,
  face: z.enum(FACES),
  at,
  /** the part whose working, and that of all it needs, shows here */
  node: slug,
  quantity: z.enum(["volts", "ohms", "continuity"]),
  /** the healthy figure, where the model's makers or the shop know it */
  expects: z.number().finite().nullable().default(null),
});

export const wiringSchema = z
  .strictObject({
    boards: z
      .array(
        z.strictObject({
          id: slug,
          name: words(60),
          width: z.number().min(5).max(400),
          height: z.number().min(5).max(400),
        }),
      )
      .min(1)
      .max(8),
    nodes: z.array(nodeSchema).min(1).max(400),
    /** control or function of the profile -> the parts it needs directly */
    serves: z.record(slug, z.array(slug).min(1).max(12)),
    points: z.array(pointSchema).max(120).default([]),
  })
  .superRefine((w, ctx) => {
    const problem = (finding: Finding) => ctx.addIssue({ code: "custom", message: found(finding) });
    const lost = (by: string, what: Listed, name: string) => problem({ rule: "not-listed", by, what, name });
    const ids = new Set(w.nodes.map((n) => n.id));
    const boards = new Set(w.boards.map((b) => b.id));
    if (ids.size !== w.nodes.length) problem({ rule: "own-id", of: "wiring" });
    for (const n of w.nodes) {
      for (const need of n.needs) if (!ids.has(need)) lost(n.id, "wiring", need);
      if (n.twin !== undefined && !ids.has(n.twin)) lost(n.id, "wiring", n.twin);
      if (n.board !== undefined && !boards.has(n.board)) lost(n.id, "board", n.board);
    }
    for (const [served, parts] of Object.entries(w.serves))
      for (const part of parts) if (!ids.has(part)) lost(served, "wiring", part);
    for (const p of w.points) {
      if (!ids.has(p.node)) lost(p.id, "wiring", p.node);
      if (!boards.has(p.board)) lost(p.id, "board", p.board);
    }
    if (hasCycle(w.nodes)) problem({ rule: "circle", of: "wiring" });
  });

export type Wiring = z.infer<typeof wiringSchema>;
export type WiringNode = Wiring["nodes"][number];

function hasCycle(nodes: readonly { id: string; needs: readonly string[] }[]): boolean {
  const byId = new Map(nodes.map((n) => [n.id, n]));
  const state = new Map<string, "open" | "done">();
  const visit = (id: string): boolean => {
    if (state.get(id) === "done") return false;
    if (state.get(id) === "open") return true;
    state.set(id, "open");
    if ((byId.get(id)?.needs ?? []).some(visit)) return true;
    state.set(id, "done");
    return false;
  };
  return nodes.some((n) => visit(n.id));
}
