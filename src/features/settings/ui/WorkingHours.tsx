"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { type Hours, hoursSchema } from "@/contract/day";
import type { WorkingPerson } from "@/features/day/deeds";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { say } from "@/features/people/words/words";
import { Block, Text } from "@/ui/kit/layout";

const DAYS = [say("mon"), say("tue"), say("wed"), say("thu"), say("fri"), say("sat"), say("sun")];
const clock = (m: number) =>
  `${String(Math.floor(m / 60)).padStart(2, "0")}:${String(m % 60).padStart(2, "0")}`;
const toText = (day: Hours[number]) => day.map(([a, b]) => `${clock(a)}-${clock(b)}`).join(", ");

/** "09:00-13:00, 13:30-17:30" as minutes of the day; null when it cannot be read. */
function toMinutes(text: string): Hours[number] | null {
  const spans: Hours[number] = [];
  for (const part of text.split(",").map((t) => t.trim())) {
    if (part === "") continue;
    const found = /^(\d{1,2}):(\d{2})\s*-\s*(\d{1,2}):(\d{2})$/.exec(part);
    if (!found) return null;
    spans.push([Number(found[1]) * 60 + Number(found[2]), Number(found[3]) * 60 + Number(found[4])]);
  }
  return spans;
}

/** Skill and hours of each person: what the day's plan counts on. */
export function WorkingHours({ people }: { people: (WorkingPerson & { name: string })[] }) {
  return (
    <Block before={4}>
      <Text component="h2" variant="h2" after={1}>
        {say("skillAndHoursForTheDay")}
      </Text>
      {people.map((p) => (
        <OnePerson key={p.id} person={p} />
      ))}
    </Block>
  );
}

function OnePerson({ person }: { person: WorkingPerson & { name: string } }) {
  const save = useDeed("person.set-hours");
  const [skill, setSkill] = useState(String(person.skill));
  const [days, setDays] = useState(person.hours.map(toText));
  const parsed = days.map(toMinutes);
  const hours = hoursSchema.safeParse(parsed);
  return (
    <Form
      aria-label={say("hoursOfPerson", { person: person.name })}
      onSend={() => {
        if (hours.success) void save.run({ personId: person.id, skill: Number(skill), hours: hours.data });
      }}
      sx={{
        display: "grid",
        gap: 1,
        gridTemplateColumns: { xs: "1fr 1fr", md: "110px 90px repeat(7, minmax(0,1fr)) 80px" },
        alignItems: "start",
        py: 1,
        borderTop: 1,
        borderColor: "divider",
      }}
    >
      <Box sx={{ fontWeight: 700, textTransform: "capitalize", pt: 1 }}>{person.name}</Box>
      <NativeSelect label={say("skill")} value={skill} onChange={(e) => setSkill(e.target.value)}>
        {[1, 2, 3, 4].map((s) => (
          <option key={s}>{s}</option>
        ))}
      </NativeSelect>
      {DAYS.map((d, i) => (
        <TextField
          key={d}
          label={d}
          value={days[i]}
          onChange={(e) => setDays(days.map((x, k) => (k === i ? e.target.value : x)))}
          error={parsed[i] === null || (parsed[i] ?? []).some(([a, b]) => a >= b || b > 1440)}
          multiline
        />
      ))}
      <Button type="submit" disabled={save.running || !hours.success}>
        {say("save")}
      </Button>
      <Block full>
        {!hours.success && <Box sx={{ color: "error.main" }}>{say("writeHoursSuchAs0900")}</Box>}
        <Problem problem={save.problem} />
      </Block>
    </Form>
  );
}
