"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import Link from "next/link";

import { CHOICE_WORDS } from "@/features/parts/words/text";
import { say } from "@/features/parts/words/words";
import { figure, money } from "@/text/format";
import { Form } from "@/ui/fields/Form";
import { Figure, Table } from "@/ui/kit/Table";
import { CHOICE_ORDER, subjectOf, wayName, whyWords } from "./plan-words";
import { LEFT_WORDS, type PlanTabState } from "./usePlanTab";
import { Block, Row, Words } from "@/ui/kit/layout";

export function PlanHead({
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
    <Row gap={2} after={1.5} at="center">
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
    </Row>
  );
}

export function PlanFigures({
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
    <Row gap={3} after={1} at="baseline" role="status" aria-label={say("thePlan")}>
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
    </Row>
  );
}

export function PlanTable({
  view,
  plan,
  result,
  shop,
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
        .sort((a, b) => CHOICE_ORDER[a.option.choice] - CHOICE_ORDER[b.option.choice])
        .map((c) => {
          const w = result.why.find((x) => x.unit === c.unit)!;
          const s = subjectOf(view, c.unit);
          const kept = result.locks.some((l) => l.unit === c.unit && l.as === "keep");
          const barred = result.locks.filter((l) => l.unit === c.unit && l.as === "not").length;
          return (
            <tr key={c.unit}>
              <td>
                <Link href={`/units/${s.tag}`}>{s.tag}</Link>
                <Words size="small" quiet>
                  {s.model}
                </Words>
              </td>
              <td>
                <b>{CHOICE_WORDS[c.option.choice]}</b>
                {c.option.choice === "mend" && (
                  <Words size="small">{wayName(s, c.option.routes ?? [])}</Words>
                )}
              </td>
              <td>
                <Figure>{money(w.inPlan, shop)}</Figure>
              </td>
              <td>{whyWords(view, shop, c, w)}</td>
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

export function ToBeBought({ plan, view, shop }: PlanTabState & { plan: NonNullable<PlanTabState["plan"]> }) {
  return (
    plan.orders.length > 0 && (
      <Block component="section" aria-label={say("toBeBought2")} before={2}>
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
      </Block>
    )
  );
}

export function NextPiece({ pieces, next, shop, view }: PlanTabState) {
  return (
    <Block component="section" aria-label={say("theNextPiece")} before={2}>
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
    </Block>
  );
}
