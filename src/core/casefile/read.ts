import { found, type Place, placesOf } from "../base/finding";
import { ok, refuse, type Result } from "../base/result";
import { profileSchema } from "../profile/profile";
import { caseFileSchema } from "./format";
import type { CaseWhole } from "./known";

/** Reads a case's file; refusals name the place in it, or in its profile. */
export function readCaseFile(
  text: string,
  /** what lies at a path that the case names as its profile; without it a case has to bring its own */
  profileAt: ((path: string) => string) | null,
): Result<CaseWhole, Place> {
  const json = parsed(text);
  if (json === undefined) return refuse({ path: "", message: found({ rule: "no-json" }) });
  const read = caseFileSchema.safeParse(json);
  if (!read.success) return refuse(placesOf(read.error, 1)[0]!);
  const { profile, ...rest } = read.data;
  if (typeof profile !== "string") return known({ ...rest, profile });
  if (!profileAt) return refuse({ path: "profile", message: found({ rule: "no-form" }) });
  const from = profileSchema.safeParse(parsed(profileAt(profile)));
  if (from.success) return known({ ...rest, profile: from.data });
  const [first] = placesOf(from.error, 1);
  return refuse({ path: `profile.${first!.path}`, message: first!.message });
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return undefined;
  }
}

/** A place that is nothing of the model would be passed over in silence: it is told instead. */
function known(file: CaseWhole): Result<CaseWhole, Place> {
  const at = unknownPlace(file);
  if (!at) return ok(file);
  const message = found({ rule: "not-listed", by: file.profile.id, what: "control", name: at.place });
  return refuse({ path: `facts.${at.index}.place`, message });
}

function unknownPlace({ profile, facts }: CaseWhole): { index: number; place: string } | null {
  const things = new Set<string>([...profile.controls, ...profile.functions].map((t) => t.id));
  for (const [index, f] of facts.entries()) {
    const names = f.kind === "measure" || f.kind === "works" || (f.kind === "function" && f.hand == null);
    if (names && !things.has(f.place)) return { index, place: f.place };
  }
  return null;
}
