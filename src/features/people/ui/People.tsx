"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { type Role, ROLES } from "@/contract/roles";
import type { Person } from "@/features/people/deeds";
import { ROLE_NAMES } from "@/features/case/words/text";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { TypedField } from "@/ui/form/TypedField";
import { useDeedForm } from "@/ui/form/useDeedForm";
import { say } from "@/features/people/words/words";
import { Text } from "@/ui/kit/layout";

const roles = ROLES.map((r) => (
  <MenuItem key={r} value={r}>
    {ROLE_NAMES[r]}
  </MenuItem>
));

/** Who works here; for leads. */
export function People({ people }: { people: Person[] }) {
  const change = useDeed("person.change");
  const [role, setRole] = useState<Role>("technician");
  const form = useDeedForm("person.add", {
    start: { name: "", password: "" },
    rest: () => ({ role }),
    onDone: () => {
      form.again();
      setRole("technician");
    },
  });
  return (
    <Box sx={{ maxWidth: 820 }}>
      <Text component="h1" variant="h1" after={1.5}>
        {say("people")}
      </Text>
      {people.map((p) => (
        <Box
          key={p.id}
          sx={{
            display: "grid",
            gridTemplateColumns: { xs: "minmax(0,1fr) minmax(0,1fr)", sm: "1fr 170px 170px" },
            gap: 2,
            alignItems: "center",
            py: 0.8,
            borderTop: 1,
            borderColor: "divider",
          }}
        >
          <Box sx={{ fontWeight: 700, textTransform: "capitalize" }}>
            {p.name} {!p.active && say("cannotSignIn")}
          </Box>
          <TextField
            select
            label={say("role")}
            value={p.role}
            onChange={(e) =>
              void change.run({ personId: p.id, role: e.target.value as Role, active: p.active })
            }
          >
            {roles}
          </TextField>
          <Button onClick={() => void change.run({ personId: p.id, role: p.role, active: !p.active })}>
            {p.active ? say("stopSignIn") : say("allowSignIn")}
          </Button>
        </Box>
      ))}
      <Problem problem={change.problem} />
      <Text component="h2" variant="h2" before={3} after={1}>
        {say("addSomebody")}
      </Text>
      <Form
        noValidate
        onSend={form.send}
        sx={{ display: "grid", gridTemplateColumns: { sm: "1fr 170px 1fr auto" }, gap: 1.5 }}
      >
        <TypedField form={form} name="name" label={say("name")} />
        <TextField select label={say("role")} value={role} onChange={(e) => setRole(e.target.value as Role)}>
          {roles}
        </TextField>
        <TypedField
          form={form}
          name="password"
          label={say("firstPassword")}
          type="password"
          autoComplete="new-password"
        />
        <Button type="submit" variant="contained" disabled={form.running}>
          {say("add")}
        </Button>
      </Form>
      <Problem problem={form.problem} />
    </Box>
  );
}
