import { modelOf } from "../../../test/ui/models";
import { hostOf, prepareFor } from "./prepare";

const codes = (model: string) => prepareFor(modelOf(model), null).map((p) => p.code);

test("a wireless pad with a cell is charged and its bond cleared, a corded one wants neither", () => {
  expect(codes("dunlin")).toEqual(expect.arrayContaining(["charged", "bond", "cable"]));
  expect(codes("curlew")).not.toContain("bond");
  expect(codes("curlew")).not.toContain("charged");
});

test("loose cells are counted, a headset and a quiet room asked for where there is something to hear", () => {
  const turnstone = prepareFor(modelOf("turnstone"), null);
  const cells = modelOf("turnstone").power.reduce((sum, p) => sum + p.cells, 0);
  expect(turnstone).toContainEqual({ code: "fresh-cells", cells });
  expect(codes("whimbrel")).toEqual(expect.arrayContaining(["headset", "quiet"]));
});

test("every shipped model with a radio says how its bond is cleared", () => {
  for (const model of ["avocet", "dunlin", "knot", "sanderling", "turnstone"]) {
    const bond = prepareFor(modelOf(model), null).find((p) => p.code === "bond");
    expect(bond).toMatchObject({ steps: expect.stringMatching(/\w{4,}/) as unknown });
  }
});

test("units follow each other on one host where the table wants the same, whatever their own power and bond", () => {
  const host = (model: string) => hostOf(modelOf(model), null);
  expect(host("dunlin")).toContain("cable");
  expect(host("dunlin")).not.toBe(host("whimbrel"));
  // what differs is the unit's own: its bond and its cell are no matter of the host
  const other = {
    ...modelOf("dunlin"),
    prepare: { bond: "Another way." },
    power: modelOf("turnstone").power,
  };
  expect(hostOf(other, null)).toBe(host("dunlin"));
  // a driver of its own is one
  expect(hostOf({ ...other, prepare: { drivers: "Its own driver." } }, null)).not.toBe(host("dunlin"));
});
