"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Link from "next/link";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import type { Advice } from "@/core/decide/advise";
import type { Disposition } from "@/core/decide/ends";
import { firstTry, type TreeNode } from "@/core/decide/walk";
import type { DecideView } from "@/features/decide/view";
import { DISPOSITION_WORDS, casesWords } from "@/features/decide/words/text";
import { say } from "@/features/decide/words/words";
import { checkNamed } from "@/features/find/words/text";
import { BigFigure } from "@/features/units/ui/unit/Station";
import type { UnitView } from "@/features/units/view";
import { money } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { BoundField } from "@/ui/form/BoundField";
import { Block, Row, Text } from "@/ui/kit/layout";

type HeadlineProps = {
  view: UnitView;
  decide: DecideView;
  advice: Advice;
  shop: Settings;
  canWork: boolean;
};

/** What Headline knows and does; the components below only show it. */
function useHeadline({ view, decide, advice, shop, canWork }: HeadlineProps) {
  const deed = useDeed("decision.take");
  const [other, setOther] = useState(false);
  const [chosen, setChosen] = useState<Disposition | null>(null);
  const [route, setRoute] = useState("");
  const [why, setWhy] = useState("");
  const firstOf = (tree: TreeNode) => {
    const tried = firstTry(tree);
    return tried && advice.options[tried.attempt]!;
  };
  const first = firstOf(advice.tree);
  const policyFirst = advice.policy && (firstOf(advice.policy.tree)?.route ?? null);
  const rules =
    advice.policy !== null && (advice.policy.best !== advice.best || policyFirst?.id !== first?.route.id);
  const standing = rules ? advice.policy!.best : advice.best;
  const advised = advice.spread;
  const going = (d: Disposition) => d === "mend" || d === "hold";
  const reason = (): string => {
    if (advice.testFirst) return say("noFaultIsNamedAndNot");
    if (rules)
      return say("theShopsRulePolicyFirstWithout", {
        policyFirst: policyFirst?.name ?? DISPOSITION_WORDS[advice.policy!.best],
        route: first?.route.name ?? DISPOSITION_WORDS[advice.best],
        advice: money(Math.round(advice.value - advice.policy!.value), shop),
      });
    const { tree } = advice;
    if (tree.do === "check" && going(advice.best)) {
      const check = advice.checks[tree.check]!;
      return say("firstLookCheckDecides", {
        check: checkNamed(check.kind, check.name),
        then: first
          ? say("thenMostLikely", {
              route: first.route.name.toLowerCase(),
              mean: Math.round(first.chance.mean * 100),
              chance: casesWords(first.chance),
            })
          : "",
      });
    }
    if (first && going(advice.best))
      return say("firstRouteAtTheFindWorks", {
        route: first.route.name.toLowerCase(),
        find: String(advice.places.find((p) => p.place === first.places[0])?.name),
        mean: Math.round(first.chance.mean * 100),
        chance: casesWords(first.chance),
      });
    return advice.places.some((p) => !p.twin)
      ? say("noAttemptBringsMoreThanIt")
      : say("noOpenFaultToDecideAbout");
  };
  const take = (disposition: Disposition, by: string | null, because: string) =>
    deed.run({
      unitId: view.unit.id,
      version: view.unit.version,
      disposition,
      route: going(disposition) ? by : null,
      why: because,
    });
  const latest = decide.decisions[0];
  const faults = view.faults.filter((f) => f.status === "open").map((f) => f.number);
  const locked = faults.every((n) => decide.awaiting.includes(n) || decide.refused.includes(n));
  const holds = latest && faults.every((n) => latest.faults.includes(n)) && faults.length > 0;
  return {
    view,
    decide,
    advice,
    shop,
    canWork,
    deed,
    other,
    setOther,
    chosen,
    setChosen,
    route,
    setRoute,
    why,
    setWhy,
    rules,
    standing,
    advised,
    going,
    reason,
    take,
    latest,
    locked,
    holds,
  };
}

type HeadlineState = ReturnType<typeof useHeadline>;

export function Headline(props: HeadlineProps) {
  const s = useHeadline(props);
  const { decide, canWork, deed, latest, holds } = s;

  return (
    <Box component="section" aria-label={say("advice")}>
      <Advised {...s} />
      {canWork && (
        <Block before={1.5}>
          {holds && latest && (
            <Text after={1}>
              {say("decided")} <b>{DISPOSITION_WORDS[latest.disposition]}</b>
              {latest.route && say("routeFirst", { route: decide.routeNames[latest.route] ?? latest.route })}.
            </Text>
          )}
          <DecisionKeys {...s} />
          <OtherDecision {...s} />
          <Problem problem={deed.problem} />
        </Block>
      )}
    </Box>
  );
}

function Advised({ advice, standing, reason, rules, shop, advised }: HeadlineState) {
  return (
    <Box sx={{ display: "flex", gap: 3, flexWrap: "wrap", alignItems: "flex-start" }}>
      <Box sx={{ flex: 1, minWidth: 260 }}>
        <Text component="h2" size="figure" strong>
          {advice.testFirst ? say("testItFirst") : DISPOSITION_WORDS[standing]}
        </Text>
        <Text size="lead">{reason()}</Text>
      </Box>
      {!advice.testFirst && (
        <Box
          sx={{
            display: "grid",
            gridTemplateColumns: { xs: "1fr 1fr", sm: "repeat(3, auto)" },
            gap: 2.5,
            "& > *": { maxWidth: 176 },
          }}
        >
          <BigFigure
            value={money(Math.round(rules ? advice.policy!.value : advice.value), shop)}
            label={say("expectedFromHere")}
            detail={say("whatIsSpentLeftOut")}
          />
          <BigFigure
            value={money(Math.round(advised.mean), shop)}
            label={say("marginInAll")}
            detail={say("n8Of10WithinLowTo", {
              low: money(Math.round(advised.low), shop),
              high: money(Math.round(advised.high), shop),
              loss: Math.round(advised.loss * 100),
            })}
          />
          <BigFigure
            value={`${Math.round(advised.minutes)} min`}
            label={say("atTheBench")}
            detail={
              advised.minutes > 0
                ? say("adviceAnHour", {
                    advice: money(Math.round((advice.value / advised.minutes) * 60), shop),
                  })
                : undefined
            }
          />
        </Box>
      )}
    </Box>
  );
}

function DecisionKeys({
  advice,
  view,
  holds,
  deed,
  take,
  standing,
  rules,
  going,
  latest,
  locked,
  setOther,
  other,
}: HeadlineState) {
  return (
    <Row gap={1.5}>
      {advice.testFirst ? (
        <Button component={Link} href={`/units/${view.unit.tag}/test`} variant="contained" size="large">
          {say("goAndTest")}
        </Button>
      ) : (
        <Button
          variant={holds && advice.room > 0 ? "outlined" : "contained"}
          size="large"
          disabled={deed.running}
          onClick={() => take(standing, null, rules ? say("theShopsRule") : "")}
        >
          {holds && latest
            ? say("decideAgainStanding", { standing: DISPOSITION_WORDS[standing] })
            : say("decideStanding", { standing: DISPOSITION_WORDS[standing] })}
        </Button>
      )}
      {holds && latest && going(latest.disposition) && (
        <Button
          component={Link}
          href={`/units/${view.unit.tag}/mend`}
          variant={advice.room > 0 && !locked ? "contained" : "outlined"}
          size="large"
        >
          {say("goAndMend")}
        </Button>
      )}
      <Button size="large" onClick={() => setOther(!other)} aria-expanded={other}>
        {say("otherwise")}
      </Button>
    </Row>
  );
}

function OtherDecision({
  other,
  chosen,
  take,
  route,
  why,
  setOther,
  setWhy,
  setChosen,
  advice,
  shop,
  setRoute,
  deed,
}: HeadlineState) {
  return (
    other && (
      <Form
        onSend={() => {
          if (chosen)
            void take(chosen, route || null, why).then((r) => r?.ok && (setOther(false), setWhy("")));
        }}
        sx={{
          mt: 1.5,
          display: "grid",
          gap: 1.2,
          gridTemplateColumns: { sm: "1fr 1fr" },
          maxWidth: 720,
        }}
      >
        <NativeSelect
          label={say("whatIsDone")}
          value={chosen ?? ""}
          onChange={(e) => setChosen(e.target.value as Disposition)}
          autoFocus
        >
          <option value="">{say("choose")}</option>
          {advice.ends.map((e) => (
            <option key={e.disposition} value={e.disposition}>
              {DISPOSITION_WORDS[e.disposition]}
              {e.value === null || advice.testFirst ? "" : `, ${money(Math.round(e.value), shop)}`}
            </option>
          ))}
        </NativeSelect>
        <NativeSelect
          label={say("byWhichRouteFirst")}
          value={route}
          onChange={(e) => setRoute(e.target.value)}
          disabled={chosen !== "mend" && chosen !== "hold"}
        >
          <option value="">{say("asTheLadderSays")}</option>
          {[...new Map(advice.options.filter((o) => !o.twin).map((o) => [o.route.id, o.route])).values()].map(
            (r) => (
              <option key={r.id} value={r.id}>
                {r.name}
              </option>
            ),
          )}
        </NativeSelect>
        <BoundField
          deed="decision.take"
          name="why"
          label={say("whyNotAsAdvised")}
          value={why}
          onChange={setWhy}
          sx={{ gridColumn: "1 / -1" }}
          helperText={say("bothAreKeptWhatWasAdvised")}
        />
        <Block full>
          <Button type="submit" variant="contained" disabled={!chosen || deed.running}>
            {say("decideSo")}
          </Button>
        </Block>
      </Form>
    )
  );
}
