import { BACK_CHECKS, CATCHES, DRIVES, GUIDE_FACES, HAZARDS, MATERIALS, type MendGuide, PIECE_KINDS } from "@/core/profile/guide";

/** How each list of a guide is edited: its fields by path, and what a new row begins with. */

export type Field = {
  path: string;
  label: string;
  kind: "text" | "long" | "number" | "check" | "choice" | "words" | "choices" | "pairs";
  options?: readonly string[];
  optional?: boolean;
};
export const LISTS = ["steps", "fasteners", "clips", "cables", "pieces", "surfaces", "solder"] as const;
export type ListName = (typeof LISTS)[number];

const place: Field[] = [
  { path: "at.x", label: "x, mm", kind: "number" },
  { path: "at.y", label: "y, mm", kind: "number" },
];
const revisions: Field = { path: "revisions", label: "Only these revisions", kind: "words", optional: true };

export const FIELDS: Record<ListName, Field[]> = {
  steps: [
    { path: "id", label: "Id", kind: "text" },
    { path: "title", label: "Title", kind: "text" },
    { path: "does", label: "What is done", kind: "long" },
    { path: "mind", label: "Mind", kind: "long" },
    { path: "after", label: "After these steps", kind: "words" },
    { path: "frees.fasteners", label: "Fasteners it frees", kind: "words" },
    { path: "frees.clips", label: "Clips", kind: "words" },
    { path: "frees.cables", label: "Cables", kind: "words" },
    { path: "frees.pieces", label: "Pieces", kind: "words" },
    { path: "reaches", label: "Part slots it reaches", kind: "words" },
    { path: "tools", label: "Tools", kind: "words" },
    { path: "consumables", label: "Consumables", kind: "words" },
    { path: "minutes", label: "Minutes", kind: "number" },
    { path: "difficulty", label: "Difficulty 1 to 5", kind: "number" },
    { path: "fragility", label: "Fragility 1 to 5", kind: "number" },
    { path: "hands", label: "Hands (1 or 2 people)", kind: "number" },
    { path: "light", label: "Wants light and magnifier", kind: "check" },
    { path: "hazards", label: "Hazards", kind: "choices", options: HAZARDS },
    { path: "noises", label: "Normal noises", kind: "text" },
    { path: "back.does", label: "Putting back", kind: "long" },
    { path: "back.checks", label: "Checks of what goes back", kind: "choices", options: BACK_CHECKS },
    { path: "back.minutes", label: "Minutes back", kind: "number" },
    revisions,
  ],
  fasteners: [
    { path: "id", label: "Id", kind: "text" },
    ...place,
    { path: "face", label: "Face", kind: "choice", options: GUIDE_FACES },
    { path: "drive", label: "Drive", kind: "choice", options: DRIVES },
    { path: "size", label: "Size", kind: "text" },
    { path: "lengthMm", label: "Length, mm", kind: "number" },
    { path: "deepestMm", label: "At most, mm", kind: "number" },
    { path: "pierces", label: "Longer breaks into", kind: "text", optional: true },
    { path: "head", label: "Head", kind: "text" },
    { path: "colour", label: "Colour", kind: "text" },
    { path: "shaftMm", label: "Shaft needed, mm", kind: "number", optional: true },
    { path: "under", label: "Hidden under", kind: "text", optional: true },
    revisions,
  ],
  clips: [
    { path: "id", label: "Id", kind: "text" },
    { path: "name", label: "Name", kind: "text" },
    ...place,
    { path: "face", label: "Face", kind: "choice", options: GUIDE_FACES },
    { path: "pry", label: "Where and which way to pry", kind: "long" },
    { path: "glued", label: "Glued", kind: "check" },
    { path: "oftenBreaks", label: "Often breaks", kind: "check" },
    { path: "matters", label: "Matters for the shell", kind: "check" },
    revisions,
  ],
  cables: [
    { path: "id", label: "Id", kind: "text" },
    { path: "name", label: "Name", kind: "text" },
    ...place,
    { path: "catch", label: "Catch", kind: "choice", options: CATCHES },
    { path: "release", label: "How it lets go", kind: "text" },
    { path: "facing", label: "Facing", kind: "text" },
    { path: "marker", label: "Marker", kind: "text", optional: true },
    { path: "colour", label: "Colour", kind: "text" },
    { path: "opensMm", label: "Halves part at most, mm", kind: "number", optional: true },
    { path: "endsUnit", label: "Torn, it ends the unit", kind: "check" },
    { path: "leads", label: "Leads, pad: colour", kind: "pairs", optional: true },
    revisions,
  ],
  pieces: [
    { path: "id", label: "Id", kind: "text" },
    { path: "name", label: "Name", kind: "text" },
    ...place,
    { path: "kind", label: "Kind", kind: "choice", options: PIECE_KINDS },
    { path: "sits", label: "How it sits", kind: "long" },
    { path: "falls", label: "Falls out", kind: "check" },
    { path: "picture", label: "Picture first", kind: "check" },
    { path: "washes", label: "May be washed apart", kind: "check" },
    revisions,
  ],
  surfaces: [
    { path: "id", label: "Id", kind: "text" },
    { path: "name", label: "Name", kind: "text" },
    { path: "material", label: "Material", kind: "choice", options: MATERIALS },
    { path: "level", label: "From level 1 to 4", kind: "number" },
    { path: "after", label: "Reached after step", kind: "text", optional: true },
    { path: "piece", label: "Piece that comes off for it", kind: "text", optional: true },
    { path: "spot", label: "Spot", kind: "choice", options: ["open", "groove", "raised", "well", "round-button"] },
  ],
  solder: [
    { path: "id", label: "Id", kind: "text" },
    { path: "name", label: "Name", kind: "text" },
    { path: "slots", label: "Part slots", kind: "words" },
    { path: "board", label: "Board", kind: "text" },
    { path: "celsius", label: "Setting, °C", kind: "number" },
    { path: "ceiling", label: "Ceiling, °C", kind: "number" },
    { path: "tip", label: "Tip", kind: "text" },
    { path: "alloy", label: "Alloy", kind: "text" },
    { path: "flux", label: "Flux", kind: "text" },
    { path: "holes", label: "Holes", kind: "number" },
    { path: "holeMm", label: "Bore, mm", kind: "number" },
    { path: "joints", label: "Joints", kind: "number" },
    { path: "grounded", label: "On the ground plane", kind: "number" },
    { path: "shield", label: "Shield", kind: "words" },
    { path: "strong", label: "Daily load", kind: "check" },
  ],
};

const at = { x: 40, y: 40 };
export const FRESH: { [L in ListName]: (id: string) => MendGuide[L][number] } = {
  steps: (id) => ({
    id,
    title: "New step",
    does: "What is done here.",
    after: [],
    frees: { fasteners: [], clips: [], cables: [], pieces: [] },
    reaches: [],
    tools: [],
    consumables: [],
    minutes: 2,
    difficulty: 1,
    fragility: 1,
    hazards: [],
    mind: "",
    noises: "",
    hands: 1,
    light: false,
    back: { does: "How it goes back.", checks: [], minutes: 2 },
    otherWays: [],
  }),
  fasteners: (id) => ({
    id,
    at,
    face: "back",
    drive: "cross-small",
    size: "0",
    lengthMm: 8,
    head: "pan",
    colour: "black",
    deepestMm: 9,
  }),
  clips: (id) => ({
    id,
    at,
    face: "front",
    name: "New clip",
    pry: "where, which way",
    glued: false,
    oftenBreaks: false,
    matters: true,
  }),
  cables: (id) => ({
    id,
    at,
    name: "New cable",
    catch: "plug",
    release: "straight up",
    facing: "contacts to the board",
    colour: "white",
    endsUnit: false,
  }),
  pieces: (id) => ({ id, at, name: "New piece", kind: "trim", sits: "how it sits", falls: false, picture: false, washes: false }),
  surfaces: (id) => ({ id, name: "New surface", material: "hard-plastic", level: 1, spot: "open" }),
  solder: (id) => ({
    id,
    name: "New operation",
    slots: [],
    board: "main",
    celsius: 340,
    ceiling: 380,
    tip: "chisel 1.6",
    alloy: "tin-lead 63/37",
    flux: "no-clean gel",
    holes: 0,
    holeMm: 0,
    joints: 2,
    shield: [],
    grounded: 0,
    strong: false,
  }),
};

type Row = Record<string, unknown>;
export const valueAt = (row: Row, path: string): unknown =>
  path.split(".").reduce<unknown>((v, k) => (v as Row | undefined)?.[k], row);

/** The row with one value changed; an optional value that is empty is left out. */
export function withValue(row: Row, path: string, value: unknown): Row {
  const [head, ...rest] = path.split(".");
  if (rest.length) return { ...row, [head!]: withValue((row[head!] ?? {}) as Row, rest.join("."), value) };
  const { [head!]: _, ...others } = row;
  return value === undefined ? others : { ...row, [head!]: value };
}

export const EMPTY_GUIDE: MendGuide = {
  fasteners: [],
  clips: [],
  cables: [],
  pieces: [],
  steps: [FRESH.steps("open")],
  surfaces: [],
  solder: [],
  calibration: null,
  enoughToTest: "What must be back so that it can be tested.",
};
