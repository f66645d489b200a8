import { render, screen, within } from "@testing-library/react";

import { Kbd } from "./Kbd";
import { Figure, Table } from "./Table";

test("a table is a region that the keyboard reaches, with its heads and rows", () => {
  render(
    <Table label="Rows" heads={["Row", "What"]}>
      <tr>
        <td>2</td>
        <td>
          <Figure big>14.20</Figure>
        </td>
      </tr>
    </Table>,
  );
  const region = screen.getByRole("region", { name: "Rows" });
  expect(region.tabIndex).toBe(0);
  expect(
    within(region)
      .getAllByRole("columnheader")
      .map((h) => h.textContent),
  ).toEqual(["Row", "What"]);
  expect(within(region).getByText("14.20")).toBeTruthy();
});

test("a key is marked as one", () => {
  render(<Kbd>Enter</Kbd>);
  expect(screen.getByText("Enter").tagName).toBe("KBD");
});
