"use client";

import { useDraggable, useDroppable } from "@dnd-kit/core";
import Box from "@mui/material/Box";
import type { ReactNode } from "react";

import type { PlanTask } from "@/features/day/deeds";
import { say } from "@/features/day/words/words";
import { type Segment, xOf } from "./axis";
import { SIZE } from "@/ui/tokens";

export const HORIZON = 2 * 1440;

// minutes that are drawn
export const HEAD = 116;

/** A mark at each beginning and each full hour; `past` is how many minutes past the hour the plan begins. */
export function Hours({
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
      sx={{ position: "relative", height: 26, ml: `${HEAD}px`, fontSize: SIZE.fine, color: "text.secondary" }}
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

export function Lane({
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
          fontSize: thin ? SIZE.small : SIZE.body,
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

export function PersonLane({
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

export const span = (segments: Segment[], t: PlanTask) => ({
  left: xOf(segments, t.start),
  width: Math.max(8, xOf(segments, t.end) - xOf(segments, t.start) - 2),
});

export function TaskBlock({
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
        fontSize: SIZE.fine,
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

export function Bar({ task, segments }: { task: PlanTask; segments: Segment[] }) {
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
        fontSize: SIZE.fine,
        px: 0.4,
        overflow: "hidden",
        whiteSpace: "nowrap",
      }}
    >
      {task.tag}
    </Box>
  );
}
