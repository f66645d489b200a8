import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useRouter } from "next/navigation";

import { Problem } from "./Problem";

test("no problem, no alert", () => {
  render(<Problem problem={null} />);
  expect(screen.queryByRole("alert")).toBeNull();
});

test("what somebody else changed meanwhile can be looked at from there", async () => {
  render(<Problem problem={{ code: "changed-meanwhile", by: "oona", at: "2026-11-03T09:30:00Z" }} />);
  expect(screen.getByRole("alert").textContent).toContain("oona");
  await userEvent.click(screen.getByRole("button", { name: "Show the new state" }));
  expect(useRouter().refresh).toHaveBeenCalledTimes(1);
});

test("who is signed out signs in beside it: what was typed stays", () => {
  render(<Problem problem={{ code: "signed-out" }} />);
  const way = screen.getByRole("link", { name: "Sign in" });
  expect([way.getAttribute("href"), way.getAttribute("target")]).toEqual(["/sign-in", "_blank"]);
});
