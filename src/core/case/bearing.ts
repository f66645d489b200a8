import type { NodeKind } from "../profile/wiring";
import { kindsOfReading, READINGS_BEAR } from "../diagnosis/readings";
import { HISTORIES, type History } from "../claim/history";
import { FOUND_AT, type FactKind, READ_AS } from "./facts";

/**
 * What each kind of fact bears on, and in which direction. One table: whoever adds a kind adds its row, and the test
 * walks the rows.
 */

/** "answers": it speaks through the answer of the function that it gives */
export type Direction = "raises" | "lowers" | "ends" | "answers" | "nothing";
export type Row = {
  kind: FactKind;
  /** which of its forms; empty where it has one */
  form: string;
  direction: Direction;
  /** the kinds of part that it moves, or those behind the place, or the part itself */
  on: readonly NodeKind[] | "behind" | "part" | null;
  /** why it bears on nothing, where it does not */
  because?: string;
};

const PADS: readonly NodeKind[] = ["contact", "dome", "membrane"];
const PLUGGED: readonly NodeKind[] = ["connector", "plug", "socket"];
/** Where water leaves metal bare or bridged. */
const WETTED: readonly NodeKind[] = [...PADS, ...PLUGGED, "cell-contact", "joint", "port", "trace", "switch"];
/** What carries a hand's force and breaks by a blow. */
const BY_A_BLOW: readonly NodeKind[] = ["mechanism", "post", "frame", "rocker", "shell", "joint"];

type Leaning = { kinds: readonly NodeKind[]; times: number };
/**
 * By how much the history of a unit multiplies the odds of its kinds of part, when it is sure. House guesses in the
 * order of what a fall, liquid, teeth, smoke and other hands are known to break.
 */
export const HISTORY_LEANS: Record<History, Leaning> = {
  fall: {
    kinds: [...BY_A_BLOW, "gear", "latch", "connector", "plug", "lead"],
    times: 4,
  },
  liquid: {
    kinds: [...WETTED, "track"],
    times: 4,
  },
  teeth: { kinds: ["cap", "shell", "mechanism", "post"], times: 3 },
  smoke: { kinds: ["supply", "chip", "board", "cell", "fuse"], times: 6 },
  opened: { kinds: [...PLUGGED, "flex", "lead", "antenna"], times: 2 },
  repaired: { kinds: ["joint", "connector", "socket", "trace"], times: 2 },
  "first-day": { kinds: ["joint", "connector", "chip"], times: 2 },
  slow: {
    kinds: [...PADS, "sensor", "track", "mechanism", "spring", "cell"],
    times: 2,
  },
  sudden: {
    kinds: [...PLUGGED, "joint", "flex", "lead", "chip", "post", "fuse"],
    times: 2,
  },
};

/**
 * Where the like place of its mate failed, what it rests on here is likelier at fault: both were used alike, and wear
 * alike. A house guess.
 */
export const MATE_TIMES = 2;
/** What was corroded says that it was wet there, and may be elsewhere: contacts and joints all over. */
export const CORRODED_LEANS: Leaning = {
  kinds: WETTED,
  times: 2,
};

export type Sign =
  | "rattle-metal"
  | "rattle-plastic"
  | "seen-metal"
  | "seen-plastic"
  | "grime"
  | "broken-outside"
  | "sticky"
  | "rough-hands"
  | "glued";
/** The same for what was seen and heard at the door. */
export const INTAKE_LEANS: Record<Sign, Leaning> = {
  "rattle-metal": { kinds: ["connector", "lead", "spring", "frame", "cell-contact"], times: 2 },
  "rattle-plastic": { kinds: ["mechanism", "post", "gear", "rocker", "cap", "latch"], times: 2.5 },
  "seen-metal": { kinds: ["connector", "lead", "spring", "frame", "cell-contact"], times: 4 },
  "seen-plastic": { kinds: ["mechanism", "post", "gear", "rocker", "cap", "latch"], times: 5 },
  grime: { kinds: [...PADS, "track", "mechanism"], times: 1.5 },
  "broken-outside": { kinds: BY_A_BLOW, times: 1.5 },
  sticky: { kinds: [...PADS, "switch", "shell"], times: 2 },
  "rough-hands": { kinds: [...PLUGGED, "flex", "lead", "antenna", "shell"], times: 1.5 },
  glued: { kinds: ["post", "cap", "latch", "shell", "frame"], times: 3 },
};
/** Marks of wear that tell of more than the shell. */
export const MARKS_TELL: Partial<Record<string, Sign>> = {
  crack: "broken-outside",
  "missing-piece": "broken-outside",
  chewed: "broken-outside",
  sticky: "sticky",
};

const row = (kind: FactKind, form: string, direction: Direction, on: Row["on"]): Row => ({
  kind,
  form,
  direction,
  on,
});
const silent = (kind: FactKind, form: string, because: string): Row => ({
  ...row(kind, form, "nothing", null),
  because,
});

export const BEARS: readonly Row[] = [
  row("told", "", "raises", "behind"),
  ...HISTORIES.map((what) => row("history", what, "raises", HISTORY_LEANS[what].kinds)),
  ...(Object.keys(INTAKE_LEANS) as Sign[]).map((s) => row("intake", s, "raises", INTAKE_LEANS[s].kinds)),
  row("mate", "", "raises", "behind"),
  silent("intake", "smell", "it asks for cleaning and says nothing of a part"),
  silent("intake", "missing", "it costs money and says nothing of what is there"),
  row("measure", "fail", "raises", "behind"),
  row("works", "", "lowers", "behind"),
  row("function", "fail", "raises", "behind"),
  row("function", "intermittent", "raises", "behind"),
  row("function", "pass", "lowers", "behind"),
  row("function", "named by hand", "raises", "behind"),
  ...(Object.keys(READINGS_BEAR) as (keyof typeof READINGS_BEAR)[]).flatMap((kind) => [
    row("reading", `${READ_AS[kind]} fail`, "raises", kindsOfReading(READINGS_BEAR[kind]!)),
    row("reading", `${READ_AS[kind]} doubtful`, "raises", kindsOfReading(READINGS_BEAR[kind]!)),
    row("reading", `${READ_AS[kind]} pass`, "lowers", kindsOfReading(READINGS_BEAR[kind]!)),
  ]),
  ...[
    ...new Set(
      (Object.keys(READ_AS) as (keyof typeof READ_AS)[])
        .filter((k) => !READINGS_BEAR[k])
        .map((k) => READ_AS[k]),
    ),
  ].map((name) => row("reading", name, "answers", null)),
  row("reading", "point fail", "raises", "behind"),
  row("reading", "point pass", "lowers", "behind"),
  ...FOUND_AT.filter((f) => f !== "residue").map((f) =>
    row("observed", f, f === "sound" ? "lowers" : "raises", "part"),
  ),
  row("observed", "corroded elsewhere", "raises", CORRODED_LEANS.kinds),
  silent("observed", "residue", "harmless by itself: it is cleaned and looked under"),
  row("piece", "", "raises", "part"),
  row("tried", "cured", "raises", "part"),
  row("tried", "better", "raises", "part"),
  row("tried", "same", "lowers", "part"),
  row("tried", "search", "raises", "part"),
  row("mended", "", "ends", "part"),
  row("mended", "and it still fails", "lowers", "part"),
  silent("answered", "", "what a customer wants says nothing of what is broken"),
  silent("decided", "", "a decision is taken from the facts and is none about a part"),
];
