import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";

import { pictureOf, planOf } from "@/core/mend/picture";
import { closedUnit, itemsOf } from "@/core/mend/work";
import { guideOf } from "@/core/profile/guide";
import { modelOf } from "../../../../test/ui/models";
import { StepPicture } from "./StepPicture";

/** The picture of a step as a technician has it before them: what is where, how it lets go, and what it says aloud. */

const profile = modelOf("dunlin");
const guide = guideOf(profile.guide!, null);
const plan = planOf(profile, null);

function shown(step: string, out: readonly string[] = []) {
  const s = guide.steps.find((x) => x.id === step)!;
  const items = itemsOf(s);
  const picture = pictureOf(
    { key: `apart:${step}`, step: s, items },
    { profile, guide, targets: [], cleaning: [], looks: [] },
  )!;
  const now = [...closedUnit(guide).items.values()]
    .filter((i) => items.includes(i.id))
    .map((i) => (out.includes(i.id) ? { ...i, state: "out" as const } : i));
  return render(
    <StepPicture
      picture={picture}
      plan={plan}
      guide={guide}
      items={now}
      hazards={s.hazards}
      title={s.title}
    />,
  );
}
const placeOf = (container: HTMLElement, word: string) =>
  Number([...container.querySelectorAll("text")].find((t) => t.textContent === word)!.getAttribute("x"));

test("it says in words what it shows: each by its number, which way it lets go, and what it hides under", () => {
  shown("flexes");
  const words = screen.getByRole("img").getAttribute("aria-label")!;
  expect(words).toMatch(/Free the three flexes, drawn: 1 pad flex lets go to the lower edge/);
  expect(words).toMatch(/2 light flex lets go straight up/);
});

test("the hidden fastener says what it hides under, and each has its length beside it", () => {
  const { container } = shown("shell.fasteners");
  expect(screen.getByRole("img").getAttribute("aria-label")).toMatch(/under .*label/);
  const lengths = guide.fasteners.filter((f) => f.id.startsWith("back.")).map((f) => String(f.lengthMm));
  const texts = [...container.querySelectorAll("text")].map((t) => t.textContent);
  for (const l of lengths) expect(texts).toContain(l);
});

test("the back lies mirrored, as in the hand, and is turned over by a press", async () => {
  const { container } = shown("shell.fasteners");
  expect(screen.getByText(/Turned over, as the hand holds it/)).toBeTruthy();
  const back = placeOf(container, "2");
  await userEvent.click(screen.getByRole("button", { name: "Turn it over" }));
  expect(screen.getByText("Seen from the front")).toBeTruthy();
  expect(placeOf(container, "2")).toBeCloseTo(plan.width - back, 5);
});

test("what is out is drawn apart from what is in", () => {
  const dashed = (c: HTMLElement) => c.querySelectorAll("circle[stroke-dasharray]").length;
  const before = dashed(shown("shell.fasteners").container);
  expect(dashed(shown("shell.fasteners", ["fastener:back.nw", "fastener:back.ne"]).container)).toBe(
    before + 2,
  );
});

test("what can hurt stands beside the place", () => {
  const { container } = shown("flexes");
  expect([...container.querySelectorAll("text")].map((t) => t.textContent)).toContain("static");
});
