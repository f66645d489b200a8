import type { ModelProfile } from "@/core/profile/profile";
import { modelMeant, modelProblem } from "./ModelField";

const models = ["Avocet", "Curlew", "Dunlin", "Dunlin Wide", "Knot"].map(
  (name) => ({ id: name.toLowerCase(), name, maker: "Tidewrack" }) as ModelProfile,
);
const meant = (typed: string) => modelMeant(typed, models)?.name ?? null;

test("a whole name is that model, in any case and with stray spaces", () => {
  expect(meant("Dunlin")).toBe("Dunlin");
  expect(meant("  dunlin wide ")).toBe("Dunlin Wide");
  expect(meant("KNOT")).toBe("Knot");
  expect(meant("Tidewrack Dunlin")).toBe("Dunlin");
});
test("words that only one model begins with or holds are that model", () => {
  expect(meant("cur")).toBe("Curlew");
  expect(meant("wide")).toBe("Dunlin Wide");
});
test("nothing is ever chosen for words that fit several or none", () => {
  for (const unclear of ["dun", "", "   ", "u", "gull", "Dunlinx"]) expect(meant(unclear)).toBeNull();
});
test("why it is none is said: which of several, or that there is none of that name", () => {
  expect(modelProblem("dun", models)).toBe("which of them: Dunlin, Dunlin Wide?");
  expect(modelProblem("gull", models)).toBe("no model is called “gull”: choose one");
  expect(modelProblem(" ", models)).toBe("which model is it?");
});
