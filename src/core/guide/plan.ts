import type { MappedControl } from "../profile/input";
import type { Step } from "../recording/recording";

/** One thing asked of the person; `control` is empty when it is about all of them. */
export type GuideStep = { step: Step; control: string };

type Planned = MappedControl & { rim?: boolean };

/** The full test in an order that lessens handling: hands off, each stick, the triggers, then the buttons. */
export function planFullTest(controls: readonly Planned[]): GuideStep[] {
  const of = (kind: MappedControl["kind"]) => controls.filter((c) => c.kind === kind);
  return [
    { step: "rest", control: "" },
    ...of("stick").flatMap((c): GuideStep[] => (["circle", "sweep", "flick"] as const).map((step) => ({ step, control: c.id }))),
    ...of("trigger").map((c): GuideStep => ({ step: "pull", control: c.id })),
    ...of("button").flatMap((c): GuideStep[] => [
      { step: "press", control: c.id },
      ...(c.rim ? [{ step: "press-edge" as const, control: c.id }] : []),
    ]),
  ];
}
