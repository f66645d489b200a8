"use client";

import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Role } from "@/contract/deeds";
import { ROLE_NAMES } from "@/text/words";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { say } from "@/words/people";

export function Account({ name, role }: { name: string; role: Role }) {
  const deed = useDeed("person.change-password");
  const [v, setV] = useState({ current: "", next: "", again: "" });
  const [said, setSaid] = useState(false);
  const differ = v.again !== "" && v.again !== v.next;
  const save = async () => {
    if (differ) return;
    const done = await deed.run({ current: v.current, next: v.next });
    setSaid(done?.ok === true);
    if (done?.ok) setV({ current: "", next: "", again: "" });
  };
  return (
    <Form onSend={save} sx={{ display: "grid", gap: 1.7, maxWidth: 420 }}>
      <Typography component="h1" variant="h1" sx={{ textTransform: "capitalize" }}>
        {name}, {ROLE_NAMES[role]}
      </Typography>
      <Typography color="text.secondary">{say("aNewPasswordEndsEveryOther")}</Typography>
      <TextField
        label={say("currentPassword")}
        type="password"
        autoComplete="current-password"
        required
        value={v.current}
        onChange={(e) => setV({ ...v, current: e.target.value })}
      />
      <TextField
        label={say("newPasswordAtLeast12Characters")}
        type="password"
        autoComplete="new-password"
        required
        value={v.next}
        onChange={(e) => setV({ ...v, next: e.target.value })}
        slotProps={{ htmlInput: { minLength: 12 } }}
      />
      <TextField
        label={say("newPasswordAgain")}
        type="password"
        autoComplete="new-password"
        required
        value={v.again}
        onChange={(e) => setV({ ...v, again: e.target.value })}
        error={differ}
        helperText={differ ? say("theTwoDiffer") : " "}
      />
      <Button type="submit" variant="contained" disabled={deed.running}>
        {say("changeThePassword")}
      </Button>
      <Problem problem={deed.problem} />
      {said && <Alert severity="success">{say("changedYourOtherSessionsAre")}</Alert>}
    </Form>
  );
}
