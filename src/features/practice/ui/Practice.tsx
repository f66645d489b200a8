"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import { type Level, LEVELS } from "@/core/practice/hidden";
import type { ExerciseView } from "@/features/practice/deeds";
import { DISPOSITION_WORDS } from "@/features/decide/words/text";
import type { ReviewStep } from "@/core/practice/review";
import { dayAndTime, money } from "@/text/format";
import { measureName } from "@/text/measures";
import { placeWords } from "@/text/names";
import { Problem } from "@/ui/deed/Problem";
import { Choice } from "@/ui/fields/Choice";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { Figure, Table } from "@/ui/kit/Table";
import { OpenCase } from "@/features/casefile/ui/OpenCase";
import { usePractice } from "./usePractice";
import { say } from "@/features/practice/words/words";
import { Words } from "@/ui/kit/layout";

type Case = { tag: string; model: string; claim: string; faults: number };
const LEVEL_WORDS: Record<Level, string> = {
  1: say("oneFaultTold"),
  2: say("twoFaultsHalfTold"),
  3: say("threeFaultsUntested"),
};

type PracticeProps = {
  models: { key: string; name: string }[];
  cases: Case[];
  exercises: ExerciseView[];
  shop: Settings;
};

/** What Practice knows and does; the components below only show it. */
function useOwnPractice({ models, cases, exercises, shop }: PracticeProps) {
  const { go, running, problem } = usePractice();
  const [level, setLevel] = useState<Level>(1);
  const [model, setModel] = useState(models[0]?.key ?? "");
  const open = exercises.filter((e) => !e.ended);
  return { models, cases, exercises, shop, go, running, problem, level, setLevel, model, setModel, open };
}
type OwnPracticeState = ReturnType<typeof useOwnPractice>;

/**
 * Simulated units with hidden faults, tested, diagnosed and decided on with the real screens, then scored and
 * reviewed.
 */
export function Practice(props: PracticeProps) {
  const s = useOwnPractice(props);
  const { exercises, shop } = s;

  return (
    <Box sx={{ display: "grid", gap: 3, gridTemplateColumns: "minmax(0,1fr)" }}>
      <Box>
        <Typography component="h1" variant="h1">
          {say("practiceBench")}
        </Typography>
        <Typography color="text.secondary" sx={{ maxWidth: 720 }}>
          {say("aSimulatedUnitWithHiddenFaults")}
        </Typography>
      </Box>
      <BeginPractice {...s} />
      <UnderWay {...s} />
      <HardCases {...s} />
      <OpenCase shop={shop} />
      <section aria-label={say("scores")}>
        <Typography component="h2" variant="h2">
          {say("scores")}
        </Typography>
        {exercises.every((e) => !e.score) ? (
          <Typography color="text.secondary">{say("noneYetTakeAUnitAnd")}</Typography>
        ) : (
          exercises.filter((e) => e.score).map((e) => <Scored key={e.id} e={e} shop={shop} />)
        )}
      </section>
    </Box>
  );
}

function BeginPractice({ level, setLevel, model, setModel, models, running, go, problem }: OwnPracticeState) {
  return (
    <Box
      component="section"
      aria-label={say("begin")}
      sx={{ display: "grid", gap: 1.5, justifyItems: "start" }}
    >
      <Choice
        label={say("howHard")}
        value={String(level)}
        onChange={(v) => setLevel(Number(v) as Level)}
        options={LEVELS.map((l) => [String(l), LEVEL_WORDS[l]] as const)}
      />
      <NativeSelect
        label={say("model")}
        value={model}
        onChange={(e) => setModel(e.target.value)}
        sx={{ width: 260 }}
      >
        {models.map((m) => (
          <option key={m.key} value={m.key}>
            {m.name}
          </option>
        ))}
      </NativeSelect>
      <Button
        variant="contained"
        size="large"
        disabled={running}
        onClick={() => void go({ do: "begin", level, model, after: null })}
      >
        {say("takeOne")}
      </Button>
      <Problem problem={problem} />
    </Box>
  );
}

function UnderWay({ open, shop, running, go }: OwnPracticeState) {
  return (
    open.length > 0 && (
      <section aria-label={say("underWay")}>
        <Typography component="h2" variant="h2">
          {say("underWay")}
        </Typography>
        {open.map((e) => (
          <Box key={e.id} sx={{ display: "flex", gap: 1.5, alignItems: "center", flexWrap: "wrap", py: 0.5 }}>
            <b>{e.tag}</b>{" "}
            {say("modelSinceBeganAt", { model: e.model, beganAt: dayAndTime(e.beganAt, shop) })}
            <Button size="small" disabled={running} onClick={() => void go({ do: "go-on" })}>
              {say("goOnAtThePracticeBench")}
            </Button>
            <Button size="small" disabled={running} onClick={() => void go({ do: "end", exerciseId: e.id })}>
              {say("endAndScoreTag", { tag: e.tag })}
            </Button>
          </Box>
        ))}
      </section>
    )
  );
}

function HardCases({ cases, running, go }: OwnPracticeState) {
  return (
    cases.length > 0 && (
      <section aria-label={say("fromOurOwnHardCases")}>
        <Typography component="h2" variant="h2">
          {say("fromOurOwnHardCases")}
        </Typography>
        <Table
          label={say("hardCases")}
          heads={[say("case"), say("model"), say("whatWasSaid"), say("faults"), ""]}
        >
          {cases.map((c) => (
            <tr key={c.tag}>
              <td>{c.tag}</td>
              <td>{c.model}</td>
              <td>{c.claim || say("nothing")}</td>
              <td>{c.faults}</td>
              <td>
                <Button
                  size="small"
                  disabled={running}
                  onClick={() => void go({ do: "begin", level: 3, model: "", after: c.tag })}
                >
                  {say("takeTag", { tag: c.tag })}
                </Button>
              </td>
            </tr>
          ))}
        </Table>
      </section>
    )
  );
}

const list = (places: readonly string[]) => places.map(placeWords).join(", ");

/** One exercise looked at again: what was there, what was found, and what the best way would have been. */
function Scored({ e, shop }: { e: ExerciseView; shop: Settings }) {
  const s = e.score!;
  const { review } = s;
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: "90px minmax(0,1fr)",
        gap: 2,
        borderTop: 1,
        borderColor: "divider",
        py: 1,
      }}
    >
      <Box>
        <Figure big>{s.points}</Figure>
        <Words size="small" quiet>
          {say("of100")}
        </Words>
      </Box>
      <Box>
        <b>
          {e.tag}, {e.model}
          {e.fromTag ? say("afterFromTag", { fromTag: e.fromTag }) : say("levelLevel", { level: e.level })}
        </b>
        , {dayAndTime(e.beganAt, shop)}
        <Box>
          {say("thereWasHidden", {
            hidden: e.hidden.map((h) => `${placeWords(h.place)} (${measureName(h.measure)})`).join(", "),
          })}
        </Box>
        <Box>
          {say("foundFound", { found: list(s.found) || say("nothing") })}
          {s.missed.length > 0 && say("missedMissed", { missed: list(s.missed) })}
          {s.wrong.length > 0 && say("namedWithoutACauseWrong", { wrong: list(s.wrong) })}.
        </Box>
        {(review.held ?? []).length > 0 && (
          <Box>
            {say("behindItWas", {
              parts: review
                .held!.map((h) => say("partHeldAt", { name: h.name, share: Math.round(h.share * 100) }))
                .join(", "),
            })}
          </Box>
        )}
        <Box>{say("timeMinutesMinutesOfTesting", { minutes: s.minutes, bestMinutes: s.bestMinutes })}</Box>
        <Box>
          {say("bestBestRouteWorthBestMinor", {
            best: DISPOSITION_WORDS[review.best].toLowerCase(),
            route: review.route && say("firstRoute", { route: review.route.toLowerCase() }),
            bestMinor: money(review.bestMinor, shop),
            chosen:
              review.chosen === null
                ? say("nothingWasDecided")
                : say("decidedChosenChosenRouteWorth", {
                    chosen: DISPOSITION_WORDS[review.chosen].toLowerCase(),
                    chosenRoute: review.chosenRoute
                      ? say("firstChosenRoute", { chosenRoute: review.chosenRoute.toLowerCase() })
                      : "",
                    chosenMinor: money(review.chosenMinor, shop),
                    lostMinor:
                      s.lostMinor === 0
                        ? say("nothingLost")
                        : say("lostMinorLost", { lostMinor: money(s.lostMinor, shop) }),
                  }),
          })}
        </Box>
        <Steps steps={review.steps ?? []} e={e} shop={shop} />
      </Box>
    </Box>
  );
}

/** Each act with what it brought by what was known then, against the best act then. */
function Steps({ steps, e, shop }: { steps: readonly ReviewStep[]; e: ExerciseView; shop: Settings }) {
  if (steps.length === 0) return null;
  const named = (a: Pick<ReviewStep, "act" | "id" | "place">) =>
    a.act === "end"
      ? DISPOSITION_WORDS[a.id as keyof typeof DISPOSITION_WORDS].toLowerCase()
      : (e.names[a.id] ?? a.id) + (a.act === "attempt" && a.place ? `, ${placeWords(a.place)}` : "");
  return (
    <Table
      label={say("actByAct")}
      heads={[say("act"), say("broughtOverStopping"), say("bestThen"), say("lost")]}
    >
      {steps.map((x, i) => (
        <tr key={i}>
          <td>{named(x)}</td>
          <td>
            <Figure>{x.valueMinor === null ? say("notWeighed") : money(x.valueMinor, shop)}</Figure>
          </td>
          <td>
            {named(x.best)} <Figure>{money(x.bestMinor, shop)}</Figure>
          </td>
          <td>
            <Figure>{x.lostMinor === 0 ? say("nothingLost") : money(x.lostMinor, shop)}</Figure>
          </td>
        </tr>
      ))}
    </Table>
  );
}
