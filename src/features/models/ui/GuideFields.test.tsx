import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";

import type { Field } from "./guide-fields";
import { FieldInput } from "./GuideFields";

/** One row of a guide as its fields show it: what a line of text says as lists, pairs, figures and nothing. */

let kept: Record<string, unknown> = {};
function Row({ field, start, disabled = false }: { field: Field; start: unknown; disabled?: boolean }) {
  const [row, setRow] = useState<Record<string, unknown>>({ x: start });
  return (
    <FieldInput
      field={field}
      row={row}
      disabled={disabled}
      onChange={(r) => {
        kept = r;
        setRow(r);
      }}
    />
  );
}
const shown = (field: Partial<Field>, start: unknown, disabled = false) =>
  render(
    <Row
      field={{ path: "x", label: "It", kind: "line", ...field } as Field}
      start={start}
      disabled={disabled}
    />,
  );
const retype = async (text: string) => {
  await userEvent.clear(screen.getByRole("textbox"));
  if (text) await userEvent.type(screen.getByRole("textbox"), text);
};

const STARTS = { words: ["old"], pairs: [["1", "old"]], number: 7, line: "old" };
test.each([
  ["words", false, "cap, post ,, ", ["cap", "post"]],
  ["words", false, "", []],
  ["words", true, "", undefined],
  [
    "pairs",
    true,
    "1: red; 2:black; ",
    [
      ["1", "red"],
      ["2", "black"],
    ],
  ],
  ["pairs", true, "", undefined],
  ["number", false, "2,5", 2.5],
  ["number", false, "", 0],
  ["number", true, "", undefined],
  ["line", true, "  ", undefined],
  ["line", false, "by hand", "by hand"],
] as const)("%s (may be left out: %s): %p is kept as %p", async (kind, optional, text, value) => {
  shown({ kind, optional } as Partial<Field>, STARTS[kind]);
  await retype(text);
  expect(kept.x).toEqual(value);
});

test("a list and its pairs are shown as they are typed", () => {
  shown({ kind: "pairs" }, [["1", "red"]]);
  expect(screen.getByRole<HTMLInputElement>("textbox").value).toBe("1: red");
});

test("several of a choice are taken and given back one by one", async () => {
  shown({ kind: "choices", options: ["glue", "blade"] }, ["glue"]);
  const group = screen.getByRole("group", { name: "It" });
  expect(group.querySelectorAll("input:checked")).toHaveLength(1);
  await userEvent.click(screen.getAllByRole("checkbox")[1]!);
  expect(kept.x).toEqual(["glue", "blade"]);
  await userEvent.click(screen.getAllByRole("checkbox")[0]!);
  expect(kept.x).toEqual(["blade"]);
});

test("a yes is a yes, and who may not edit cannot", async () => {
  shown({ kind: "check" }, false);
  await userEvent.click(screen.getByRole("checkbox", { name: "It" }));
  expect(kept.x).toBe(true);
});
test("who may not edit cannot", () => {
  shown({ kind: "words" }, ["cap"], true);
  expect(screen.getByRole<HTMLInputElement>("textbox").disabled).toBe(true);
});
