"use client";

import {
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { type ReactNode, useState } from "react";

import type { Settings } from "@/contract/deeds";
import type { DayView, PlanTask } from "@/features/day/deeds";
import { clockOf, dayAndTime, hoursText } from "@/text/format";
import { placedWhy } from "@/features/mend/words/text";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { BigFigure } from "@/features/units/ui/unit/Station";
import { minuteOf, type Segment, segmentsOf, widthOf, xOf } from "./axis";
import { codeWords } from "@/words/codes";
import { say } from "@/features/day/words/words";

const HORIZON = 2 * 1440; // minutes that are drawn
const HEAD = 116;

type DayPlanProps = {
  view: DayView;
  me: string;
  shop: Settings;
  canWork: boolean;
};

/** What happens at it: state, deeds and keys of DayPlan. */
function useDayPlan({ view, me, shop, canWork }: DayPlanProps) {
  const pin = useDeed("plan.pin");
  const unpin = useDeed("plan.unpin");
  const [picked, setPicked] = useState<string | null>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const segments = segmentsOf(
    view.people.flatMap((w) => w.windows),
    HORIZON,
  );
  const shown = view.tasks.filter((t) => t.start < (segments.at(-1)?.to ?? 0));
  const task = view.tasks.find((t) => t.task === picked);
  const next = view.tasks.find((t) => t.person === me);
  const moment = (minute: number) => new Date(Date.parse(view.from) + minute * 60_000).toISOString();
  const clock = (minute: number) => clockOf(moment(minute), shop);
  const drop = (e: DragEndEvent) => {
    const moved = view.tasks.find((t) => t.task === e.active.id);
    if (!moved || !e.over) return;
    const start = minuteOf(segments, Math.max(0, xOf(segments, moved.start) + e.delta.x));
    setPicked(moved.task);
    void pin.run({ task: moved.task, personId: String(e.over.id), startAt: moment(start) });
  };
  return {
    view,
    me,
    shop,
    canWork,
    pin,
    unpin,
    picked,
    setPicked,
    sensors,
    segments,
    shown,
    task,
    next,
    moment,
    clock,
    drop,
  };
}
type DayPlanState = ReturnType<typeof useDayPlan>;

/** The day in lanes: by person and by station. A task is pinned by dragging it, or in its panel; the rest plans itself anew. */
export function DayPlan(props: DayPlanProps) {
  const s = useDayPlan(props);
  const { pin, unpin, segments } = s;

  return (
    <Box sx={{ display: "grid", gap: 2, gridTemplateColumns: "minmax(0,1fr)" }}>
      <DayHead {...s} />
      {/* the task takes the place of the figures, so that the lanes stay where they are under the hand */}
      <TaskPanel {...s} />
      <Problem problem={pin.problem ?? unpin.problem} />
      {segments.length === 0 && (
        <Alert severity="info" role="note">
          {say("nobodyHasWorkingHoursInThe")}
        </Alert>
      )}
      <Lanes {...s} />
      <InWords {...s} />
    </Box>
  );
}

function DayHead({ next }: DayPlanState) {
  return (
    <Box sx={{ display: "flex", gap: 3, alignItems: "center", flexWrap: "wrap" }}>
      <Typography component="h1" variant="h1">
        {say("theDay")}
      </Typography>
      {next ? (
        <Button
          component={Link}
          href={next.href}
          variant="contained"
          size="large"
          sx={{ whiteSpace: "normal" }}
        >
          {say("nextForMeTitleTag", { title: next.title, tag: next.tag })}
        </Button>
      ) : (
        <Typography color="text.secondary">{say("thePlanHasNothingForYou")}</Typography>
      )}
    </Box>
  );
}

function TaskPanel({ task, view, shop, canWork, pin, unpin, setPicked, moment }: DayPlanState) {
  return (
    <Box sx={{ minHeight: { md: 132 } }}>
      {task ? (
        <Panel
          key={`${task.task} ${task.start}`}
          task={task}
          view={view}
          shop={shop}
          canWork={canWork}
          pin={pin}
          unpin={unpin}
          onClose={() => setPicked(null)}
        />
      ) : (
        <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr 1fr", md: "repeat(4, 1fr)" }, gap: 2 }}>
          <BigFigure
            value={dayAndTime(moment(view.makespan), shop)}
            label={say("allDone")}
            detail={say("makespanOnTheClockNoPlan", {
              makespan: hoursText(view.makespan),
              makespan2: dayAndTime(moment(view.bound.makespan), shop),
            })}
          />
          <BigFigure
            value={dayAndTime(moment(view.firstCome.makespan), shop)}
            label={say("firstComeFirstServed")}
            detail={say("eachFreePersonTakesTheOldest")}
          />
          <BigFigure
            value={view.worstLate === 0 ? say("noneLate") : hoursText(view.worstLate)}
            label={say("worstLateness")}
            detail={say("atLeastWorstLateFirstComeWorstLate2", {
              worstLate: view.bound.worstLate === 0 ? say("none") : hoursText(view.bound.worstLate),
              worstLate2: view.firstCome.worstLate === 0 ? say("none") : hoursText(view.firstCome.worstLate),
            })}
          />
          <BigFigure
            value={view.tasks.filter((t) => t.kind === "work").length}
            label={say("tasks")}
            detail={say("evaluationsSchedulesTriedPins", {
              evaluations: view.evaluations,
              pins: view.pins.length,
            })}
          />
        </Box>
      )}
    </Box>
  );
}

function Lanes({
  sensors,
  drop,
  segments,
  clock,
  view,
  me,
  shown,
  picked,
  setPicked,
  canWork,
}: DayPlanState) {
  return (
    <DndContext
      sensors={sensors}
      onDragEnd={drop}
      accessibility={{ screenReaderInstructions: { draggable: say("openTheTaskToPinIt") } }}
    >
      <Box
        sx={{
          overflowX: "auto",
          border: 1,
          borderColor: "divider",
          borderRadius: 1,
          bgcolor: "background.paper",
        }}
        tabIndex={0}
        role="region"
        aria-label={say("lanesOfThePlan")}
      >
        <Box sx={{ width: HEAD + widthOf(segments) + 24, minWidth: "100%" }}>
          <Hours segments={segments} clock={clock} past={new Date(view.from).getUTCMinutes()} />
          {view.people.map((w) => (
            <PersonLane key={w.id} id={w.id} name={w.name} mine={w.id === me}>
              {shown
                .filter((t) => t.person === w.id)
                .map((t) => (
                  <Block
                    key={t.task}
                    task={t}
                    segments={segments}
                    picked={picked === t.task}
                    onPick={() => setPicked(t.task)}
                    canDrag={canWork}
                  />
                ))}
            </PersonLane>
          ))}
          {view.stations.map((s) => (
            <Lane key={s.id} name={codeWords(s.name)} thin>
              {shown
                .filter((t) => t.station === s.id)
                .map((t) => (
                  <Bar key={t.task} task={t} segments={segments} />
                ))}
            </Lane>
          ))}
          <Lane name={codeWords("waits")} thin>
            {shown
              .filter((t) => t.kind === "wait")
              .map((t) => (
                <Bar key={t.task} task={t} segments={segments} />
              ))}
          </Lane>
        </Box>
      </Box>
    </DndContext>
  );
}

function InWords({ view, clock }: DayPlanState) {
  return (
    <Box
      sx={{
        display: "grid",
        gap: 3,
        gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,2fr) minmax(0,1fr)" },
      }}
    >
      <Box component="section">
        <Typography component="h2" variant="h2">
          {say("inWords")}
        </Typography>
        {view.people.map((w) => (
          <Box key={w.id} sx={{ mb: 1 }}>
            <b style={{ textTransform: "capitalize" }}>{w.name}</b>:{" "}
            {view.tasks
              .filter((t) => t.person === w.id)
              .slice(0, 5)
              .map((t) => `${clock(t.start)} ${t.title} (${t.tag})`)
              .join("; ") || say("nothing")}
          </Box>
        ))}
      </Box>
      <Box component="section">
        <Typography component="h2" variant="h2">
          {say("notInThePlan")}
        </Typography>
        {view.held.length + view.impossible.length === 0 && (
          <Typography color="text.secondary">{say("nothingIsHeld")}</Typography>
        )}
        {view.later > 0 && (
          <Typography color="text.secondary">
            {say("laterMoreUnitWaitsBeyondWhat", { later: view.later })}
          </Typography>
        )}
        {view.held.map((h) => (
          <div key={h.tag}>
            <Link href={`/units/${h.tag}/decide`}>{h.tag}</Link> {h.model}: {h.why}
          </div>
        ))}
        {view.impossible.map((t) => (
          <div key={t.id}>{say("titleNobodyHereHasTheSkill", { title: t.title })}</div>
        ))}
      </Box>
    </Box>
  );
}

/** A mark at each beginning and each full hour; `past` is how many minutes past the hour the plan begins. */
function Hours({
  segments,
  clock,
  past,
}: {
  segments: Segment[];
  clock: (m: number) => string;
  past: number;
}) {
  return (
    <Box
      sx={{ position: "relative", height: 26, ml: `${HEAD}px`, fontSize: "0.82rem", color: "text.secondary" }}
    >
      {segments.flatMap((s) => {
        const marks: number[] = [s.from];
        for (let m = Math.ceil((s.from + 20 + past) / 60) * 60 - past; m <= s.to - 15; m += 60) marks.push(m);
        return marks.map((m) => (
          <Box
            key={m}
            component="span"
            suppressHydrationWarning
            sx={{
              position: "absolute",
              left: xOf(segments, m),
              top: 4,
              borderLeft: 1,
              borderColor: "divider",
              pl: 0.4,
            }}
          >
            {clock(m)}
          </Box>
        ));
      })}
    </Box>
  );
}

function Lane({
  name,
  thin = false,
  mine = false,
  children,
  ref,
  over = false,
}: {
  name: string;
  thin?: boolean;
  mine?: boolean;
  children: ReactNode;
  ref?: (el: HTMLElement | null) => void;
  over?: boolean;
}) {
  return (
    <Box sx={{ display: "flex", borderTop: 1, borderColor: "divider" }}>
      <Box
        sx={{
          width: HEAD,
          flexShrink: 0,
          p: 0.8,
          fontWeight: mine ? 800 : 600,
          textTransform: "capitalize",
          left: 0,
          bgcolor: "background.paper",
          zIndex: 2,
          fontSize: thin ? "0.85rem" : "1rem",
        }}
      >
        {name}
      </Box>
      <Box
        ref={ref}
        sx={{
          position: "relative",
          flex: 1,
          height: thin ? 26 : 62,
          bgcolor: over ? "bench.paper" : "transparent",
        }}
      >
        {children}
      </Box>
    </Box>
  );
}

function PersonLane({
  id,
  name,
  mine,
  children,
}: {
  id: string;
  name: string;
  mine: boolean;
  children: ReactNode;
}) {
  const { setNodeRef, isOver } = useDroppable({ id });
  return (
    <Lane name={name} mine={mine} ref={setNodeRef} over={isOver}>
      {children}
    </Lane>
  );
}

const span = (segments: Segment[], t: PlanTask) => ({
  left: xOf(segments, t.start),
  width: Math.max(8, xOf(segments, t.end) - xOf(segments, t.start) - 2),
});

function Block({
  task,
  segments,
  picked,
  onPick,
  canDrag,
}: {
  task: PlanTask;
  segments: Segment[];
  picked: boolean;
  onPick: () => void;
  canDrag: boolean;
}) {
  const { setNodeRef, listeners, attributes, transform, isDragging } = useDraggable({
    id: task.task,
    disabled: !canDrag,
  });
  const borderColorOf = () => {
    if (picked) return "primary.main";
    if (task.late) return "caution.main";
    return "bench.line";
  };
  return (
    <Box
      ref={setNodeRef}
      component="button"
      {...attributes}
      {...listeners}
      onClick={onPick}
      aria-pressed={picked}
      aria-label={`${task.title}, ${task.tag}${task.pinned ? say("pinned") : ""}`}
      title={`${task.title}, ${task.tag}`}
      sx={{
        position: "absolute",
        top: 5,
        height: 52,
        ...span(segments, task),
        overflow: "hidden",
        textAlign: "left",
        font: "inherit",
        fontSize: "0.78rem",
        lineHeight: 1.15,
        color: "text.primary",
        p: 0.5,
        border: 2,
        borderStyle: task.pinned ? "double" : "solid",
        borderWidth: task.pinned ? 4 : 2,
        borderColor: borderColorOf(),
        borderRadius: 0.8,
        bgcolor: task.opensWait ? "bench.paper" : "background.default",
        cursor: canDrag ? "grab" : "pointer",
        zIndex: isDragging ? 5 : 1,
        transform: transform ? `translate(${transform.x}px, ${transform.y}px)` : undefined,
        touchAction: "none",
      }}
    >
      <Box component="span" sx={{ display: "block", fontWeight: 700, whiteSpace: "nowrap" }}>
        {task.tag}
      </Box>
      <Box component="span" sx={{ display: "block", maxHeight: "2.2em", overflow: "hidden" }}>
        {task.title}
      </Box>
    </Box>
  );
}

function Bar({ task, segments }: { task: PlanTask; segments: Segment[] }) {
  return (
    <Box
      title={`${task.title}, ${task.tag}`}
      sx={{
        position: "absolute",
        top: 4,
        height: 18,
        ...span(segments, task),
        bgcolor: "bench.paper",
        border: 1,
        borderColor: "bench.line",
        borderRadius: 0.6,
        fontSize: "0.75rem",
        px: 0.4,
        overflow: "hidden",
        whiteSpace: "nowrap",
      }}
    >
      {task.tag}
    </Box>
  );
}

type PanelProps = {
  task: PlanTask;
  view: DayView;
  shop: Settings;
  canWork: boolean;
  pin: ReturnType<typeof useDeed<"plan.pin">>;
  unpin: ReturnType<typeof useDeed<"plan.unpin">>;
  onClose: () => void;
};

/** What happens at it: state, deeds and keys of Panel. */
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

function Panel(props: PanelProps) {
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
    <Box sx={{ display: "flex", gap: 2, alignItems: "baseline", flexWrap: "wrap" }}>
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
    </Box>
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
