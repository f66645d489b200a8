"use client";

import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Role } from "@/contract/roles";
import { ROLE_NAMES } from "@/features/case/words/text";
import { Problem } from "@/ui/deed/Problem";
import { Form } from "@/ui/fields/Form";
import { TypedField } from "@/ui/form/TypedField";
import { useDeedForm, useTyped } from "@/ui/form/useDeedForm";
import { say } from "@/features/people/words/words";

export function Account({ name, role }: { name: string; role: Role }) {
  const [again, setAgain] = useState("");
  const [said, setSaid] = useState(false);
  const [tried, setTried] = useState(false);
  const form = useDeedForm("person.change-password", {
    start: { current: "", next: "" },
    rest: () => ({}),
    onDone: () => {
      form.again();
      setAgain("");
      setTried(false);
      setSaid(true);
    },
  });
  const next = useTyped(form, "next");
  const differ = again !== next;
  const told = differ && (again !== "" || tried);
  const send = () => {
    setSaid(false);
    setTried(true);
    if (!differ || next === "") form.send();
  };
  return (
    <Form noValidate onSend={send} sx={{ display: "grid", gap: 1.7, maxWidth: 420 }}>
      <Typography component="h1" variant="h1" sx={{ textTransform: "capitalize" }}>
        {name}, {ROLE_NAMES[role]}
      </Typography>
      <Typography color="text.secondary">{say("aNewPasswordEndsEveryOther")}</Typography>
      <TypedField
        form={form}
        name="current"
        label={say("currentPassword")}
        type="password"
        autoComplete="current-password"
      />
      <TypedField
        form={form}
        name="next"
        label={say("newPasswordAtLeast12Characters")}
        type="password"
        autoComplete="new-password"
      />
      <TextField
        label={say("newPasswordAgain")}
        type="password"
        autoComplete="new-password"
        required
        value={again}
        onChange={(e) => setAgain(e.target.value)}
        error={told}
        helperText={told ? say("theTwoDiffer") : " "}
      />
      <Button type="submit" variant="contained" disabled={form.running}>
        {say("changeThePassword")}
      </Button>
      <Problem problem={form.problem} />
      {said && <Alert severity="success">{say("changedYourOtherSessionsAre")}</Alert>}
    </Form>
  );
}
