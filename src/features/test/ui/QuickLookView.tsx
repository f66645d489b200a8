"use client";

import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import { controlsOf, type ModelProfile, placeName } from "@/core/profile/profile";
import { QUICK_MS, type QuickState } from "@/core/quicklook/quick-look";
import { quickFaultText } from "@/features/case/words/text";
import { PlanView } from "@/ui/plan/PlanView";
import type { ShownState } from "@/ui/state/StateMark";
import { StateMark } from "@/ui/state/StateMark";
import { PlanFrame, Station } from "@/features/units/ui/unit/Station";
import { FIGURES } from "@/ui/figures";
import { say } from "@/features/test/words/words";
import { SIZE } from "@/ui/tokens";
import { Row } from "@/ui/kit/layout";

/** Whatever moves is ticked, faults show at once. */
export function QuickLookView({
  profile,
  revision,
  state,
}: {
  profile: ModelProfile;
  revision: string | null;
  state: QuickState;
}) {
  const controls = controlsOf(profile, revision);
  const of = (id: string) => state.controls.find((c) => c.id === id);
  const shown = (id: string): ShownState | null => {
    const c = of(id);
    if (c?.faults.length) return "fail";
    if (c && c.seen >= 1) return "pass";
    return null;
  };
  const seen = state.controls.filter((c) => c.seen >= 1).length;
  const left = controls.filter((c) => (of(c.id)?.seen ?? 0) < 1);
  const faulty = state.controls.filter((c) => c.faults.length > 0);
  const states = Object.fromEntries(controls.flatMap((c) => (shown(c.id) ? [[c.id, shown(c.id)!]] : [])));
  return (
    <Station
      plan={
        <PlanFrame>
          <PlanView
            profile={profile}
            revision={revision}
            states={states}
            active={Object.fromEntries(
              controls.map((c) => [c.id, (of(c.id)?.seen ?? 0) >= 1 ? 0 : (of(c.id)?.seen ?? 0) * 0.4]),
            )}
          />
        </PlanFrame>
      }
    >
      <Typography component="h2" sx={{ fontSize: SIZE.big, fontWeight: 800, lineHeight: 1.15 }}>
        {say("moveEverythingOnce2")}
      </Typography>
      <Row gap={4} around={2} oneLine>
        <Count value={`${seen} / ${controls.length}`} label={say("movedAllTheWay")} />
        <Count
          value={`${Math.max(0, Math.ceil((QUICK_MS - state.elapsedMs) / 1000))} s`}
          label={say("left2")}
        />
      </Row>
      {faulty.length > 0 && (
        <Box role="alert" sx={{ display: "grid", gap: 0.8, mb: 2 }}>
          {faulty.map((c) => (
            <Box
              key={c.id}
              sx={{
                display: "flex",
                gap: 1,
                alignItems: "center",
                fontSize: SIZE.title,
                fontWeight: 700,
                color: "fail.main",
              }}
            >
              <StateMark state="fail" /> {placeName({ id: c.id })}: {c.faults.map(quickFaultText).join("; ")}
            </Box>
          ))}
        </Box>
      )}
      <Typography color="text.secondary">
        {left.length
          ? say("stillToMoveLeft", { left: left.map(placeName).join(", ") })
          : say("everythingMoved")}
      </Typography>
    </Station>
  );
}

const Count = ({ value, label }: { value: string; label: string }) => (
  <Box>
    <Box sx={{ fontFamily: FIGURES, fontSize: SIZE.huge, fontWeight: 700, lineHeight: 1 }}>{value}</Box>
    {label}
  </Box>
);
