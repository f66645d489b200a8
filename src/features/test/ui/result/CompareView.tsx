"use client";

import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useRouter } from "next/navigation";

import type { Grade } from "@/core/grade/grade";
import { controlsOf, placeName } from "@/core/profile/profile";
import type { TestPurpose } from "@/core/record/standing";
import type { Healthy } from "@/features/test/readings";
import type { UnitView } from "@/features/units/view";
import { dayAndTime } from "@/text/format";
import { GRADE_WORDS } from "@/text/measures";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { PlanView } from "@/ui/plan/PlanView";
import { stateOfGrade } from "@/ui/state/StateMark";
import { PlanFrame, Station } from "@/features/units/ui/unit/Station";
import { Compare, type Side } from "./Compare";
import { say } from "@/features/test/words/words";
import { Text } from "@/ui/kit/layout";

type Choice = {
  id: string;
  tag: string;
  purpose: TestPurpose;
  grade: Grade;
  startedAt: string;
  reference: boolean;
};
type Shown = (Side & { id: string }) | null;

/**
 * Any two recordings over each other: this unit's own, or one of a reference unit. The choice stands in the
 * address.
 */
export function CompareView({
  view,
  choices,
  left,
  right,
  healthy,
  control,
}: {
  view: UnitView;
  choices: Choice[];
  left: Shown;
  right: Shown;
  healthy: Healthy;
  control: string | null;
}) {
  const router = useRouter();
  const { unit, profile, settings } = view;
  const controls = controlsOf(profile, unit.revision);
  const gradeOf = (side: Shown, id: string): Grade => side?.analysis.controls[id]?.grade ?? "untested";
  const differs = controls.find((c) => gradeOf(left, c.id) !== gradeOf(right, c.id));
  const selected = controls.find((c) => c.id === control) ?? differs ?? controls[0]!;
  const go = (change: Record<string, string>) => {
    const next = new URLSearchParams({ a: left?.id ?? "", b: right?.id ?? "", c: selected.id, ...change });
    router.replace(`/units/${unit.tag}/test/compare?${next}`);
  };
  const label = (c: Choice) =>
    `${c.reference ? say("referenceTag", { tag: c.tag }) : say("thisUnit")}, ${dayAndTime(c.startedAt, settings)}, ${c.purpose === "spot" ? say("spotTest2") : GRADE_WORDS[c.grade]}`;
  const picker = (key: "a" | "b", words: string, value: string) => (
    <NativeSelect label={words} value={value} onChange={(e) => go({ [key]: e.target.value })}>
      {choices.map((c) => (
        <option key={c.id} value={c.id}>
          {label(c)}
        </option>
      ))}
    </NativeSelect>
  );
  const name = (side: Shown) => {
    const c = choices.find((x) => x.id === side?.id);
    return c ? `${c.tag}, ${dayAndTime(c.startedAt, settings)}` : "";
  };
  return (
    <Station
      plan={
        <PlanFrame>
          <PlanView
            profile={profile}
            revision={unit.revision}
            states={Object.fromEntries(controls.map((c) => [c.id, stateOfGrade(gradeOf(right, c.id))]))}
            selected={selected.id}
            onPick={(id) => controls.some((c) => c.id === id) && go({ c: id })}
          />
        </PlanFrame>
      }
    >
      <Text component="h2" size="figure" after={1.5} strong>
        {say("twoRecordingsOneOverTheOther")}
      </Text>
      {!left || !right ? (
        <Typography>{say("thereAreNotTwoRecordingsTo")}</Typography>
      ) : (
        <>
          <Box sx={{ display: "grid", gridTemplateColumns: { sm: "1fr 1fr" }, gap: 1.5, mb: 1.5 }}>
            {picker("a", say("firstDotted"), left.id)}
            {picker("b", say("second"), right.id)}
          </Box>
          <Compare
            title={say("comparedSelected", { selected: placeName(selected) })}
            name={placeName(selected)}
            id={selected.id}
            profile={profile}
            house={settings.limits}
            before={left}
            after={right}
            healthy={healthy}
            heads={[name(left), name(right)]}
          />
        </>
      )}
    </Station>
  );
}
