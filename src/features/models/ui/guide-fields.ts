import {
  BACK_CHECKS,
  CATCHES,
  DRIVES,
  GUIDE_FACES,
  HAZARDS,
  MATERIALS,
  type MendGuide,
  PIECE_KINDS,
} from "@/core/profile/guide";
import { say } from "@/features/models/words/words";

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
  { path: "at.x", label: say("xMm"), kind: "number" },
  { path: "at.y", label: say("yMm"), kind: "number" },
];
const revisions: Field = {
  path: "revisions",
  label: say("onlyTheseRevisions"),
  kind: "words",
  optional: true,
};

export const FIELDS: Record<ListName, Field[]> = {
  steps: [
    { path: "id", label: say("id"), kind: "text" },
    { path: "title", label: say("title"), kind: "text" },
    { path: "does", label: say("whatIsDone"), kind: "long" },
    { path: "mind", label: say("mind"), kind: "long" },
    { path: "after", label: say("afterTheseSteps"), kind: "words" },
    { path: "frees.fasteners", label: say("fastenersItFrees"), kind: "words" },
    { path: "frees.clips", label: say("clips"), kind: "words" },
    { path: "frees.cables", label: say("cables"), kind: "words" },
    { path: "frees.pieces", label: say("pieces"), kind: "words" },
    { path: "reaches", label: say("partSlotsItReaches"), kind: "words" },
    { path: "tools", label: say("tools"), kind: "words" },
    { path: "consumables", label: say("consumables"), kind: "words" },
    { path: "minutes", label: say("minutes"), kind: "number" },
    { path: "difficulty", label: say("difficulty1To5"), kind: "number" },
    { path: "fragility", label: say("fragility1To5"), kind: "number" },
    { path: "hands", label: say("hands1Or2People"), kind: "number" },
    { path: "light", label: say("wantsLightAndMagnifier"), kind: "check" },
    { path: "hazards", label: say("hazards"), kind: "choices", options: HAZARDS },
    { path: "noises", label: say("normalNoises"), kind: "text" },
    { path: "back.does", label: say("puttingBack"), kind: "long" },
    { path: "back.checks", label: say("checksOfWhatGoesBack"), kind: "choices", options: BACK_CHECKS },
    { path: "back.minutes", label: say("minutesBack"), kind: "number" },
    revisions,
  ],
  fasteners: [
    { path: "id", label: say("id"), kind: "text" },
    ...place,
    { path: "face", label: say("face"), kind: "choice", options: GUIDE_FACES },
    { path: "drive", label: say("drive"), kind: "choice", options: DRIVES },
    { path: "size", label: say("size"), kind: "text" },
    { path: "lengthMm", label: say("lengthMm"), kind: "number" },
    { path: "deepestMm", label: say("atMostMm"), kind: "number" },
    { path: "pierces", label: say("longerBreaksInto"), kind: "text", optional: true },
    { path: "head", label: say("head"), kind: "text" },
    { path: "colour", label: say("colour"), kind: "text" },
    { path: "shaftMm", label: say("shaftNeededMm"), kind: "number", optional: true },
    { path: "under", label: say("hiddenUnder"), kind: "text", optional: true },
    revisions,
  ],
  clips: [
    { path: "id", label: say("id"), kind: "text" },
    { path: "name", label: say("name"), kind: "text" },
    ...place,
    { path: "face", label: say("face"), kind: "choice", options: GUIDE_FACES },
    { path: "pry", label: say("whereAndWhichWayToPry"), kind: "long" },
    { path: "glued", label: say("glued"), kind: "check" },
    { path: "oftenBreaks", label: say("oftenBreaks"), kind: "check" },
    { path: "matters", label: say("mattersForTheShell"), kind: "check" },
    revisions,
  ],
  cables: [
    { path: "id", label: say("id"), kind: "text" },
    { path: "name", label: say("name"), kind: "text" },
    ...place,
    { path: "catch", label: say("catch"), kind: "choice", options: CATCHES },
    { path: "release", label: say("howItLetsGo"), kind: "text" },
    { path: "facing", label: say("facing"), kind: "text" },
    { path: "marker", label: say("marker"), kind: "text", optional: true },
    { path: "colour", label: say("colour"), kind: "text" },
    { path: "opensMm", label: say("halvesPartAtMostMm"), kind: "number", optional: true },
    { path: "endsUnit", label: say("tornItEndsTheUnit"), kind: "check" },
    { path: "leads", label: say("leadsPadColour"), kind: "pairs", optional: true },
    revisions,
  ],
  pieces: [
    { path: "id", label: say("id"), kind: "text" },
    { path: "name", label: say("name"), kind: "text" },
    ...place,
    { path: "kind", label: say("kind"), kind: "choice", options: PIECE_KINDS },
    { path: "sits", label: say("howItSits"), kind: "long" },
    { path: "falls", label: say("fallsOut"), kind: "check" },
    { path: "picture", label: say("pictureFirst"), kind: "check" },
    { path: "washes", label: say("mayBeWashedApart"), kind: "check" },
    revisions,
  ],
  surfaces: [
    { path: "id", label: say("id"), kind: "text" },
    { path: "name", label: say("name"), kind: "text" },
    { path: "material", label: say("material"), kind: "choice", options: MATERIALS },
    { path: "level", label: say("fromLevel1To4"), kind: "number" },
    { path: "after", label: say("reachedAfterStep"), kind: "text", optional: true },
    { path: "piece", label: say("pieceThatComesOffForIt"), kind: "text", optional: true },
    {
      path: "spot",
      label: say("spot"),
      kind: "choice",
      options: ["open", "groove", "raised", "well", "round-button"],
    },
  ],
  solder: [
    { path: "id", label: say("id"), kind: "text" },
    { path: "name", label: say("name"), kind: "text" },
    { path: "slots", label: say("partSlots"), kind: "words" },
    { path: "board", label: say("board"), kind: "text" },
    { path: "celsius", label: say("settingC"), kind: "number" },
    { path: "ceiling", label: say("ceilingC"), kind: "number" },
    { path: "tip", label: say("tip"), kind: "text" },
    { path: "alloy", label: say("alloy"), kind: "text" },
    { path: "flux", label: say("flux"), kind: "text" },
    { path: "holes", label: say("holes"), kind: "number" },
    { path: "holeMm", label: say("boreMm"), kind: "number" },
    { path: "joints", label: say("joints"), kind: "number" },
    { path: "grounded", label: say("onTheGroundPlane"), kind: "number" },
    { path: "shield", label: say("shield"), kind: "words" },
    { path: "strong", label: say("dailyLoad"), kind: "check" },
  ],
};

const at = { x: 40, y: 40 };
export const FRESH: { [L in ListName]: (id: string) => MendGuide[L][number] } = {
  steps: (id) => ({
    id,
    title: say("newStep"),
    does: say("whatIsDoneHere"),
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
    back: { does: say("howItGoesBack"), checks: [], minutes: 2 },
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
    name: say("newClip"),
    pry: say("whereWhichWay"),
    glued: false,
    oftenBreaks: false,
    matters: true,
  }),
  cables: (id) => ({
    id,
    at,
    name: say("newCable"),
    catch: "plug",
    release: say("straightUp"),
    facing: say("contactsToTheBoard"),
    colour: "white",
    endsUnit: false,
  }),
  pieces: (id) => ({
    id,
    at,
    name: say("newPiece"),
    kind: "trim",
    sits: say("howItSits2"),
    falls: false,
    picture: false,
    washes: false,
  }),
  surfaces: (id) => ({ id, name: say("newSurface"), material: "hard-plastic", level: 1, spot: "open" }),
  solder: (id) => ({
    id,
    name: say("newOperation"),
    slots: [],
    board: "main",
    celsius: 340,
    ceiling: 380,
    tip: say("chisel16"),
    alloy: say("tinLead6337"),
    flux: say("noCleanGel"),
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
  enoughToTest: say("whatMustBeBackSoThat"),
};
