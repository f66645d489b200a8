"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import { type Level, LEVELS } from "@/core/practice/hidden";
import type { ExerciseView } from "@/service/practice";
import { DISPOSITION_WORDS } from "@/text/decide";
import { dayAndTime, money } from "@/text/format";
import { measureName } from "@/text/measures";
import { placeWords } from "@/text/names";
import { Problem } from "@/ui/deed/Problem";
import { Choice } from "@/ui/fields/Choice";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { Figure, Table } from "@/ui/parts/Table";
import { usePractice } from "./usePractice";

type Case = { tag: string; model: string; claim: string; faults: number };
const LEVEL_WORDS: Record<Level, string> = { 1: "one fault, told", 2: "two faults, half told", 3: "three faults, untested" };

/** Simulated units with hidden faults, tested, diagnosed and decided on with the real screens, then scored and reviewed. */
export function Practice({
  models,
  cases,
  exercises,
  shop,
}: {
  models: { key: string; name: string }[];
  cases: Case[];
  exercises: ExerciseView[];
  shop: Settings;
}) {
  const { go, running, problem } = usePractice();
  const [level, setLevel] = useState<Level>(1);
  const [model, setModel] = useState(models[0]?.key ?? "");
  const open = exercises.filter((e) => !e.ended);
  return (
    <Box sx={{ display: "grid", gap: 3, gridTemplateColumns: "minmax(0,1fr)" }}>
      <Box>
        <Typography component="h1" variant="h1">
          Practice bench
        </Typography>
        <Typography color="text.secondary" sx={{ maxWidth: 720 }}>
          A simulated unit with hidden faults lies on a bench of its own: test it, name its faults, decide. Then it is scored
          against what was hidden and what the ladder would have done. Nothing of it counts in the workshop. Its faults are in the
          controls; its functions all work, and its inside cannot be looked at.
        </Typography>
      </Box>
      <Box component="section" aria-label="Begin" sx={{ display: "grid", gap: 1.5, justifyItems: "start" }}>
        <Choice
          label="How hard"
          value={String(level)}
          onChange={(v) => setLevel(Number(v) as Level)}
          options={LEVELS.map((l) => [String(l), LEVEL_WORDS[l]] as const)}
        />
        <NativeSelect label="Model" value={model} onChange={(e) => setModel(e.target.value)} sx={{ width: 260 }}>
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
          Take one
        </Button>
        <Problem problem={problem} />
      </Box>
      {open.length > 0 && (
        <section aria-label="Under way">
          <Typography component="h2" variant="h2">
            Under way
          </Typography>
          {open.map((e) => (
            <Box key={e.id} sx={{ display: "flex", gap: 1.5, alignItems: "center", flexWrap: "wrap", py: 0.5 }}>
              <b>{e.tag}</b> {e.model}, since {dayAndTime(e.beganAt, shop)}
              <Button size="small" disabled={running} onClick={() => void go({ do: "go-on" })}>
                Go on at the practice bench
              </Button>
              <Button size="small" disabled={running} onClick={() => void go({ do: "end", exerciseId: e.id })}>
                End and score {e.tag}
              </Button>
            </Box>
          ))}
        </section>
      )}
      {cases.length > 0 && (
        <section aria-label="From our own hard cases">
          <Typography component="h2" variant="h2">
            From our own hard cases
          </Typography>
          <Table label="Hard cases" heads={["Case", "Model", "What was said", "Faults", ""]}>
            {cases.map((c) => (
              <tr key={c.tag}>
                <td>{c.tag}</td>
                <td>{c.model}</td>
                <td>{c.claim || "nothing"}</td>
                <td>{c.faults}</td>
                <td>
                  <Button
                    size="small"
                    disabled={running}
                    onClick={() => void go({ do: "begin", level: 3, model: "", after: c.tag })}
                  >
                    Take {c.tag}
                  </Button>
                </td>
              </tr>
            ))}
          </Table>
        </section>
      )}
      <section aria-label="Scores">
        <Typography component="h2" variant="h2">
          Scores
        </Typography>
        {exercises.every((e) => !e.score) ? (
          <Typography color="text.secondary">None yet: take a unit, and end it when you have decided.</Typography>
        ) : (
          exercises.filter((e) => e.score).map((e) => <Scored key={e.id} e={e} shop={shop} />)
        )}
      </section>
    </Box>
  );
}

const list = (places: readonly string[]) => places.map(placeWords).join(", ");

/** One exercise looked at again: what was there, what was found, and what the best way would have been. */
function Scored({ e, shop }: { e: ExerciseView; shop: Settings }) {
  const s = e.score!;
  const { review } = s;
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "90px minmax(0,1fr)", gap: 2, borderTop: 1, borderColor: "divider", py: 1 }}>
      <Box>
        <Figure big>{s.points}</Figure>
        <Box sx={{ color: "text.secondary", fontSize: "0.85rem" }}>of 100</Box>
      </Box>
      <Box>
        <b>
          {e.tag}, {e.model}
          {e.fromTag ? `, after ${e.fromTag}` : `, level ${e.level}`}
        </b>
        , {dayAndTime(e.beganAt, shop)}
        <Box>There was: {e.hidden.map((h) => `${placeWords(h.place)} (${measureName(h.measure)})`).join(", ")}.</Box>
        <Box>
          Found: {list(s.found) || "nothing"}
          {s.missed.length > 0 && `; missed: ${list(s.missed)}`}
          {s.wrong.length > 0 && `; named without a cause: ${list(s.wrong)}`}.
        </Box>
        <Box>
          Time: {s.minutes} minutes of testing; one full test of about {s.bestMinutes} shows all of it.
        </Box>
        <Box>
          Best: {DISPOSITION_WORDS[review.best].toLowerCase()}
          {review.route && `, first ${review.route.toLowerCase()}`}, worth {money(review.bestMinor, shop)}.{" "}
          {review.chosen === null
            ? "Nothing was decided."
            : `Decided: ${DISPOSITION_WORDS[review.chosen].toLowerCase()}${review.chosenRoute ? `, first ${review.chosenRoute.toLowerCase()}` : ""}, worth ${money(review.chosenMinor, shop)}: ${s.lostMinor === 0 ? "nothing lost" : `${money(s.lostMinor, shop)} lost`}.`}
        </Box>
      </Box>
    </Box>
  );
}
