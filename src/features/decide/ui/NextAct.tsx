"use client";

import Box from "@mui/material/Box";
import type { ReactNode } from "react";

import type { Settings } from "@/contract/deeds";
import type { Advice } from "@/core/decide/advise";
import type { TreeNode } from "@/core/decide/walk";
import type { ActNow } from "@/core/policy/rung";
import { DISPOSITION_WORDS } from "@/features/decide/words/text";
import { say } from "@/features/decide/words/words";
import { checkNamed, outcomeWords } from "@/features/find/words/text";
import { BigFigure } from "@/features/units/ui/unit/Station";
import { clockOf, money } from "@/text/format";
import { Block, Row, Text, Words } from "@/ui/kit/layout";
import type { useAdvice } from "./useAdvice";

/** Advice from before the newest fact: marked at its side, and as easy to read as any. */
export const OLD_ADVICE = { borderLeft: "3px dashed", borderColor: "caution.main", pl: 1.5 };

type Props = {
  got: ReturnType<typeof useAdvice>;
  shop: Settings;
  /** what can be done with it here */
  children?: ReactNode;
};

const going = (advice: Advice): boolean => advice.best === "mend" || advice.best === "hold";

/** An act in words: a look, a route at its places, or the best way to end. */
function actWords(act: Pick<ActNow, "do" | "index">, advice: Advice): string {
  if (act.do === "check") {
    const check = advice.checks[act.index]!;
    return checkNamed(check.kind, check.name);
  }
  if (act.do === "try") return advice.options[act.index]!.route.name;
  const ends = advice.ends.filter(
    (e) => e.value !== null && e.disposition !== "mend" && e.disposition !== "hold",
  );
  const best = [...ends].sort((a, b) => b.value! - a.value!)[0];
  return best ? DISPOSITION_WORDS[best.disposition] : say("endHere");
}

function afterwards(node: TreeNode, advice: Advice): string {
  if (node.do === "check") return actWords({ do: "check", index: node.check }, advice);
  if (node.do === "try") return actWords({ do: "try", index: node.attempt }, advice);
  return actWords({ do: "end", index: -1 }, advice);
}

/** What is next, and what it brings against the second best. */
function compared(advice: Advice): { first: ActNow; second: ActNow | null } {
  const [first, second = null] = advice.acts;
  const ending = advice.acts.find((a) => a.do === "end");
  // where an ending pays most, it is next, whatever the best attempt would have been
  if (!going(advice) && ending)
    return { first: ending, second: advice.acts.find((a) => a.do !== "end") ?? null };
  return { first: first!, second };
}

function ageWords({ fresh, failed }: Props["got"], at: string): string {
  if (fresh) return say("workedOutAt", { at });
  return failed ? say("workedOutBefore", { at }) : say("workedOutBeforeTheNewest", { at });
}

/** The one act that is next for the unit, the same wherever it is shown: what it brings, against what, and why. */
export function NextAct({ got, shop, children }: Props) {
  const { advice } = got;
  // where no fault is open there is nothing to choose between: the unit is to be sold, or to be tested
  const isWeighed = advice !== null && !advice.testFirst && advice.places.some((p) => !p.twin);
  return (
    <Block component="section" aria-label={say("theNextAct")} before={1.5} after={2}>
      {got.failed && <Text role="alert">{say("thisCouldNotBeWorkedOut")}</Text>}
      {!advice && !got.failed && (
        <Text role="status" color="text.secondary" size="lead">
          {say("workingOutWhatIsNext")}
        </Text>
      )}
      {advice && isWeighed && (
        <Box sx={got.fresh ? {} : OLD_ADVICE}>
          <Weighed advice={advice} shop={shop} />
        </Box>
      )}
      {got.at && isWeighed && (
        <Words size="small" quiet role="note">
          {ageWords(got, clockOf(got.at, shop))}
        </Words>
      )}
      {children}
    </Block>
  );
}

function Weighed({ advice, shop }: Pick<Props, "shop"> & { advice: Advice }) {
  const { first, second } = compared(advice);
  const ahead = second ? first.value - second.value : 0;
  const beyond = advice.upper - advice.value;
  return (
    <Row gap={3} at="start">
      <Box sx={{ flex: 1, minWidth: 260 }}>
        <Words quiet>{say("nextIs")}</Words>
        <Text component="h2" size="head" strong>
          {actWords(first, advice)}
        </Text>
        {first.do === "check" && <WhatItTells advice={advice} />}
        {second && (
          <Words size="small">
            {say("bringsMoreThan", {
              more: money(Math.round(ahead), shop),
              second: actWords(second, advice),
              value: money(Math.round(second.value), shop),
            })}
          </Words>
        )}
        {beyond >= 1 && (
          <Words size="small" quiet>
            {say("noPlanBringsMoreThan", { upper: money(Math.round(advice.upper), shop) })}
          </Words>
        )}
      </Box>
      <BigFigure value={money(Math.round(advice.value), shop)} label={say("bringsFromHere")} />
    </Row>
  );
}

/** What each outcome of the check would lead to: that is why it is worth its minutes. */
function WhatItTells({ advice }: { advice: Advice }) {
  const { tree } = advice;
  if (tree.do !== "check") return null;
  return (
    <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
      {tree.outcomes.map((o) => (
        <li key={o.code}>
          {say("ifOutcomeThen", {
            outcome: outcomeWords(o.code),
            chance: Math.round(o.chance * 100),
            then: afterwards(o.then, advice),
          })}
        </li>
      ))}
    </Box>
  );
}
