import { checkLibrary } from "../diagnosis/checks";
import { graphOf } from "../diagnosis/graph";
import { guideOf } from "../profile/guide";
import { modelOf } from "../../../test/ui/models";
import { cleaningPlan } from "./cleaning";
import { lineUp, type OrderBody } from "./order";
import { type About, pictureOf, planOf } from "./picture";
import { closedUnit } from "./work";

/** The picture of each step: of the right side, with every place that the step is about, and of nothing else. */

const MODELS = ["avocet", "curlew", "dunlin", "knot", "sanderling", "turnstone", "whimbrel"];

function lined(name: string, body: Partial<OrderBody>, looks: { id: string; target: string }[] = []) {
  const profile = modelOf(name);
  const guide = guideOf(profile.guide!, null);
  const order: OrderBody = { targets: [], cleaningLevel: 0, calibrate: [], ...body };
  const line = lineUp(
    guide,
    order,
    closedUnit(guide),
    looks.map((l) => ({ id: l.id, name: l.id, opens: true, minutes: 2, answered: false })),
  );
  const about: About = {
    profile,
    guide,
    targets: order.targets,
    cleaning: cleaningPlan(guide, order.cleaningLevel),
    looks,
  };
  return { profile, guide, about, pictures: line.map((s) => ({ step: s, picture: pictureOf(s, about) })) };
}
const target = (slot: string | null) => ({
  key: 1,
  faultId: null,
  number: null,
  what: "a new one",
  slot,
  route: null,
  minutes: 10,
  waitMinutes: 0,
  tools: [],
  movesOver: [],
});

test("each step of every guide that frees something shows all of it, in its own order and on the plan", () => {
  for (const name of MODELS) {
    const { profile, guide, about } = lined(name, {});
    const { width, height } = planOf(profile, null);
    for (const s of guide.steps) {
      const freed = [
        ...s.frees.fasteners.map((f) => `fastener:${f}`),
        ...s.frees.clips.map((c) => `clip:${c}`),
        ...s.frees.cables.map((c) => `cable:${c}`),
        ...s.frees.pieces.map((p) => `piece:${p}`),
      ];
      const picture = pictureOf({ step: s, items: freed, key: `apart:${s.id}` }, about);
      expect([name, s.id, picture?.items.map((i) => i.id) ?? []]).toEqual([name, s.id, freed]);
      for (const i of picture?.items ?? []) {
        expect(i.at.x > -20 && i.at.x < width + 20 && i.at.y > -20 && i.at.y < height + 20).toBe(true);
        // what is pulled tells which way; what is soldered is not pulled
        if (i.is.kind === "cable") expect([i.id, i.is.way !== null]).toEqual([i.id, !i.is.soldered]);
        if (i.is.kind === "clip") expect([i.id, i.is.way !== null]).toEqual([i.id, true]);
      }
    }
  }
});

test("the fasteners of a shell are seen from the back, and what hides one is told", () => {
  const { pictures } = lined("dunlin", { targets: [target("module.left")] });
  const shell = pictures.find((p) => p.step.key === "apart:shell.fasteners")!.picture!;
  expect(shell.side).toBe("back");
  const hidden = shell.items.filter((i) => i.is.kind === "fastener" && i.is.under !== null);
  expect(hidden.map((i) => i.id)).toEqual(["fastener:back.hidden"]);
  const flexes = pictures.find((p) => p.step.key === "apart:flexes")!.picture!;
  expect(flexes.side).toBe("inside");
  expect(flexes.items.map((i) => i.is.kind === "cable" && i.is.endsUnit)).toEqual([true, false, false]);
});

test("a mend shows the control that its part serves; a test shows nothing", () => {
  const { pictures } = lined("dunlin", { targets: [target("module.left")] });
  const mend = pictures.find((p) => p.step.key === "mend:1")!;
  expect(mend.picture).toMatchObject({ places: expect.arrayContaining(["stick.left"]), board: null });
  const tests = pictures.filter((p) => p.step.phase === "gate");
  expect(tests.length).toBeGreaterThan(0);
  expect(tests.every((p) => p.picture === null)).toBe(true);
});

test("a check shows its part on the board that it sits on, and only that one as the one", () => {
  const profile = modelOf("dunlin");
  const wiring = profile.wiring!;
  const library = checkLibrary(graphOf(wiring, null), wiring, { references: false });
  const onBoard = library.filter(
    (c) => c.kind === "look" && wiring.nodes.some((n) => n.id === c.target && n.board && n.at),
  );
  expect(onBoard.length).toBeGreaterThan(3);
  const looks = onBoard.slice(0, 4).map((c) => ({ id: c.id, target: c.target }));
  const { pictures } = lined("dunlin", { targets: [target("module.left")] }, looks);
  for (const l of looks) {
    const { picture } = pictures.find((p) => p.step.key === `look:${l.id}`)!;
    expect(picture!.board!.parts.filter((p) => p.isIt).map((p) => p.id)).toEqual([l.target]);
  }
});
