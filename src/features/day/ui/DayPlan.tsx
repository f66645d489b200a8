"use client";

import { DndContext, type DragEndEvent, PointerSensor, useSensor, useSensors } from "@dnd-kit/core";
import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import type { DayView } from "@/features/day/deeds";
import { say } from "@/features/day/words/words";
import { BigFigure } from "@/features/units/ui/unit/Station";
import { clockOf, dayAndTime, hoursText } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { codeWords } from "@/words/codes";
import { Bar, HEAD, HORIZON, Hours, Lane, PersonLane, TaskBlock } from "./Lanes";
import { Panel } from "./TaskPanel";
import { minuteOf, segmentsOf, widthOf, xOf } from "./axis";
import { Block, Row } from "@/ui/kit/layout";

type DayPlanProps = {
  view: DayView;
  me: string;
  shop: Settings;
  canWork: boolean;
};

/** What DayPlan knows and does; the components below only show it. */
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

/**
 * The day in lanes: by person and by station. A task is pinned by dragging it, or in its panel; the rest
 * plans itself anew.
 */
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
    <Row gap={3} at="center">
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
    </Row>
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
                  <TaskBlock
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
          <Block key={w.id} after={1}>
            <b style={{ textTransform: "capitalize" }}>{w.name}</b>:{" "}
            {view.tasks
              .filter((t) => t.person === w.id)
              .slice(0, 5)
              .map((t) => `${clock(t.start)} ${t.title} (${t.tag})`)
              .join("; ") || say("nothing")}
          </Block>
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
