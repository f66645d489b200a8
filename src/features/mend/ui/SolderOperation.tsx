"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Id } from "@/core/base/ids";
import { JOINT_CHECKS, holesNotReady, isTooHot, removalMethods } from "@/core/mend/solder";
import type { SolderJob } from "@/core/profile/guide";
import { holeText, tooHotText } from "@/features/mend/words/text";
import { say } from "@/features/mend/words/words";
import { BigFigure } from "@/features/units/ui/unit/Station";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { BoundField } from "@/ui/form/BoundField";
import { numberIn } from "@/ui/form/typed";
import { codeWords } from "@/words/codes";
import { Row } from "@/ui/kit/layout";

const JOINT_WORDS: Record<(typeof JOINT_CHECKS)[number], string> = {
  filled: say("filledThrough"),
  shiny: say("shiny"),
  "no-bridge": say("noBridge"),
  "legs-cut": say("legsCut"),
  "flux-off": say("fluxCleanedOffLookedAtBeneath"),
  "both-sides": say("seenFromBothSides"),
};

type OperationProps = {
  unitId: Id<"unit">;
  job: SolderJob;
  chips: string[];
  owned: string[];
  canWork: boolean;
};

/** What Operation knows and does; the components below only show it. */
function useOperation({ unitId, job, chips, owned, canWork }: OperationProps) {
  const add = useDeed("heat.add");
  const methods = removalMethods(job, new Set(owned));
  const [celsius, setCelsius] = useState(String(job.celsius));
  const [exception, setException] = useState("");
  const [method, setMethod] = useState(methods[0]?.name ?? say("byHand"));
  const [heated, setHeated] = useState<string[]>([]);
  const [gauge, setGauge] = useState<Record<number, { mm: string; ring: boolean }>>({});
  const [joints, setJoints] = useState<(typeof JOINT_CHECKS)[number][]>([]);
  const [shielded, setShielded] = useState(job.shield.join(", "));
  const numbers = Array.from({ length: job.holes }, (_, i) => i + 1);
  const holes = numbers.flatMap((hole) => {
    const g = gauge[hole];
    const mm = Number((g?.mm ?? "").replace(",", "."));
    return g && g.mm !== "" && Number.isFinite(mm) ? [{ hole, gaugeMm: mm, ringIntact: g.ring }] : [];
  });
  const open = holesNotReady(job, holes);
  const degrees = numberIn("heat.add", "celsius", celsius);
  const hot = degrees !== null && isTooHot(job, degrees, exception);
  const allOpen = () =>
    setGauge(
      Object.fromEntries(numbers.map((n) => [n, { mm: String(job.holeMm), ring: gauge[n]?.ring ?? true }])),
    );
  return {
    unitId,
    job,
    chips,
    canWork,
    add,
    methods,
    celsius,
    setCelsius,
    exception,
    setException,
    method,
    setMethod,
    heated,
    setHeated,
    gauge,
    setGauge,
    joints,
    setJoints,
    shielded,
    setShielded,
    numbers,
    holes,
    open,
    degrees,
    hot,
    allOpen,
  };
}

type OperationState = ReturnType<typeof useOperation>;

export function Operation(props: OperationProps) {
  const s = useOperation(props);
  const {
    unitId,
    job,
    canWork,
    add,
    exception,
    setException,
    method,
    heated,
    setHeated,
    setGauge,
    joints,
    setJoints,
    shielded,
    holes,
    degrees,
  } = s;

  return (
    <Form
      aria-label={say("solderOperation")}
      onSend={() =>
        void add
          .run({
            unitId,
            job: job.id,
            celsius: degrees!,
            exception,
            method,
            chips: heated,
            shielded,
            holes,
            joints,
          })
          .then((d) => {
            if (!d?.ok) return;
            setGauge({});
            setJoints([]);
            setHeated([]);
            setException("");
          })
      }
      sx={{ display: "grid", gap: 2 }}
    >
      <Setting {...s} />
      <Typography>
        {say("tipTipAlloyFluxRefreshThe", { tip: job.tip, alloy: job.alloy, flux: job.flux })}
        {job.shield.length > 0 && say("shieldShield", { shield: job.shield.join(", ") })}
        {job.strong && say("dailyLoadMakeTheseJointsStrong")} {say("neverPressBraidOrForceA")}
      </Typography>
      {canWork && (
        <>
          <HeatFields {...s} />
          <ChipsHeated {...s} />
          <HolesGauged {...s} />
          <JointsChecked {...s} />
          <Box>
            <Button type="submit" variant="contained" size="large" disabled={add.running || degrees === null}>
              {say("logThisOperation")}
            </Button>
          </Box>
          <Problem problem={add.problem} />
        </>
      )}
    </Form>
  );
}

function Setting({ job, methods }: OperationState) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr 1fr", sm: "repeat(4, auto)" }, gap: 2 }}>
      <BigFigure
        value={`${job.celsius} °C`}
        label={say("setting")}
        detail={say("ceilingOfTheBoardBoardCeiling", { board: codeWords(job.board), ceiling: job.ceiling })}
      />
      <BigFigure
        value={job.joints}
        label={say("joints")}
        detail={
          job.grounded
            ? say("groundedOnTheGroundPlaneSlow", { grounded: job.grounded })
            : say("noneOnTheGroundPlane")
        }
      />
      <BigFigure
        value={job.holes}
        label={say("holes")}
        detail={job.holes ? say("holeMmMmBore", { holeMm: job.holeMm }) : say("surfacePads")}
      />
      <BigFigure
        value={methods[0] ? `${methods[0].minutes}` : "–"}
        label={say("minutesToRemove")}
        detail={methods[0]?.name ?? say("noToolForIt")}
      />
    </Box>
  );
}

function HeatFields({
  celsius,
  setCelsius,
  hot,
  job,
  method,
  setMethod,
  methods,
  degrees,
  exception,
  setException,
  shielded,
  setShielded,
}: OperationState) {
  return (
    <Box sx={{ display: "grid", gap: 1, gridTemplateColumns: { xs: "1fr", sm: "1fr 2fr" } }}>
      <BoundField
        deed="heat.add"
        name="celsius"
        label={say("ironC")}
        value={celsius}
        onChange={setCelsius}
        error={hot}
        helperText={hot ? tooHotText(job) : undefined}
      />
      <NativeSelect label={say("removal")} value={method} onChange={(e) => setMethod(e.target.value)}>
        {methods.map((m) => (
          <option key={m.id} value={m.name}>
            {say("nameAboutMinutesMinWhy", { name: m.name, minutes: m.minutes, why: m.why })}
          </option>
        ))}
        <option value={say("byHand")}>{say("noneJointsOnly")}</option>
      </NativeSelect>
      {(degrees ?? 0) > job.ceiling && (
        <BoundField
          deed="heat.add"
          name="exception"
          label={say("whyHotterThisOnce")}
          value={exception}
          onChange={setException}
          sx={{ gridColumn: "1 / -1" }}
        />
      )}
      <BoundField
        deed="heat.add"
        name="shielded"
        label={say("shielded")}
        value={shielded}
        onChange={setShielded}
        sx={{ gridColumn: "1 / -1" }}
      />
    </Box>
  );
}

function ChipsHeated({ chips, heated, setHeated }: OperationState) {
  return (
    chips.length > 0 && (
      <Box role="group" aria-label={say("chipsThatTookTheHeat")}>
        {chips.map((c) => (
          <FormControlLabel
            key={c}
            control={
              <Checkbox
                checked={heated.includes(c)}
                onChange={(e) => setHeated(e.target.checked ? [...heated, c] : heated.filter((x) => x !== c))}
              />
            }
            label={say("cTookHeat", { c })}
          />
        ))}
      </Box>
    )
  );
}

function HolesGauged({ job, allOpen, open, numbers, gauge, setGauge }: OperationState) {
  return (
    job.holes > 0 && (
      <Box>
        <Row gap={1} at="center">
          <b>{say("holesByGaugePin")}</b>
          <Button size="small" onClick={allOpen}>
            {say("allTakeTheHoleMmMmPin", { holeMm: job.holeMm })}
          </Button>
          <span>
            {open.length === 0
              ? say("allReadyForTheNewPart")
              : say("openNotReadyOpen2", { open: open.length, open2: holeText(open[0]!) })}
          </span>
        </Row>
        <Box
          sx={{
            display: "grid",
            gridTemplateColumns: "repeat(auto-fill, minmax(118px, 1fr))",
            gap: 1,
            mt: 1,
          }}
        >
          {numbers.map((n) => (
            <Row key={n} oneLine at="center">
              <BoundField
                deed="heat.add"
                name="holes.*.gaugeMm"
                label={say("nMm", { n })}
                value={gauge[n]?.mm ?? ""}
                onChange={(mm) => setGauge({ ...gauge, [n]: { mm, ring: gauge[n]?.ring ?? true } })}
              />
              <Checkbox
                checked={gauge[n]?.ring ?? true}
                onChange={(e) =>
                  setGauge({ ...gauge, [n]: { mm: gauge[n]?.mm ?? "", ring: e.target.checked } })
                }
                slotProps={{ input: { "aria-label": say("ringIntact", { n }) } }}
              />
            </Row>
          ))}
        </Box>
      </Box>
    )
  );
}

function JointsChecked({ joints, setJoints }: OperationState) {
  return (
    <Box role="group" aria-label={say("jointsChecked")}>
      {JOINT_CHECKS.map((c) => (
        <FormControlLabel
          key={c}
          control={
            <Checkbox
              checked={joints.includes(c)}
              onChange={(e) => setJoints(e.target.checked ? [...joints, c] : joints.filter((x) => x !== c))}
            />
          }
          label={JOINT_WORDS[c]}
        />
      ))}
    </Box>
  );
}
