"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import { type Offer, type Part, piecePrice } from "@/core/parts/catalogue";
import { kitAgainstPieces, splitCost, takeCost } from "@/core/parts/cost";
import { operatingCurve } from "@/core/parts/sampling";
import type { BatchView } from "@/service/batches";
import { day, dayAndTime, money } from "@/text/format";
import { measureName } from "@/text/measures";
import { BATCH_STATUS_WORDS, findingText, traitText, verdictText } from "@/text/parts";
import { OperatingPlot } from "@/ui/charts/money";
import { leftTheHouse } from "@/core/parts/recall";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { StateMark } from "@/ui/state/StateMark";
import { Handle } from "./Handle";
import { Inspect } from "./Inspect";
import { Figure, Table } from "./Table";

export type Inside = { part: string; count: number; weight: number; name: string; tool: boolean };
type Props = {
  view: BatchView;
  part: Part | null;
  inside: Inside[];
  offers: Offer[];
  supplierName: string;
  shop: Settings;
  canWork: boolean;
  canLead: boolean;
};

const percent = (x: number) => `${Math.round(100 * x)} %`;

/** One batch: measured piece by piece, what that says of all of it, who holds a piece, and every movement. */
export function Batch(props: Props) {
  const { view, part, shop, canWork } = props;
  const { batch } = view;
  const locked = batch.status === "rejected" || batch.status === "disposed";
  return (
    <Box>
      <Box sx={{ display: "flex", gap: 2, alignItems: "baseline", flexWrap: "wrap", mb: 1 }}>
        <Typography component="h1" variant="h1">
          {batch.code}
        </Typography>
        <span>{part?.name ?? batch.part}</span>
        <b>{BATCH_STATUS_WORDS[batch.status]}</b>
        <span>
          <Figure big>{batch.on_hand}</Figure> of {batch.pieces} in bin {batch.bin}, {batch.reserved} put aside
        </span>
        <span>{money(batch.cost_minor, shop)} together</span>
        <Box sx={{ flex: 1 }} />
        <Button component="a" href={`/labels/pdf?kind=batch&codes=${batch.code}`} target="_blank" variant="outlined">
          Label
        </Button>
      </Box>
      <Box sx={{ color: "text.secondary", mb: 1.5 }}>
        {batch.donorTag
          ? `Out of ${batch.donorTag}, ${batch.condition}. `
          : batch.fromCode
            ? `Out of batch ${batch.fromCode}. `
            : `From ${props.supplierName || "nobody known"}, ${dayAndTime(batch.at, shop)}. `}
        {part && traitText(part.traits)}
        {part && part.lacks.length > 0 && `. Comes without: ${part.lacks.join(", ")}; move them over from the old one`}
        {batch.figures.length > 0 &&
          `. Measured in the donor: ${batch.figures.map((f) => `${measureName(f.name.replace(/^\S+ /, ""))} ${f.value.toFixed(3)}`).join(", ")}`}
      </Box>
      {locked && (
        <Alert severity="error" role="status" sx={{ mb: 2 }}>
          {batch.status === "rejected" ? "Locked: nothing is taken from it." : "Disposed of."} {batch.status_why}
        </Alert>
      )}
      {locked && <Recall {...props} />}
      {part?.check && (
        <Box sx={{ display: "grid", gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,3fr) minmax(0,2fr)" }, gap: 3 }}>
          <Box>
            <Box sx={{ display: "flex", gap: 3, flexWrap: "wrap", alignItems: "baseline" }} role="status" aria-label="Verdict">
              <Typography component="h2" sx={{ fontSize: "1.8rem", fontWeight: 800 }}>
                {batch.status === "open" && view.verdict.verdict === "accept" ? "Good enough" : verdictText(view.verdict)}
              </Typography>
              <span>
                <Figure big>
                  {view.price.bad} of {view.price.measured}
                </Figure>{" "}
                bad
              </span>
            </Box>
            <Box sx={{ color: "text.secondary", mb: 1 }}>
              Rule for {view.plan.pieces} pieces: measure {view.plan.sample}, bear {view.plan.accept} bad.{" "}
              {`It refuses a batch with ${percent(view.risk.goodShare)} bad ${percent(view.plan.refusesGood)} of the time and takes one with ${percent(view.risk.badShare)} bad ${percent(view.plan.takesBad)} of the time.`}
              {view.plan.all && " There are too few to tell from a sample, so all are measured."}
            </Box>
            {canWork && batch.status !== "rejected" && batch.status !== "disposed" && <Inspect view={view} part={part} />}
            {canWork && <Judge {...props} />}
            <Readings view={view} />
          </Box>
          <Box>
            <OperatingPlot
              points={operatingCurve(view.plan)}
              seen={
                view.price.share.seen === null
                  ? null
                  : { share: view.price.share.seen, low: view.share.low, high: view.share.high }
              }
            />
            <Box sx={{ mt: 1 }}>
              Of the whole batch{" "}
              <Figure>
                {percent(view.share.low)} to {percent(view.share.high)}
              </Figure>{" "}
              are bad, nine times of ten.
            </Box>
            <Box>
              A usable piece costs{" "}
              <Figure>{view.price.each === null ? "not known yet" : money(Math.round(view.price.each), shop)}</Figure>
              {view.price.each !== null &&
                `: goods ${money(view.price.goods, shop)}, inspection ${money(view.price.inspection, shop)}, what slips through ${money(view.price.slips, shop)}`}
            </Box>
          </Box>
        </Box>
      )}
      {props.inside.length > 0 && !locked && <TakeApart {...props} />}
      {!locked && view.holders.length > 0 && <Holders view={view} />}
      {canWork && (
        <Box component="section" aria-label="Take, move, count" sx={{ mt: 3 }}>
          <Handle
            keyed
            batch={{
              id: batch.id,
              bin: batch.bin,
              onHand: batch.on_hand,
              reserved: batch.reserved,
              status: batch.status,
              version: batch.version,
            }}
          />
        </Box>
      )}
      <Typography component="h2" variant="h2" sx={{ mt: 3 }}>
        Movements
      </Typography>
      <Table label="Movements" heads={["When", "What", "Pieces", "Money", "Unit", "By"]}>
        {view.movements.map((m, i) => (
          <tr key={i}>
            <td>{dayAndTime(m.at, shop)}</td>
            <td>
              {m.kind}
              {m.why && `: ${m.why}`}
            </td>
            <td>{m.delta > 0 ? `+${m.delta}` : m.delta}</td>
            <td>{money(m.minor, shop)}</td>
            <td>{m.unit && <Link href={`/units/${m.unit}`}>{m.unit}</Link>}</td>
            <td>{m.by}</td>
          </tr>
        ))}
      </Table>
    </Box>
  );
}

function Readings({ view }: { view: BatchView }) {
  if (view.readings.length === 0) return null;
  return (
    <Box component="ol" aria-label="Measured pieces" sx={{ listStyle: "none", p: 0, mt: 2 }}>
      {[...view.readings].reverse().map((r) => (
        <Box component="li" key={r.number} sx={{ display: "flex", gap: 1.2, alignItems: "center", py: 0.3 }}>
          <StateMark state={r.verdict === "good" ? "pass" : "fail"} />
          <span>
            {r.number}: {r.verdict}
            {r.body.ohms?.[0] && r.body.ohms[1] && `, ${Math.round(r.body.ohms[0])} and ${Math.round(r.body.ohms[1])} Ω`}
            {r.body.thicknessMm !== null && `, ${r.body.thicknessMm} mm`}
            {r.body.feel !== null && `, feel ${r.body.feel}`}
            {r.findings.length > 0 && `: ${r.findings.map(findingText).join("; ")}`}
          </span>
        </Box>
      ))}
    </Box>
  );
}

function Judge({ view, canLead }: Props) {
  const deed = useDeed("batch.judge");
  const dispose = useDeed("batch.dispose");
  const [why, setWhy] = useState("");
  const { batch, verdict } = view;
  const send = (v: "accept" | "reject") => deed.run({ batchId: batch.id, version: batch.version, verdict: v, why });
  if (batch.status === "disposed") return null;
  if (batch.status === "rejected")
    return (
      <Box sx={{ display: "flex", gap: 1, mt: 1, alignItems: "start", flexWrap: "wrap" }}>
        <TextField
          label="Where it went"
          value={why}
          onChange={(e) => setWhy(e.target.value)}
          helperText="cells, solder waste and scrap by the local rules"
        />
        <Button
          variant="outlined"
          disabled={why.trim() === "" || dispose.running}
          onClick={() => dispose.run({ batchId: batch.id, version: batch.version, how: why })}
        >
          Disposed of
        </Button>
        <Problem problem={dispose.problem} />
      </Box>
    );
  return (
    <Box sx={{ display: "flex", gap: 1, mt: 1.5, alignItems: "start", flexWrap: "wrap" }}>
      <TextField label="Why" value={why} onChange={(e) => setWhy(e.target.value)} sx={{ flex: 1, minWidth: 200 }} />
      {batch.status === "waiting" && (
        <Button
          variant={verdict.verdict === "accept" ? "contained" : "outlined"}
          disabled={deed.running || verdict.verdict === "more" || (verdict.verdict === "reject" && !canLead)}
          onClick={() => send("accept")}
        >
          Accept
        </Button>
      )}
      <Button
        color="error"
        variant={verdict.verdict === "reject" ? "contained" : "outlined"}
        disabled={deed.running || why.trim() === ""}
        onClick={() => send("reject")}
      >
        Reject and lock
      </Button>
      <Box sx={{ flexBasis: "100%" }}>
        <Problem problem={deed.problem} />
      </Box>
    </Box>
  );
}

/** Of a locked batch: what is in house and must be changed, what is gone, and letters to those who have it. */
function Recall({ view, shop }: Props) {
  const inHouse = view.holders.filter((h) => h.ending === null);
  const gone = view.holders.filter(leftTheHouse);
  return (
    <Box component="section" aria-label="Recall" sx={{ mb: 2 }}>
      <Typography component="h2" variant="h2">
        {view.holders.length === 0
          ? "No unit holds a piece of it"
          : `${view.holders.length} ${view.holders.length === 1 ? "place holds" : "places hold"} a piece of it`}
      </Typography>
      {view.holders.length > 0 && (
        <>
          <Typography sx={{ mb: 1 }}>
            {inHouse.length} in house, {gone.length} gone.
          </Typography>
          <Holders view={view} shop={shop} />
        </>
      )}
      {gone.length > 0 && (
        <Button component="a" href={`/parts/${view.batch.code}/letters`} target="_blank" variant="contained" sx={{ mt: 1 }}>
          {gone.length === 1 ? "Letter to print" : `${gone.length} letters to print`}
        </Button>
      )}
    </Box>
  );
}

function Holders({ view, shop }: { view: BatchView; shop?: Settings }) {
  return (
    <Table label="Units that hold a piece" heads={["Unit", "Model", "Where", "It is", "Whom to tell"]}>
      {view.holders.map((h) => (
        <tr key={`${h.unitId} ${h.slot}`}>
          <td>
            <Link href={`/units/${h.tag}`}>{h.tag}</Link>
          </td>
          <td>{h.model}</td>
          <td>
            {h.slot}
            {shop && `, since ${dayAndTime(h.fittedAt, shop)}`}
          </td>
          <td>
            {h.ending === null
              ? "in house: change it before it goes"
              : `${h.ending.replaceAll("-", " ")}${h.soldOn && shop ? `, handed over ${day(h.soldOn, shop)}` : ""}`}
          </td>
          <td>
            {h.owner ? `${h.owner}, ${h.contact}` : h.ending === null ? "nobody yet" : "the buyer"}
            {h.certificate && (
              <>
                {" "}
                (<Link href={`/c/${h.certificate}`}>certificate</Link>)
              </>
            )}
          </td>
        </tr>
      ))}
    </Table>
  );
}

/** A kit or an assembly taken apart: what was in it, good and bad, and what its pieces then cost. */
function TakeApart({ view, inside, offers, shop, canWork }: Props) {
  const deed = useDeed("stock.split");
  const join = useDeed("stock.join");
  const { batch } = view;
  const [n, setN] = useState("1");
  const [owned, setOwned] = useState<Record<string, boolean>>({});
  /** what was counted otherwise than listed; the rest follows how many are taken apart */
  const [typed, setTyped] = useState<Record<string, { good?: string; bad?: string }>>({});
  const one = batch.on_hand > 0 ? Math.round(batch.value_minor / batch.on_hand) : 0;
  const against = kitAgainstPieces(
    one,
    inside.map((x) => ({ ...x, worth: piecePrice({ offers }, x.part)?.minor ?? null, owned: owned[x.part] === true })),
  );
  const count = Number(n) || 0;
  const badOf = (x: Inside) => typed[x.part]?.bad ?? "0";
  const goodOf = (x: Inside) => typed[x.part]?.good ?? String(Math.max(0, x.count * count - Number(badOf(x))));
  const lines = inside.map((x) => ({ ...x, good: Number(goodOf(x)) || 0, bad: Number(badOf(x)) || 0 }));
  const differs = lines.filter((x) => x.good + x.bad !== x.count * count);
  const cost = takeCost(batch.value_minor, batch.on_hand, Math.min(count, batch.on_hand));
  const shares = splitCost(cost, lines).cost;
  const tooMany = count > batch.on_hand - batch.reserved;
  const tools = inside.some((x) => x.tool);
  return (
    <Box component="section" aria-label="Take apart" sx={{ mt: 2 }}>
      <Typography component="h2" variant="h2">
        {count > 1 ? `What is in ${count}` : "What is in one"}
      </Typography>
      <Table label="Contents" heads={["Piece", "Listed", "Good", "Bad", ...(tools ? ["Owned already"] : [])]}>
        {inside.map((x) => (
          <tr key={x.part}>
            <td>
              {x.name}
              {x.tool && ", a tool"}
            </td>
            <td>{x.count * count}</td>
            {(["good", "bad"] as const).map((k) => (
              <td key={k}>
                <TextField
                  slotProps={{ htmlInput: { "aria-label": `${k}, ${x.part}`, inputMode: "numeric" } }}
                  value={k === "good" ? goodOf(x) : badOf(x)}
                  disabled={!canWork}
                  onChange={(e) => setTyped({ ...typed, [x.part]: { ...typed[x.part], [k]: e.target.value.replace(/\D/g, "") } })}
                  sx={{ width: 72 }}
                />
              </td>
            ))}
            {tools && (
              <td>
                {x.tool && (
                  <label>
                    <input
                      type="checkbox"
                      checked={owned[x.part] === true}
                      onChange={(e) => setOwned({ ...owned, [x.part]: e.target.checked })}
                    />{" "}
                    we have one
                  </label>
                )}
              </td>
            )}
          </tr>
        ))}
      </Table>
      {against.each !== null && (
        <Box sx={{ my: 1 }}>
          One costs <Figure>{money(one, shop)}</Figure>; bought one by one
          {Object.values(owned).some(Boolean) && ", without what we have,"} its pieces cost{" "}
          <Figure>{money(against.each, shop)}</Figure>:{" "}
          {against.saves! >= 0
            ? `the kit saves ${money(against.saves, shop)}`
            : `the kit costs ${money(-against.saves!, shop)} more`}
          .
        </Box>
      )}
      {differs.length > 0 && count > 0 && (
        <Alert severity="warning" role="status">
          Not as listed: {differs.map((x) => x.name).join(", ")}. It is written down with the taking apart.
        </Alert>
      )}
      {count > 0 && !tooMany && (
        <Box role="status" aria-label="What comes out" sx={{ my: 1 }}>
          Out of {count} {count === 1 ? "comes" : "come"}:{" "}
          {lines
            .map((x, i) => `${x.good} × ${x.name}${x.good > 0 ? `, ${money(Math.round(shares[i]! / x.good), shop)} each` : ""}`)
            .join("; ")}
          . Together <Figure>{money(cost, shop)}</Figure>.
        </Box>
      )}
      {canWork && batch.status === "open" && (
        <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
          <TextField
            label="How many taken apart"
            value={n}
            onChange={(e) => setN(e.target.value.replace(/\D/g, ""))}
            error={tooMany}
            helperText={tooMany ? `${batch.on_hand - batch.reserved} can be taken` : undefined}
            sx={{ width: 190 }}
          />
          <Button
            variant="contained"
            disabled={deed.running || count < 1 || tooMany}
            onClick={() =>
              deed
                .run({
                  batchId: batch.id,
                  count,
                  lines: lines.map(({ part, good, bad }) => ({ part, good, bad })),
                  bin: batch.bin,
                  why: "",
                })
                .then((done) => done?.ok && (setN("1"), setTyped({})))
            }
          >
            Take apart
          </Button>
        </Box>
      )}
      <Problem problem={deed.problem ?? join.problem} />
      {canWork && view.lastSplit && (
        <Button disabled={join.running} onClick={() => void join.run({ batchId: batch.id })}>
          Take back: {view.lastSplit.count} taken apart
          {view.lastSplit.into.length > 0 && ` into ${view.lastSplit.into.join(", ")}`}
        </Button>
      )}
      {view.kin.length > 0 && (
        <Box>
          Became{" "}
          {view.kin.map((k, i) => (
            <span key={k.code}>
              {i > 0 && ", "}
              <Link href={`/parts/${k.code}`}>{k.code}</Link>
            </span>
          ))}
          . {view.yields.length > 0 && `Good pieces of all: ${view.yields.map(percent).join(", ")}.`}
        </Box>
      )}
    </Box>
  );
}
