import type { Fact, FactOf } from "@/core/case/facts";
import { DISPOSITION_WORDS } from "@/features/decide/words/text";
import { measureName, reasonText } from "@/text/measures";
import { allOf } from "@/text/lists";
import { placeWords } from "@/text/names";
import { codeWords } from "@/words/codes";
import { say } from "./fact-words";
import { ACTION_WORDS, OUTCOME_WORDS, outcomeWords } from "./text";

/** What a fact says, in a line. */

type NameOf = (id: string) => string;

function doorWords(f: FactOf<"intake">): string {
  const signs = [
    ...(f.rattle === "none" ? [] : [say("rattles", { what: codeWords(f.rattle) })]),
    ...(f.smell > 0 ? [say("smells", { level: f.smell })] : []),
    ...(f.grime > 0 ? [say("grimy", { level: f.grime })] : []),
    ...(f.marks.length > 0 ? [say("marked", { count: f.marks.length })] : []),
    ...(f.missing.length > 0 ? [say("missing", { count: f.missing.length })] : []),
  ];
  return say("door", { signs: allOf(signs) || say("nothingToNote") });
}

function measureWords(f: FactOf<"measure">, nameOf: NameOf): string {
  const words =
    f.value === null
      ? `${measureName(f.measure)}: ${codeWords(f.grade)}`
      : reasonText({ measure: f.measure as never, value: f.value, limit: null, grade: f.grade, note: "" });
  return say("measured", { place: nameOf(f.place), words });
}

function functionWords(f: FactOf<"function">, nameOf: NameOf): string {
  if (f.hand === "named") return say("named", { place: nameOf(f.place), words: f.words });
  const answer = () => {
    if (f.pattern) return OUTCOME_WORDS[f.pattern];
    return f.outcome === "intermittent" ? say("comesAndGoes") : codeWords(f.outcome);
  };
  return say("answered", { place: nameOf(f.place), answer: answer() });
}

function readingText(f: FactOf<"reading">, nameOf: NameOf, named: ReadonlySet<string>): string {
  const verdict = codeWords(f.verdict);
  if (f.reading === "point") return say("readAtPoint", { point: nameOf(f.place), verdict });
  const at = named.has(f.place) ? nameOf(f.place) : "";
  const place = [at, f.side ?? ""]
    .filter(Boolean)
    .map((w) => ` ${w}`)
    .join("");
  return say("read", { reading: codeWords(f.reading), place, verdict });
}

function pieceWords(f: FactOf<"piece">, nameOf: NameOf): string {
  const fits = () => {
    if (f.fits === "nothing") return say("fitsNothing");
    return f.fits === "unknown" ? say("fitsUnknown") : say("isFrom", { part: nameOf(f.fits) });
  };
  return say("piece", { number: f.number, what: f.material, fits: fits() });
}

function shareWords(share: number | null): string {
  if (share === null || share === 1) return "";
  return share === 0 ? say("withdrawn") : say("earned", { share: Math.round(share * 100) });
}

function triedWords(f: FactOf<"tried">, nameOf: NameOf): string {
  const part = allOf(f.places.map(nameOf));
  if (f.act === "search") return say("searchEnded", { part });
  const outcome = f.outcome === null ? say("noResultYet") : outcomeWords(f.outcome);
  if (f.number === null)
    return say("checked", { check: `${codeWords(f.act.split(".")[0]!)} ${part}`, outcome });
  const act = (ACTION_WORDS as Partial<Record<string, string>>)[f.act] ?? codeWords(f.act);
  return say("tried", { number: f.number, act, part, outcome, share: shareWords(f.share) });
}

function mendedWords(f: FactOf<"mended">, nameOf: NameOf): string {
  if (f.how === "calibrated") return say("calibrated", { place: f.place === null ? "" : nameOf(f.place) });
  if (f.number === null && f.fitted === null && f.places.length === 0)
    return f.how === "cleaned" ? say("cleaned", { what: f.words }) : say("soldered", { what: f.words });
  const parts =
    f.places.length > 0 ? say("onParts", { how: codeWords(f.how), parts: allOf(f.places.map(nameOf)) }) : "";
  return f.fitted ? say("fitted", { part: f.words, parts }) : say("mended", { words: f.words, parts });
}

/**
 * One fact in words.
 * @param nameOf names parts, controls, functions and points
 * @param named controls and functions, as far as a reading may be at one
 */
export function factWords(f: Fact, nameOf: NameOf, named: ReadonlySet<string>): string {
  switch (f.kind) {
    case "told":
      return say("told", { words: f.words, by: codeWords(f.by) });
    case "mate":
      return say("mateFailed", { place: nameOf(f.place), mate: f.tag }) + (f.words ? `: ${f.words}` : "");
    case "history":
      return say("history", { what: codeWords(f.what), doubt: f.doubt > 0 ? say("readOutOfWords") : "" });
    case "intake":
      return doorWords(f);
    case "measure":
      return measureWords(f, nameOf);
    case "works":
      return say("works", { places: nameOf(f.place) });
    case "function":
      return functionWords(f, nameOf);
    case "reading":
      return readingText(f, nameOf, named);
    case "observed":
      return say("seen", { part: nameOf(f.place), finding: outcomeWords(f.code) });
    case "piece":
      return pieceWords(f, nameOf);
    case "tried":
      return triedWords(f, nameOf);
    case "mended":
      return mendedWords(f, nameOf);
    case "answered":
      return say("customerSaid", { place: placeWords(f.place), answer: f.yes ? say("yes") : say("no") });
    case "decided":
      return say("decided", {
        act: DISPOSITION_WORDS[f.act as keyof typeof DISPOSITION_WORDS] ?? codeWords(f.act),
        why: f.why ? say("because", { why: f.why }) : "",
      });
  }
}
/** Functions that one person answered as good, in one line. */
export const passedWords = (places: readonly string[], nameOf: NameOf): string =>
  say("passed", { places: places.map(nameOf).join(", ") });
/** Controls that one test found good, in one line. */
export const worksWords = (places: readonly string[], nameOf: NameOf): string =>
  say("works", { places: places.map(nameOf).join(", ") });
