import { render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";

import { BoundField } from "./BoundField";
import { TypedField } from "./TypedField";
import { useDeedForm } from "./useDeedForm";
import { Problem } from "@/ui/deed/Problem";
import { Form } from "@/ui/fields/Form";
import { MadeUpServer } from "../../../test/ui/server";

/**
 * A form of a deed on a made-up page: what it says before anything is sent, and what it does with each kind
 * of answer.
 */

function LotForm({ onDone = () => {} }: { onDone?: () => void }) {
  const form = useDeedForm("lot.add", {
    start: { code: "", seller: "", priceMinor: "", carriageMinor: "", unitsPromised: "" },
    rest: () => ({}),
    emptyIs: { carriageMinor: 0 },
    onDone,
  });
  return (
    <Form noValidate onSend={form.send}>
      <TypedField form={form} name="code" label="Code" />
      <TypedField form={form} name="seller" label="Seller" />
      <TypedField form={form} name="priceMinor" label="Price" unit="EUR" />
      <TypedField form={form} name="carriageMinor" label="Carriage" unit="EUR" />
      <TypedField form={form} name="unitsPromised" label="Units" />
      <button type="submit" disabled={form.running}>
        Note it
      </button>
      <Problem problem={form.problem} />
    </Form>
  );
}
const field = (name: RegExp) => screen.getByRole<HTMLInputElement>("textbox", { name });
const send = () => userEvent.click(screen.getByRole("button", { name: "Note it" }));
const fill = async () => {
  await userEvent.type(field(/Code/), "L-77");
  await userEvent.type(field(/Seller/), "Quay Lots");
  await userEvent.type(field(/Price/), "120,50");
  await userEvent.type(field(/Units/), "12");
};

test("sent empty: each field that is needed says so, nothing leaves the page", async () => {
  const server = new MadeUpServer();
  render(<LotForm />);
  await send();
  expect(screen.getAllByText("write something here")).toHaveLength(2);
  expect(field(/Code/).getAttribute("aria-invalid")).toBe("true");
  expect(field(/Code/).required).toBe(true);
  expect(field(/Carriage/).required).toBe(false);
  expect(server.asked).toEqual([]);
});

test("digits that cannot be read are told while they are typed, and the keys fit the field", async () => {
  new MadeUpServer();
  render(<LotForm />);
  await userEvent.type(field(/Price/), "12.345");
  expect(screen.getByText("an amount such as 12.50")).toBeTruthy();
  expect(field(/Price/).inputMode).toBe("decimal");
  expect(field(/Units/).inputMode).toBe("numeric");
  await userEvent.clear(field(/Price/));
  expect(screen.queryByText("an amount such as 12.50")).toBeNull();
});

test("more than fits cannot be typed", async () => {
  new MadeUpServer();
  render(<LotForm />);
  const most = field(/Code/).maxLength;
  expect(most).toBeGreaterThan(0);
  await userEvent.type(field(/Code/), "x".repeat(most + 5));
  expect(field(/Code/).value).toHaveLength(most);
});

test("what fits goes out as its deed wants it, once, and the button waits for the answer", async () => {
  const server = new MadeUpServer();
  const done = jest.fn();
  render(<LotForm onDone={done} />);
  await fill();
  await send();
  const button = screen.getByRole<HTMLButtonElement>("button", { name: "Note it" });
  await waitFor(() => expect(button.disabled).toBe(true));
  expect(server.asked).toMatchObject([
    {
      deed: "lot.add",
      input: { code: "L-77", seller: "Quay Lots", priceMinor: 12050, carriageMinor: 0, unitsPromised: 12 },
    },
  ]);
  expect(done).not.toHaveBeenCalled();
  await server.answer({ ok: true, value: { id: "x" } });
  expect(done).toHaveBeenCalledTimes(1);
  expect(button.disabled).toBe(false);
});

test("what the server refuses of a field stands at the field, and what was typed stays", async () => {
  const server = new MadeUpServer();
  render(<LotForm />);
  await fill();
  await send();
  await waitFor(() => expect(server.asked).toHaveLength(1));
  const message = JSON.stringify({ rule: "too-large", most: 5, below: false });
  await server.answer({
    ok: false,
    problem: { code: "bad-input", issues: [{ path: "unitsPromised", message }] },
  });
  expect(await screen.findByText("too large: at most 5")).toBeTruthy();
  expect(screen.getByRole("alert").textContent).toContain("Units promised: too large: at most 5");
  expect(field(/Units/).value).toBe("12");
  expect(field(/Seller/).value).toBe("Quay Lots");
});

test("a taken name is told in words; the next try takes the words away", async () => {
  const server = new MadeUpServer();
  render(<LotForm />);
  await fill();
  await send();
  await waitFor(() => expect(server.asked).toHaveLength(1));
  await server.answer({ ok: false, problem: { code: "name-taken", name: "L-77" } });
  expect(screen.getByRole("alert").textContent).toContain("L-77");
  await userEvent.type(field(/Code/), "8");
  await send();
  await waitFor(() => expect(server.asked).toHaveLength(2));
  expect(screen.queryByRole("alert")).toBeNull();
  await server.answer({ ok: true, value: { id: "x" } });
});

function Days() {
  const [text, setText] = useState("");
  return (
    <BoundField
      deed="settings.save"
      name="settings.idleHours"
      label="Hours"
      value={text}
      onChange={setText}
      helperText="until sign-out"
    />
  );
}
test("a single field says what its schema says, and what it is for while it is empty", async () => {
  render(<Days />);
  expect(screen.getByText("until sign-out")).toBeTruthy();
  await userEvent.type(field(/Hours/), "400");
  expect(screen.getByText("too large: at most 336")).toBeTruthy();
  await userEvent.clear(field(/Hours/));
  await userEvent.type(field(/Hours/), "12");
  expect(screen.getByText("until sign-out")).toBeTruthy();
  expect(field(/Hours/).getAttribute("aria-invalid")).toBe("false");
});
