"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";

import { planner, proxy } from "@/browser/plan";
import type { PlanWhy } from "@/core/allocate/explain";
import type { Progress } from "@/core/allocate/model";
import type { Chosen, Lock, Plan, PlanProblem } from "@/core/allocate/problem";
import type { PlanSubject, PlanView } from "@/features/parts/plan";
import { money, figure } from "@/text/format";
import { CHOICE_WORDS } from "@/features/parts/words/text";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import type { PartsProps } from "./props";
import { Figure, Table } from "@/ui/kit/Table";
import { say } from "@/features/parts/words/words";
import { allOf, inTurn } from "@/text/lists";

const LEFT_WORDS: Record<PlanView["left"][number]["why"], string> = {
  "not-tested": say("notTestedYet"),
  "no-fault": say("nothingOpen"),
  "answer-awaited": say("waitsForItsOwnersAnswer"),
  quarantine: say("inQuarantine"),
  wet: say("notDryYet"),
};

type Result = { plan: Plan; why: PlanWhy[]; problem: PlanProblem; locks: Lock[] };

/** What happens at it: state, deeds and keys of PlanTab. */
function usePlanTab({ view, shop, canWork, hours }: Omit<PartsProps, "view"> & { view: PlanView }) {
  const router = useRouter();
  const apply = useDeed("plan.apply");
  const [locks, setLocks] = useState<Lock[]>([]);
  const [progress, setProgress] = useState<Progress | null>(null);
  const [result, setResult] = useState<Result | null>(null);
  const [stopped, setStopped] = useState(false);
  const [next, setNext] = useState<{ part: string; adds: number }[] | null>(null);
  const [pieces, setPieces] = useState<{ done: number; of: number } | null>(null);
  const [asked, setAsked] = useState(String(hours));
  const [applied, setApplied] = useState<number | null>(null);
  const [failed, setFailed] = useState(false);
  const running = useRef<ReturnType<typeof planner> | null>(null);
  useEffect(() => () => running.current?.end(), []);
  const end = () => {
    running.current?.end();
    running.current = null;
  };
  const start = async (withLocks: Lock[]) => {
    end();
    const mine = planner();
    running.current = mine;
    setLocks(withLocks);
    setStopped(false);
    setFailed(false);
    setApplied(null);
    setNext(null);
    setPieces(null);
    setProgress({ seconds: 0, best: null, bound: null, gap: null });
    const problem = { ...view.problem, locks: withLocks };
    try {
      const { plan, why } = await mine.api.plan(
        problem,
        proxy((p: Progress) => setProgress(p)),
      );
      if (running.current !== mine) return;
      setProgress(null);
      setResult({ plan, why, problem, locks: withLocks });
      if (plan.status === "impossible") return;
      const parts = [
        ...new Set(problem.units.flatMap((u) => u.options.flatMap((o) => o.needs.flatMap((n) => n.from)))),
      ];
      setPieces({ done: 0, of: parts.length });
      const worth = await mine.api.nextPiece(
        problem,
        plan,
        parts,
        proxy((done: number) => setPieces({ done, of: parts.length })),
      );
      if (running.current !== mine) return;
      setPieces(null);
      setNext(worth.filter((w) => w.adds > 0).sort((a, b) => b.adds - a.adds));
    } catch {
      if (running.current === mine) {
        setProgress(null);
        setFailed(true);
      }
    }
  };
  const cancel = () => {
    end();
    setProgress(null);
    setPieces(null);
    setStopped(true);
  };
  const subject = (id: string) => view.subjects.find((s) => s.id === id)!;
  const tagOf = (id: string) =>
    view.subjects.find((s) => s.id === id)?.tag ?? view.donors.find((d) => d.id === id)?.tag ?? "";
  const set = (lock: Lock) =>
    start([...locks.filter((l) => l.unit !== lock.unit || l.option !== lock.option), lock]);
  const send = async () => {
    if (!result) return;
    const { plan, why } = result;
    const lines = plan.chosen.flatMap((c) =>
      c.flows.flatMap((f) =>
        f.source.kind === "bought" || f.source.kind === "ordered"
          ? []
          : [
              {
                unitId: c.unit,
                slot: f.slot,
                part: f.part,
                count: f.count,
                source:
                  f.source.kind === "stock"
                    ? ({ kind: "stock" } as const)
                    : ({ kind: "donor", donorUnitId: f.source.donor, donorSlot: f.source.slot } as const),
              },
            ],
      ),
    );
    const choices = plan.chosen.map((c) => ({
      unitId: c.unit,
      choice: CHOICE_WORDS[c.option.choice],
      why: words(
        c,
        why.find((w) => w.unit === c.unit)!,
      ).slice(0, 300),
    }));
    // a unit that is to be stripped is still whole: its parts are put aside once it is a donor
    const standing = new Set(view.donors.map((d) => d.id));
    const now = lines.filter((l) => l.source.kind === "stock" || standing.has(l.source.donorUnitId));
    const done = await apply.run({ lines: now, choices, valueMinor: Math.round(plan.value) });
    if (done?.ok) setApplied(done.value.reserved);
  };
  const wayName = (s: PlanSubject, routes: readonly string[]) => inTurn(routes.map((id) => s.ways[id] ?? id));
  const words = (c: Chosen, w: PlanWhy): string => {
    const takes = w.takes.map((t) => {
      const fromWords = () => {
        if (t.from === "stock") return say("fromTheShelf");
        if (t.from === "ordered") return say("thatIsOnItsWay");
        if (tagOf(t.from)) return say("outOfFrom", { from: tagOf(t.from) });
        return say("toBeBought");
      };
      return `${t.count > 1 ? `${t.count} ` : ""}${view.parts[t.part] ?? t.part} ${fromWords()}`;
    });
    const frees = w.frees.map((f) =>
      say("itsPartFreesTo", { part: view.parts[f.part] ?? f.part, to: allOf(f.to.map(tagOf)) }),
    );
    const alone =
      w.alone && w.alone.option !== c.option.id
        ? say("aloneItWouldBringAloneChoice", {
            alone: money(Math.round(w.alone.value), shop),
            choice:
              CHOICE_WORDS[
                view.problem.units
                  .find((u) => u.id === c.unit)!
                  .options.find((o) => o.id === w.alone!.option)!.choice
              ],
          })
        : "";
    return [...takes, ...frees].join("; ") + alone;
  };
  const order: Record<Chosen["option"]["choice"], number> = {
    mend: 0,
    strip: 1,
    sell: 2,
    keep: 3,
    "hand-back": 4,
    scrap: 5,
  };
  const plan = result?.plan;
  const changed = result && JSON.stringify(result.locks) !== JSON.stringify(locks);
  return {
    view,
    shop,
    canWork,
    hours,
    router,
    apply,
    locks,
    progress,
    result,
    stopped,
    next,
    pieces,
    asked,
    setAsked,
    applied,
    failed,
    start,
    cancel,
    subject,
    set,
    send,
    wayName,
    words,
    order,
    plan,
    changed,
  };
}
type PlanTabState = ReturnType<typeof usePlanTab>;

/** The plan for the backlog: what to mend, strip, buy and keep, with why; locked choices stay, and applying it puts the parts aside. */
export function PlanTab(props: Omit<PartsProps, "view"> & { view: PlanView }) {
  const s = usePlanTab(props);
  const { result, view, shop, apply, progress, stopped, applied, failed, start, plan } = s;

  return (
    <Box>
      <PlanHead {...s} />
      {progress && (
        <Box role="status">
          <LinearProgress />
          {say("searchingSecondsS", { seconds: figure(progress.seconds, 1) })}
          {progress.best !== null && say("bestSoFarBest", { best: money(Math.round(progress.best), shop) })}
          {progress.gap !== null && say("atMostGapFromTheBest", { gap: figure(100 * progress.gap, 2) })}
        </Box>
      )}
      {stopped && (
        <Alert severity="info" role="status">
          {say("stoppedNothingWasChanged")}
        </Alert>
      )}
      {failed && <Alert severity="error">{say("theSearchBrokeOffNothingWas")}</Alert>}
      {plan?.status === "impossible" && (
        <Alert severity="error">
          {say("withWhatIsLockedThereIs")} <Button onClick={() => start([])}>{say("unlockAll")}</Button>
        </Alert>
      )}
      {result && plan && plan.status !== "impossible" && (
        <>
          <PlanFigures {...s} plan={plan} />
          {applied !== null && (
            <Alert severity="success" role="status" sx={{ mb: 1 }}>
              {say("appliedAppliedPartIsPutAside", { applied })}
            </Alert>
          )}
          <Problem problem={apply.problem} />
          <PlanTable {...s} result={result} plan={plan} />
          <ToBeBought {...s} plan={plan} />
          <NextPiece {...s} />
        </>
      )}
      {view.problem.units.length === 0 && (
        <Typography color="text.secondary">{say("noUnitHasAnOpenFault")}</Typography>
      )}
    </Box>
  );
}

function PlanHead({
  asked,
  router,
  setAsked,
  hours,
  plan,
  start,
  locks,
  progress,
  view,
  pieces,
  cancel,
}: PlanTabState) {
  return (
    <Box sx={{ display: "flex", gap: 2, alignItems: "center", flexWrap: "wrap", mb: 1.5 }}>
      <Form
        onSend={() => {
          if (/^\d{1,3}$/.test(asked)) router.push(`/parts?tab=plan&hours=${asked}`);
        }}
      >
        <TextField
          label={say("benchHours")}
          value={asked}
          onChange={(e) => setAsked(e.target.value.replace(/\D/g, ""))}
          onBlur={() =>
            /^\d{1,3}$/.test(asked) &&
            Number(asked) !== hours &&
            router.push(`/parts?tab=plan&hours=${asked}`)
          }
          sx={{ width: 150 }}
          slotProps={{ htmlInput: { inputMode: "numeric" } }}
        />
      </Form>
      <Button
        variant={plan ? "outlined" : "contained"}
        size="large"
        onClick={() => start(locks)}
        disabled={progress !== null || view.problem.units.length === 0}
      >
        {plan ? say("planAgain") : say("makeThePlan")}
      </Button>
      {(progress || pieces) && <Button onClick={cancel}>{say("stop")}</Button>}
      <span>
        {say("unitsUnitsWithOpenFaultsDonors", {
          units: view.problem.units.length,
          donors: view.problem.donors.length,
          stock: view.problem.stock.length,
        })}
        {view.left.length > 0 && (
          <>
            ;{" "}
            <details style={{ display: "inline-block" }}>
              <summary style={{ cursor: "pointer" }}>
                {say("leftLeftOut", { left: view.left.length })}
              </summary>
              {view.left.map((l) => `${l.tag} ${LEFT_WORDS[l.why]}`).join(", ")}
            </details>
          </>
        )}
      </span>
    </Box>
  );
}

function PlanFigures({
  plan,
  shop,
  hours,
  canWork,
  applied,
  send,
  apply,
  changed,
}: PlanTabState & { plan: NonNullable<PlanTabState["plan"]> }) {
  return (
    <Box
      sx={{ display: "flex", gap: 3, alignItems: "baseline", flexWrap: "wrap", mb: 1 }}
      role="status"
      aria-label={say("thePlan")}
    >
      <span>
        <Figure big>{money(Math.round(plan.value), shop)}</Figure> {say("expectedFromTheBacklog")}
      </span>
      <span>
        <Figure>{figure(plan.minutes / 60, 1)} h</Figure> {say("ofHoursH", { hours })}
      </span>
      <span>
        {plan.status === "proven"
          ? say("provenTheBestThereIsIn", { seconds: figure(plan.seconds, 1) })
          : say("atMostGapFromTheBest2", { gap: figure(100 * plan.gap, 2) })}
      </span>
      {canWork && applied === null && (
        <Button variant="contained" size="large" onClick={send} disabled={apply.running || Boolean(changed)}>
          {say("applyIt")}
        </Button>
      )}
    </Box>
  );
}

function PlanTable({
  plan,
  order,
  result,
  subject,
  wayName,
  shop,
  words,
  start,
  locks,
  set,
}: PlanTabState & { result: NonNullable<PlanTabState["result"]> } & {
  plan: NonNullable<PlanTabState["plan"]>;
}) {
  return (
    <Table
      label={say("whatToDoWithEachUnit")}
      heads={[say("unit"), say("do"), say("brings"), say("why"), say("lock")]}
      minWidth={760}
    >
      {[...plan.chosen]
        .sort((a, b) => order[a.option.choice] - order[b.option.choice])
        .map((c) => {
          const w = result.why.find((x) => x.unit === c.unit)!;
          const s = subject(c.unit);
          const kept = result.locks.some((l) => l.unit === c.unit && l.as === "keep");
          const barred = result.locks.filter((l) => l.unit === c.unit && l.as === "not").length;
          return (
            <tr key={c.unit}>
              <td>
                <Link href={`/units/${s.tag}`}>{s.tag}</Link>
                <Box sx={{ color: "text.secondary", fontSize: "0.88rem" }}>{s.model}</Box>
              </td>
              <td>
                <b>{CHOICE_WORDS[c.option.choice]}</b>
                {c.option.choice === "mend" && (
                  <Box sx={{ fontSize: "0.9rem" }}>{wayName(s, c.option.routes ?? [])}</Box>
                )}
              </td>
              <td>
                <Figure>{money(w.inPlan, shop)}</Figure>
              </td>
              <td>{words(c, w)}</td>
              <td>
                <Box sx={{ display: "flex", gap: 0.5, whiteSpace: "nowrap" }}>
                  {kept || barred > 0 ? (
                    <Button size="small" onClick={() => start(locks.filter((l) => l.unit !== c.unit))}>
                      {kept ? say("keptUnlock") : say("barredBarredUnlock", { barred })}
                    </Button>
                  ) : null}
                  {!kept && (
                    <Button
                      size="small"
                      aria-label={say("keepThisForTag", { tag: s.tag })}
                      onClick={() => set({ unit: c.unit, option: c.option.id, as: "keep" })}
                    >
                      {say("keepThis")}
                    </Button>
                  )}
                  {!kept && (
                    <Button
                      size="small"
                      aria-label={say("notThatForTag", { tag: s.tag })}
                      onClick={() => set({ unit: c.unit, option: c.option.id, as: "not" })}
                    >
                      {say("notThat")}
                    </Button>
                  )}
                </Box>
              </td>
            </tr>
          );
        })}
    </Table>
  );
}

function ToBeBought({ plan, view, shop }: PlanTabState & { plan: NonNullable<PlanTabState["plan"]> }) {
  return (
    plan.orders.length > 0 && (
      <Box component="section" aria-label={say("toBeBought2")} sx={{ mt: 2 }}>
        <Typography component="h2" variant="h2">
          {say("toBeBoughtForIt")}
        </Typography>
        {plan.orders.map((o) => {
          const offer = view.problem.offers.find((x) => x.id === o.offer)!;
          return (
            <div key={o.offer}>
              {o.packs} x {offer.pack} {view.parts[offer.part]} {say("from2")}{" "}
              {view.suppliers[offer.supplier]}: <Figure>{money(o.costMinor, shop)}</Figure>
            </div>
          );
        })}
        <div>{say("andCarriageCarriageMinor", { carriageMinor: money(plan.carriageMinor, shop) })}</div>
      </Box>
    )
  );
}

function NextPiece({ pieces, next, shop, view }: PlanTabState) {
  return (
    <Box component="section" aria-label={say("theNextPiece")} sx={{ mt: 2 }}>
      <Typography component="h2" variant="h2">
        {say("whatOneMorePieceWouldAdd")}
      </Typography>
      {pieces && (
        <span role="status">{say("workingItOutDoneOfOf", { done: pieces.done, of: pieces.of })}</span>
      )}
      {next && next.length === 0 && <span>{say("nothingNoPartIsShort")}</span>}
      {next?.slice(0, 12).map((n) => (
        <div key={n.part}>
          <Figure>{money(n.adds, shop)}</Figure> {view.parts[n.part] ?? n.part}
        </div>
      ))}
    </Box>
  );
}
