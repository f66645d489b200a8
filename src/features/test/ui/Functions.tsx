"use client";

import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useRef, useState } from "react";

import { functionsOf } from "@/core/profile/profile";
import type { CheckResult } from "@/core/bench/result";
import type { UnitView } from "@/features/units/view";
import { dayAndTime } from "@/text/format";
import { CHECK_NAMES } from "@/features/case/words/text";
import { Refusals } from "@/ui/deed/Refusals";
import { useDeed } from "@/ui/deed/useDeed";
import { AnswerKeys } from "@/ui/fields/AnswerKeys";
import { Kbd } from "@/ui/kit/Kbd";
import { StateMark, stateOfCheck } from "@/ui/state/StateMark";
import { say } from "@/features/test/words/words";
import { SIZE } from "@/ui/tokens";
import { BondFirst, callsRadioDead } from "./bond/BondFirst";
import { Block, Row, Text } from "@/ui/kit/layout";

const KEYS: [string, CheckResult][] = [
  ["y", "pass"],
  ["x", "fail"],
  ["u", "not-tested"],
  ["-", "not-fitted"],
];

const ANSWERS = KEYS.map(([key, answer]) => ({
  key,
  answer,
  words: CHECK_NAMES[answer],
  state: stateOfCheck(answer),
}));

/** What a browser cannot read: a keyed list, each answer with its person and time. */
export function Functions({ view, canWork }: { view: UnitView; canWork: boolean }) {
  const { unit, profile } = view;
  const check = useDeed("function.check");
  const list = useRef<HTMLDivElement>(null);
  const functions = functionsOf(profile, unit.revision);
  const lastMend = view.mends.at(-1)?.at ?? null;
  /** the radio that was said to fail while nobody cleared its bond yet */
  const [bond, setBond] = useState<string | null>(null);
  const answer = (functionId: string, result: CheckResult, i: number, bondCleared = false) => {
    if (!bondCleared && callsRadioDead(profile, functionId, result)) return setBond(functionId);
    setBond(null);
    void check.run({
      unitId: unit.id,
      functionId,
      result,
      note: "",
      ...(bondCleared ? { bondCleared } : {}),
    });
    list.current?.querySelectorAll<HTMLElement>("[data-function]")[i + 1]?.focus();
  };
  if (functions.length === 0) return null;
  const savingOf = (id: string) =>
    check.pending.findLast((p) => p.unitId === unit.id && p.functionId === id)?.result ?? null;
  const resultOf = (id: string) => view.checks.find((c) => c.functionId === id)?.result ?? null;
  const done = functions.filter(
    (f) => (savingOf(f.id) ?? resultOf(f.id) ?? "not-tested") !== "not-tested",
  ).length;
  return (
    <Block component="section" aria-label={say("functions")} before={2}>
      <Row gap={1.5} oneLine at="baseline">
        <Typography component="h2" variant="h2">
          {say("functions")}
        </Typography>
        <Typography color="text.secondary">
          {say("doneOfFunctionsAnswered", { done, functions: functions.length })}
        </Typography>
      </Row>
      {canWork && (
        <Text variant="body2" color="text.secondary" after={0.5}>
          {say("onARow")} <Kbd>y</Kbd> {say("pass")} <Kbd>x</Kbd> {say("fail")} <Kbd>u</Kbd>{" "}
          {say("notTested")} <Kbd>-</Kbd> {say("notFitted")}
        </Text>
      )}
      <Refusals refusals={check.refusals} />
      <div ref={list}>
        {functions.map((f, i) => {
          const c = view.checks.find((x) => x.functionId === f.id);
          const saving = savingOf(f.id);
          const result = saving ?? c?.result ?? null;
          const stale = c && lastMend !== null && c.at <= lastMend && c.result !== "not-fitted";
          const checkWords = () => {
            if (saving) return say("savingSaving", { saving: CHECK_NAMES[saving] });
            if (c)
              return `${CHECK_NAMES[c.result]}, ${c.by}, ${dayAndTime(c.at, view.settings)}${stale ? say("beforeTheLastMend") : ""}`;
            return say("notTested");
          };
          return (
            <Box
              key={f.id}
              data-function={f.id}
              tabIndex={canWork ? 0 : undefined}
              aria-label={`${f.name}: ${result ? CHECK_NAMES[result] : say("notTested")}${saving ? say("saving") : ""}`}
              onKeyDown={(e) => {
                const hit = KEYS.find(([key]) => key === e.key);
                if (!hit || !canWork || e.target !== e.currentTarget) return;
                e.preventDefault();
                e.stopPropagation();
                answer(f.id, hit[1], i);
              }}
              sx={{
                display: "grid",
                gridTemplateColumns: "20px minmax(0,1fr) auto",
                alignItems: "center",
                columnGap: 1,
                minHeight: 42,
                borderBottom: 1,
                borderColor: "divider",
              }}
            >
              <StateMark state={result ? stateOfCheck(result) : "untested"} />
              <Box sx={{ lineHeight: 1.2 }}>
                {f.name}
                <Box sx={{ fontSize: SIZE.fine, color: stale ? "caution.main" : "text.secondary" }}>
                  {checkWords()}
                </Box>
              </Box>
              {canWork && (
                <AnswerKeys
                  name={f.name}
                  answers={ANSWERS}
                  given={result}
                  onGive={(given) => answer(f.id, given, i)}
                />
              )}
              {bond === f.id && (
                <Box sx={{ gridColumn: "1 / -1" }}>
                  <BondFirst
                    profile={profile}
                    onCleared={() => answer(f.id, "fail", i, true)}
                    onNotYet={() => setBond(null)}
                  />
                </Box>
              )}
            </Box>
          );
        })}
      </div>
    </Block>
  );
}
