"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import { Form } from "@/ui/fields/Form";
import { decider } from "@/browser/decide";
import type { Role } from "@/contract/roles";
import type { Settings } from "@/contract/deeds";
import type { Advice, Disposition, End, Flip } from "@/core/decide/advise";
import type { DecideView, DecisionView } from "@/features/decide/view";
import type { QuestionView } from "@/features/case/asked";
import type { UnitView } from "@/features/units/view";
import { placeName } from "@/core/profile/profile";
import {
  casesWords,
  DISPOSITION_WORDS,
  FLIP_WORDS,
  SCHOOL_WORDS,
  SKIPPED_WORDS,
  whyWords,
} from "@/features/decide/words/text";
import { dayAndTime, money } from "@/text/format";
import { placeWords } from "@/text/names";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { FIGURES } from "@/ui/figures";
import { PlanView } from "@/ui/plan/PlanView";
import { StateMark } from "@/ui/state/StateMark";
import { BigFigure, PlanFrame, Station } from "@/features/units/ui/unit/Station";
import { Ladder } from "./Ladder";
import { Questions } from "./Questions";
import { Terms } from "./Terms";
import { useAsked } from "./useAsked";
import { say } from "@/features/decide/words/words";
import { BoundField } from "@/ui/form/BoundField";

type Props = { view: UnitView; decide: DecideView; questions: QuestionView[]; role: Role; publicUrl: string };

/** What it is worth, which route, whose yes: the advice first, then what it is made of and what would change it. */
export function DecideStation({ view, decide, questions, role, publicUrl }: Props) {
  const { unit, profile, settings: shop } = view;
  const { input } = decide;
  const key = JSON.stringify(input);
  const { value: advice, fresh, failed } = useAsked(key, () => decider().advise(input));
  const flips = useAsked(fresh && advice ? key : null, () => decider().flips(input, advice!));
  const faults = view.faults.filter((f) => f.status === "open");
  const canWork = role !== "viewer" && unit.ending === null && !unit.swollen;
  if (unit.swollen) return <Alert severity="error">{say("lockedThisUnitIsInQuarantine")}</Alert>;
  const adviceBody = () => {
    if (failed) return <Alert severity="error">{say("thisCouldNotBeWorkedOut")}</Alert>;
    if (!advice)
      return (
        <Typography role="status" color="text.secondary" sx={{ fontSize: "1.2rem" }}>
          {say("workingOutTheLadder")}
        </Typography>
      );
    return (
      <Box sx={{ opacity: fresh ? 1 : 0.5 }}>
        {(decide.awaiting.length > 0 || decide.refused.length > 0) && (
          <Alert severity="warning" role="note" sx={{ mb: 1.5 }}>
            {decide.awaiting.length > 0 && (
              <>
                <b>{say("waitsForTheCustomerSYes")}</b>{" "}
                {say("faultAwaitingWorkThereIsLocked", { awaiting: decide.awaiting.join(", ") })}{" "}
              </>
            )}
            {decide.refused.length > 0 &&
              say("turnedDownByTheCustomerAnd", { refused: decide.refused.join(", ") })}
          </Alert>
        )}
        <Untested view={view} input={input} testFirst={advice.testFirst} />
        <Headline {...{ view, decide, advice, shop, canWork }} />
        <StopLoss advice={advice} decide={decide} shop={shop} />
        {(advice.tree.do === "try" || advice.places.some((p) => !p.twin)) && (
          <Box component="section" aria-label={say("ladder")} sx={{ mt: 2 }}>
            <Typography component="h2" variant="h2">
              {say("theLadder")}
            </Typography>
            <Ladder advice={advice} tree={advice.tree} shop={shop} label={say("ladderOfAttempts")} />
            {advice.setAside > 0 && (
              <Typography color="text.secondary">
                {say("setAsideOfTheRoutesWereSet", { setAside: advice.setAside })}
              </Typography>
            )}
          </Box>
        )}
        {!advice.testFirst && (
          <Box
            sx={{
              display: "grid",
              gridTemplateColumns: { xs: "minmax(0,1fr)", sm: "minmax(0,1.3fr) minmax(0,1fr)" },
              gap: 3,
              mt: 3,
            }}
          >
            <Ends advice={advice} shop={shop} />
            <Box>
              <Schools advice={advice} decide={decide} shop={shop} />
              <Flips flips={flips.value} shop={shop} />
            </Box>
          </Box>
        )}
        <Skipped advice={advice} decide={decide} />
      </Box>
    );
  };
  return (
    <Station
      plan={
        <>
          <PlanFrame height={270}>
            <PlanView
              profile={profile}
              revision={unit.revision}
              states={Object.fromEntries(faults.map((f) => [f.place, "fail" as const]))}
            />
          </PlanFrame>
          <Spent advice={advice} input={decide.input} shop={shop} />
          {advice && advice.twins.length > 0 && <Twins advice={advice} shop={shop} />}
        </>
      }
    >
      {adviceBody()}
      <Questions view={view} questions={questions} advice={advice} canWork={canWork} publicUrl={publicUrl} />
      <Past decisions={decide.decisions} names={decide.routeNames} shop={shop} />
    </Station>
  );
}

type HeadlineProps = {
  view: UnitView;
  decide: DecideView;
  advice: Advice;
  shop: Settings;
  canWork: boolean;
};

/** What happens at it: state, deeds and keys of Headline. */
function useHeadline({ view, decide, advice, shop, canWork }: HeadlineProps) {
  const deed = useDeed("decision.take");
  const [other, setOther] = useState(false);
  const [chosen, setChosen] = useState<Disposition | null>(null);
  const [route, setRoute] = useState("");
  const [why, setWhy] = useState("");
  const first = advice.tree.do === "try" ? advice.options[advice.tree.attempt]! : null;
  const policyFirst =
    advice.policy?.tree.do === "try" ? advice.options[advice.policy.tree.attempt]!.route : null;
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

function Headline(props: HeadlineProps) {
  const s = useHeadline(props);
  const { decide, canWork, deed, latest, holds } = s;

  return (
    <Box component="section" aria-label={say("advice")}>
      <Advised {...s} />
      {canWork && (
        <Box sx={{ mt: 1.5 }}>
          {holds && latest && (
            <Typography sx={{ mb: 1 }}>
              {say("decided")} <b>{DISPOSITION_WORDS[latest.disposition]}</b>
              {latest.route && say("routeFirst", { route: decide.routeNames[latest.route] ?? latest.route })}.
            </Typography>
          )}
          <DecisionKeys {...s} />
          <OtherDecision {...s} />
          <Problem problem={deed.problem} />
        </Box>
      )}
    </Box>
  );
}

function Advised({ advice, standing, reason, rules, shop, advised }: HeadlineState) {
  return (
    <Box sx={{ display: "flex", gap: 3, flexWrap: "wrap", alignItems: "flex-start" }}>
      <Box sx={{ flex: 1, minWidth: 260 }}>
        <Typography component="h2" sx={{ fontSize: "2rem", fontWeight: 800, lineHeight: 1.1 }}>
          {advice.testFirst ? say("testItFirst") : DISPOSITION_WORDS[standing]}
        </Typography>
        <Typography sx={{ fontSize: "1.1rem" }}>{reason()}</Typography>
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
    <Box sx={{ display: "flex", gap: 1.5, flexWrap: "wrap" }}>
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
    </Box>
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
        <Box sx={{ gridColumn: "1 / -1" }}>
          <Button type="submit" variant="contained" disabled={!chosen || deed.running}>
            {say("decideSo")}
          </Button>
        </Box>
      </Form>
    )
  );
}

/** What nobody tested: it is named, and the figures below hold only if it is sound. */
function Untested({
  view,
  input,
  testFirst,
}: {
  view: UnitView;
  input: DecideView["input"];
  testFirst: boolean;
}) {
  const { untested } = input;
  if (untested.length === 0) return null;
  const things = [...view.profile.controls, ...view.profile.functions];
  const names = untested.map((id) => placeName(things.find((t) => t.id === id) ?? { id }));
  const shown = names.slice(0, SHOWN_UNTESTED).join(", ");
  return (
    <Alert severity="warning" role="note" sx={{ mb: 1.5 }} icon={<StateMark state="untested" />}>
      <b>
        {untested.length === 1
          ? "1 thing is not tested"
          : say("untestedThingsAreNotTested", { untested: untested.length })}
        :
      </b>{" "}
      {shown}
      {names.length > SHOWN_UNTESTED && say("andNamesMore", { names: names.length - SHOWN_UNTESTED })}.{" "}
      {testFirst ? "" : say("onlyIfAllOfThatIs")}
      <Link href={`/units/${view.unit.tag}/test`}>{say("testIt")}</Link>
    </Alert>
  );
}
const SHOWN_UNTESTED = 6;

/** Spent money and hours against what is still to be gained; it speaks up after each failed attempt. */
function StopLoss({ advice, decide, shop }: { advice: Advice; decide: DecideView; shop: Settings }) {
  const begun = decide.input.tried.length > 0 || decide.input.spent.minutes > 0;
  if (!begun || advice.places.every((p) => p.twin)) return null;
  const stop = advice.room <= 0;
  return (
    <Alert severity={stop ? "error" : "info"} role={stop ? "alert" : "status"} sx={{ mt: 2 }}>
      {stop ? (
        <>
          <b>{say("stopTheLineIsCrossed")}</b>{" "}
          {say("goingOnBringsGiveUpOnAverage", {
            giveUp: money(Math.round(advice.giveUp + advice.room), shop),
            giveUp2: money(Math.round(advice.giveUp), shop),
            sunk: money(advice.sunk, shop),
            minutes: decide.input.spent.minutes,
          })}
        </>
      ) : (
        <>
          {say("goingOnIsWorthRoomMore", {
            room: money(Math.round(advice.room), shop),
            sunk: money(advice.sunk, shop),
            minutes: decide.input.spent.minutes,
          })}
        </>
      )}
    </Alert>
  );
}

function Spent({
  advice,
  input,
  shop,
}: {
  advice: Advice | null;
  input: DecideView["input"];
  shop: Settings;
}) {
  const { purchase, parts, minutes } = input.spent;
  return (
    <Box sx={{ mt: 1.5, fontSize: "0.92rem" }}>
      <b>{say("alreadySpentLeftOutOfThe")}</b>
      <div>
        {say("customerPartsPartsMinutesMinutes", {
          customer: input.customer
            ? say("aCustomersUnit")
            : say("boughtForPurchaseWithCarriage", { purchase: money(purchase, shop) }),
          parts: money(parts, shop),
          minutes,
        })}
        {advice && say("inAllSunk", { sunk: money(advice.sunk, shop) })}.
      </div>
      <div>
        {say("goingRatesNewNewMinorMended", {
          newMinor: money(input.market.newMinor, shop),
          aMinor: money(input.market.aMinor, shop),
          asFoundMinor: money(input.market.asFoundMinor, shop),
        })}
      </div>
      {input.caps.length > 0 && !input.customer && (
        <div>
          <b>
            {say("soldAsGrade")} {["A", "B", "C"][Math.max(...input.caps.map((c) => c.cap))]} {say("atBest")}
          </b>{" "}
          {input.caps
            .map((c) =>
              c.what === "outside"
                ? say("theOutside")
                : say("whatMeasuredCap", { what: placeWords(c.what), cap: String(["A", "B", "C"][c.cap]) }),
            )
            .join(", ")}
          .
        </div>
      )}
      {input.customer && (
        <div>
          {say("ifItBreaksForGoodOn", {
            asFoundMinor: money(input.market.asFoundMinor, shop),
            limit:
              input.customer.limit === null
                ? say("noCostLimitWasGivenWhat")
                : say("theyPayAtMostLimit", { limit: money(input.customer.limit, shop) }),
          })}
        </div>
      )}
    </Box>
  );
}

function Twins({ advice, shop }: { advice: Advice; shop: Settings }) {
  return (
    <Box sx={{ mt: 1.5, fontSize: "0.92rem" }}>
      <b>{say("theLikePartWhileItIs")}</b>
      {advice.twins.map((t) => (
        <div key={t.place}>
          {say("placeNowNowLeftLaterOn", {
            place: t.place,
            now: money(Math.round(t.now), shop),
            later: money(Math.round(t.later), shop),
            chance: Math.round(t.chance * 100),
            now2: t.now < t.later ? say("doItNow") : say("leaveIt"),
          })}
        </div>
      ))}
    </Box>
  );
}

function Ends({ advice, shop }: { advice: Advice; shop: Settings }) {
  const cash = (x: number) => money(x, shop);
  const order = (e: End) => (e.value === null ? -Infinity : e.value);
  return (
    <Box component="section" aria-label={say("waysToEnd")}>
      <Typography component="h2" variant="h2" sx={{ mb: 0.5 }}>
        {say("eachWayFromHere")}
      </Typography>
      {[...advice.ends]
        .sort((a, b) => order(b) - order(a))
        .map((e) => (
          <Box
            key={e.disposition}
            sx={{
              display: "grid",
              gridTemplateColumns: "104px minmax(0,1fr)",
              gap: 1.5,
              py: 0.6,
              borderTop: 1,
              borderColor: "divider",
            }}
          >
            <Box sx={{ textAlign: "right" }}>
              {e.value === null ? (
                <Box sx={{ color: "text.secondary" }}>{say("notPossible")}</Box>
              ) : (
                <Terms terms={e.terms} total={e.value} shop={shop} label={DISPOSITION_WORDS[e.disposition]} />
              )}
            </Box>
            <Box>
              <b>{DISPOSITION_WORDS[e.disposition]}</b>
              {e.disposition === advice.best && (
                <Box component="span" sx={{ color: "pass.main", fontWeight: 700 }}>
                  {" "}
                  {say("best2")}
                </Box>
              )}
              <Box sx={{ fontSize: "0.88rem", color: "text.secondary" }}>
                {whyWords(e.why, cash)}
                {e.spread &&
                  say("lossInLossOf100Minutes", {
                    loss: Math.round(e.spread.loss * 100),
                    minutes: Math.round(e.spread.minutes),
                  })}
              </Box>
            </Box>
          </Box>
        ))}
    </Box>
  );
}

/** Each school's own plan with its figure: what the disagreement costs. */
function Schools({ advice, decide, shop }: { advice: Advice; decide: DecideView; shop: Settings }) {
  if (advice.schools.length === 0) return null;
  const top = Math.max(...advice.schools.map((s) => s.value), 1);
  return (
    <Box component="section" aria-label={say("schools")}>
      <Typography component="h2" variant="h2" sx={{ mb: 0.5 }}>
        {say("byOneSchoolAlone")}
      </Typography>
      {advice.schools.map((s) => (
        <Box key={s.school} sx={{ py: 0.4 }}>
          <Box sx={{ display: "flex", justifyContent: "space-between", gap: 1 }}>
            <span>
              <b>{SCHOOL_WORDS[s.school]}</b>
              <Box component="span" sx={{ color: "text.secondary", fontSize: "0.88rem" }}>
                {s.first ? ` ${s.first}` : say("wouldNotBegin")}
              </Box>
            </span>
            <Box sx={{ fontFamily: FIGURES, fontWeight: 700, whiteSpace: "nowrap" }}>
              {money(Math.round(s.value), shop)}
              <Box component="span" sx={{ color: "text.secondary", fontWeight: 400 }}>
                {s.less > 0.5 ? ` −${money(Math.round(s.less), shop)}` : say("same")}
              </Box>
            </Box>
          </Box>
          <Box sx={{ height: 5, bgcolor: "divider", borderRadius: 1 }}>
            <Box
              sx={{
                height: 5,
                width: `${Math.max(0, Math.min(100, (s.value / top) * 100))}%`,
                bgcolor: "primary.main",
                borderRadius: 1,
              }}
            />
          </Box>
        </Box>
      ))}
      {decide.input.rules.length > 0 && (
        <Typography sx={{ fontSize: "0.88rem" }} color="text.secondary">
          {advice.policy
            ? say("theShopsRulesGivePolicy", { policy: money(Math.round(advice.policy.value), shop) })
            : say("noRuleOfTheShopFits")}
        </Typography>
      )}
    </Box>
  );
}

function Flips({ flips, shop }: { flips: Flip[] | null; shop: Settings }) {
  return (
    <Box component="section" aria-label={say("whatWouldChangeIt")} sx={{ mt: 2 }}>
      <Typography component="h2" variant="h2" sx={{ mb: 0.5 }}>
        {say("whatWouldChangeIt")}
      </Typography>
      {!flips && <Typography color="text.secondary">{say("looking")}</Typography>}
      {flips?.map((f) => {
        const value = (x: number) =>
          f.kind === "chance" ? `${Math.round(x * 100)} %` : money(Math.round(x), shop);
        return (
          <Box key={f.kind} sx={{ py: 0.3, fontSize: "0.95rem" }}>
            {FLIP_WORDS[f.kind]} <b>{value(f.now)}</b>:{" "}
            {f.at === null
              ? say("nothingInReachChangesIt")
              : say("atAt2ItIsBecomesFirstRoute", {
                  at: f.at > f.now ? say("from") : say("downTo"),
                  at2: value(f.at),
                  becomes: f.becomes ? DISPOSITION_WORDS[f.becomes].toLowerCase() : "",
                  firstRoute: f.firstRoute
                    ? say("firstRouteFirst", { firstRoute: f.firstRoute.toLowerCase() })
                    : "",
                })}
          </Box>
        );
      })}
    </Box>
  );
}

function Skipped({ advice, decide }: { advice: Advice; decide: DecideView }) {
  if (advice.skipped.length === 0) return null;
  return (
    <Box component="details" sx={{ mt: 2, "& summary": { cursor: "pointer", fontWeight: 600 } }}>
      <summary>
        {advice.skipped.length === 1
          ? "1 route is left out"
          : say("skippedRoutesAreLeftOut", { skipped: advice.skipped.length })}
      </summary>
      {advice.skipped.map((s) => (
        <div key={`${s.route} ${s.place}`}>
          {decide.routeNames[s.route]}{" "}
          {say("atThePlaceWhy", { place: placeWords(s.place), why: SKIPPED_WORDS[s.why] })}
        </div>
      ))}
    </Box>
  );
}

function Past({
  decisions,
  names,
  shop,
}: {
  decisions: DecisionView[];
  names: Record<string, string>;
  shop: Settings;
}) {
  if (decisions.length === 0) return null;
  return (
    <Box component="section" aria-label={say("decisions")} sx={{ mt: 3 }}>
      <Typography component="h2" variant="h2">
        {say("decidedSoFar")}
      </Typography>
      {decisions.map((d) => (
        <Box key={d.id} sx={{ py: 0.8, borderTop: 1, borderColor: "divider" }}>
          <b>{DISPOSITION_WORDS[d.disposition]}</b>
          {d.route && say("routeFirst", { route: names[d.route] ?? d.route })}
          {d.forecast &&
            say("forecastExpectedMarginInAll", {
              forecast: money(d.forecast.value, shop),
              margin: money(d.forecast.margin, shop),
            })}
          {d.why && say("whyOfDecision", { why: d.why })}
          <Box sx={{ fontSize: "0.88rem", color: "text.secondary" }}>
            {say("byAtAdvisedWasBest", {
              by: d.by,
              at: dayAndTime(d.at, shop),
              best: DISPOSITION_WORDS[d.advised.best].toLowerCase(),
            })}
            {d.advised.first && say("firstFirst", { first: names[d.advised.first] ?? d.advised.first })}{" "}
            {say("atAdvised", { advised: money(d.advised.value, shop) })}
            {d.advised.policy && say("theRulesGavePolicy", { policy: money(d.advised.policy.value, shop) })}.
          </Box>
        </Box>
      ))}
    </Box>
  );
}
