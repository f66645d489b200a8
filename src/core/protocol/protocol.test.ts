import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import { functionsOf, type ModelProfile, profileSchema } from "../profile/profile";
import { expectedMinutes, FOUR_LINKS, functionsOfLink, GROUPS, protocolOf } from "./protocol";
import { nextStep, type ProtocolFacts, stateOfStep } from "./progress";

const folder = join(__dirname, "../../../profiles");
const profiles: ModelProfile[] = readdirSync(folder).map((f) =>
  profileSchema.parse(JSON.parse(readFileSync(join(folder, f), "utf8"))),
);
const NOTHING: ProtocolFacts = { checks: [], readings: [], recordings: [], since: null };

describe.each(profiles.map((p) => [p.name, p] as const))("%s", (_, profile) => {
  const revision = profile.revisions[0]!.id;
  const steps = protocolOf(profile, revision, "full");

  test("every function of the revision has one step, and the controls one", () => {
    const answered = steps.flatMap((s) => (s.functionId ? [s.functionId] : []));
    expect([...answered].sort()).toEqual(
      functionsOf(profile, revision)
        .map((f) => f.id)
        .sort(),
    );
    expect(steps.filter((s) => s.method === "guided")).toHaveLength(1);
    expect(new Set(steps.map((s) => s.id)).size).toBe(steps.length);
  });

  test("power and links come first, then what needs no host, then the host, and nothing goes back", () => {
    const order = steps.map((s) => GROUPS.indexOf(s.group));
    expect(order).toEqual([...order].sort((a, b) => a - b));
    expect(steps[0]!.method).toBe("supply");
  });

  test("triage is shorter and ends with a quick look", () => {
    const triage = protocolOf(profile, revision, "triage");
    expect(triage.length).toBeLessThan(steps.length);
    expect(triage.at(-1)!.method).toBe("quick");
  });

  test("what was not done is not tested", () => {
    for (const s of steps) expect(stateOfStep(s, NOTHING)).toBe("not-tested");
    expect(nextStep(steps, NOTHING)).toBe(steps[0]);
  });
});

test("a model without a part shows it as not fitted, not as passed", () => {
  const corded = profiles.find((p) => p.id === "whimbrel")!;
  expect(functionsOfLink("radio", corded.functions)).toEqual([]);
  expect(FOUR_LINKS.map((l) => functionsOfLink(l, corded.functions).length)).toEqual([0, 0, 1, 0]);
});

test("a proof takes only what is later than the last mend", () => {
  const dunlin = profiles.find((p) => p.id === "dunlin")!;
  const steps = protocolOf(dunlin, "r1", "proof");
  const facts = (since: string | null): ProtocolFacts => ({
    checks: [{ functionId: "radio", result: "pass", at: "2026-01-02T10:00:00Z" }],
    readings: [{ kind: "supply", subject: "main", result: { verdict: "pass" }, at: "2026-01-02T10:00:00Z" }],
    recordings: [{ purpose: "full", grade: "A", startedAt: "2026-01-02T10:00:00Z" }],
    since,
  });
  const of = (method: string, subject: string) =>
    steps.find((s) => s.method === method && s.subject === subject)!;
  const three = [of("link-watch", "radio"), of("supply", "main"), of("guided", "controls")];
  expect(three.map((s) => stateOfStep(s, facts(null)))).toEqual(["pass", "pass", "pass"]);
  expect(three.map((s) => stateOfStep(s, facts("2026-01-03T10:00:00Z")))).toEqual([
    "not-tested",
    "not-tested",
    "not-tested",
  ]);
});

test("minutes begin as a guess and move to the shop's own", () => {
  expect(expectedMinutes("supply", null, 0)).toEqual({ expected: 1, cases: 0 });
  expect(expectedMinutes("supply", 2, 3)).toEqual({ expected: 1.5, cases: 3 });
  expect(expectedMinutes("supply", 2, 3000).expected).toBeCloseTo(2, 2);
});
