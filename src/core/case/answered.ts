import { spentTreatments, type Try, TRY_ACTIONS, type TryAction } from "../diagnosis/tries";
import { seenInCase } from "./evidence";
import { type CaseOf, checkOf, type Standing } from "./standing-facts";

/** Which checks of the library the facts of a case have answered, or a try has spent: they need not be proposed. */
export function answeredChecks(standing: readonly Standing[], of: CaseOf): Set<string> {
  const facts = standing.flatMap((s) => (s.ended === null ? [s.fact] : []));
  const answered = facts.flatMap((f) => {
    if (f.kind === "observed") return [`look.${f.place}`];
    if (f.kind === "reading" && f.reading === "point") return [`measure.${f.place}`, `compare.${f.place}`];
    return f.kind === "tried" && checkOf(f, of) ? [f.act] : [];
  });
  const looked = facts.filter(
    (f) => f.kind === "observed" || f.kind === "reading" || (f.kind === "tried" && checkOf(f, of) !== null),
  );
  const spent = spentTreatments(
    standing.flatMap(({ fact }) => tryOf(fact) ?? []),
    looked.map((f) => new Date(f.at)),
  ).flatMap((s) =>
    s.action === "reseat" ? [`reseat.${s.suspect}`] : [`swap-twin.${s.suspect}`, `swap-donor.${s.suspect}`],
  );
  return new Set([...answered, ...seenInCase(standing, of).map((s) => `test.${s.id}`), ...spent]);
}

const isAction = (act: string): act is TryAction => (TRY_ACTIONS as readonly string[]).includes(act);

function tryOf(f: Standing["fact"]): Try | null {
  if (f.kind !== "tried" || f.number === null || !isAction(f.act)) return null;
  const outcomes = ["cured", "better", "same", "worse"] as const;
  return {
    number: f.number,
    suspect: f.places[0] ?? "",
    action: f.act,
    at: new Date(f.at),
    outcome: outcomes.find((o) => o === f.outcome) ?? null,
    undone: f.undone,
  };
}
