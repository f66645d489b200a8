"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import type { DayView, PlanTask } from "@/features/day/deeds";
import { say } from "@/features/day/words/words";
import { placedWhy } from "@/features/mend/words/text";
import { clockOf } from "@/text/format";
import type { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { codeWords } from "@/words/codes";
import { Row } from "@/ui/kit/layout";

type PanelProps = {
  task: PlanTask;
  view: DayView;
  shop: Settings;
  canWork: boolean;
  pin: ReturnType<typeof useDeed<"plan.pin">>;
  unpin: ReturnType<typeof useDeed<"plan.unpin">>;
  onClose: () => void;
};

/** What Panel knows and does; the components below only show it. */
function usePanel({ task, view, shop, canWork, pin, unpin, onClose }: PanelProps) {
  const [person, setPerson] = useState(task.person ?? view.people[0]?.id ?? "");
  const [inMinutes, setInMinutes] = useState(String(task.start));
  const start = Number(inMinutes);
  return {
    task,
    view,
    shop,
    canWork,
    pin,
    unpin,
    onClose,
    person,
    setPerson,
    inMinutes,
    setInMinutes,
    start,
  };
}

type PanelState = ReturnType<typeof usePanel>;

export function Panel(props: PanelProps) {
  const s = usePanel(props);

  return (
    <Box
      component="section"
      aria-label={say("theTask")}
      sx={{ border: 1, borderColor: "divider", borderRadius: 1, bgcolor: "background.paper", p: 2 }}
    >
      <TaskTimes {...s} />
      <PinTask {...s} />
    </Box>
  );
}

function TaskTimes({ task, shop, view }: PanelState) {
  return (
    <Row gap={2} at="baseline">
      <Typography component="h2" variant="h2">
        {task.title}
      </Typography>
      <Link href={task.href}>
        {task.tag} {task.model}
      </Link>
      <span>
        {say("startAtToEndAtMinutesMin", {
          startAt: clockOf(task.startAt, shop),
          endAt: clockOf(task.endAt, shop),
          minutes: task.minutes,
        })}
        {task.setup > 0 && say("andSetupMinSetUp", { setup: task.setup })}
        {say("skillSkill", { skill: task.skill })}
        {task.station && `; ${codeWords(view.stations.find((s) => s.id === task.station)?.name ?? "")}`}
      </span>
      <span>
        {say("whyThere")} <b>{placedWhy(task, task.opensWait, task.late)}</b>
      </span>
    </Row>
  );
}

function PinTask({
  canWork,
  task,
  pin,
  person,
  view,
  start,
  setPerson,
  inMinutes,
  setInMinutes,
  unpin,
  onClose,
}: PanelState) {
  return (
    canWork &&
    task.kind === "work" && (
      <Form
        aria-label={say("pinTheTask")}
        onSend={() =>
          void pin.run({
            task: task.task,
            personId: person,
            startAt: new Date(Date.parse(view.from) + start * 60_000).toISOString(),
          })
        }
        sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 1.5, alignItems: "center" }}
      >
        <NativeSelect
          label={say("person")}
          value={person}
          onChange={(e) => setPerson(e.target.value)}
          sx={{ width: 160 }}
        >
          {view.people.map((w) => (
            <option key={w.id} value={w.id} disabled={w.skill < task.skill}>
              {w.name}
            </option>
          ))}
        </NativeSelect>
        <TextField
          label={say("minutesFromNow")}
          value={inMinutes}
          onChange={(e) => setInMinutes(e.target.value.replace(/\D/g, ""))}
          sx={{ width: 150 }}
          slotProps={{ htmlInput: { inputMode: "numeric" } }}
        />
        <Button type="submit" variant="contained" disabled={pin.running || inMinutes === ""}>
          {say("pinItThere")}
        </Button>
        {task.pinned && (
          <Button disabled={unpin.running} onClick={() => void unpin.run({ task: task.task })}>
            {say("letItGo")}
          </Button>
        )}
        <Button color="inherit" onClick={onClose}>
          {say("close")}
        </Button>
      </Form>
    )
  );
}
