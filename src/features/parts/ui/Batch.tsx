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
import type { BatchView } from "@/features/stock/batches";
import { day, dayAndTime, money, figure } from "@/text/format";
import { measureName } from "@/text/measures";
import { BATCH_STATUS_WORDS, findingText, traitText, verdictText } from "@/features/parts/words/text";
import { OperatingPlot } from "@/ui/charts/money";
import { leftTheHouse } from "@/core/parts/recall";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { StateMark } from "@/ui/state/StateMark";
import { Handle } from "./Handle";
import { Inspect } from "./Inspect";
import { Figure, Table } from "@/ui/kit/Table";
import { say } from "@/features/parts/words/words";
import { codeWords } from "@/words/codes";
import { BoundField } from "@/ui/form/BoundField";
import { numberIn } from "@/ui/form/typed";

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

/** What happens at it: state, deeds and keys of Batch. */
function useBatch(props: Props) {
  const { view, part, shop, canWork } = props;
  const { batch } = view;
  const locked = batch.status === "rejected" || batch.status === "disposed";
  const originWords = () => {
    if (batch.donorTag)
      return say("outOfDonorTagCondition", { donorTag: batch.donorTag, condition: batch.condition });
    if (batch.fromCode) return say("outOfBatchFromCode", { fromCode: batch.fromCode });
    return say("fromSupplierNameAt", {
      supplierName: props.supplierName || say("nobodyKnown"),
      at: dayAndTime(batch.at, shop),
    });
  };
  return { props, view, part, shop, canWork, batch, locked, originWords };
}
type BatchState = ReturnType<typeof useBatch>;

/** One batch: measured piece by piece, what that says of all of it, who holds a piece, and every movement. */
export function Batch(props: Props) {
  const s = useBatch(props);
  const { view, batch, locked } = s;

  return (
    <Box>
      <BatchFigures {...s} />
      <WhereFrom {...s} />
      {locked && (
        <Alert severity="error" role="status" sx={{ mb: 2 }}>
          {batch.status === "rejected" ? say("lockedNothingIsTakenFromIt") : say("disposedOf2")}{" "}
          {batch.status_why}
        </Alert>
      )}
      {locked && <Recall {...props} />}
      <Inspection {...s} />
      {props.inside.length > 0 && !locked && <TakeApart {...props} />}
      {!locked && view.holders.length > 0 && <Holders view={view} />}
      <HandleBatch {...s} />
      <Typography component="h2" variant="h2" sx={{ mt: 3 }}>
        {say("movements")}
      </Typography>
      <Movements {...s} />
    </Box>
  );
}

function BatchFigures({ batch, part, shop }: BatchState) {
  return (
    <Box sx={{ display: "flex", gap: 2, alignItems: "baseline", flexWrap: "wrap", mb: 1 }}>
      <Typography component="h1" variant="h1">
        {batch.code}
      </Typography>
      <span>{part?.name ?? batch.part}</span>
      <b>{BATCH_STATUS_WORDS[batch.status]}</b>
      <span>
        <Figure big>{batch.on_hand}</Figure>{" "}
        {say("ofPiecesInBinBinReserved", {
          pieces: batch.pieces,
          bin: batch.bin,
          reserved: batch.reserved,
        })}
      </span>
      <span>{say("costminorTogether", { costminor: money(batch.cost_minor, shop) })}</span>
      <Box sx={{ flex: 1 }} />
      <Button
        component="a"
        href={`/labels/pdf?kind=batch&codes=${batch.code}`}
        target="_blank"
        variant="outlined"
      >
        {say("label")}
      </Button>
    </Box>
  );
}

function WhereFrom({ originWords, part, batch }: BatchState) {
  return (
    <Box sx={{ color: "text.secondary", mb: 1.5 }}>
      {originWords()}
      {part && traitText(part.traits)}
      {part &&
        part.lacks.length > 0 &&
        say("comesWithoutLacksMoveThemOver2", { lacks: part.lacks.join(", ") })}
      {batch.figures.length > 0 &&
        say("measuredInTheDonorFigures", {
          figures: batch.figures
            .map((f) => `${measureName(f.name.replace(/^\S+ /, ""))} ${figure(f.value, 3)}`)
            .join(", "),
        })}
    </Box>
  );
}

function Inspection({ part, batch, view, canWork, props, shop }: BatchState) {
  return (
    part?.check && (
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,3fr) minmax(0,2fr)" },
          gap: 3,
        }}
      >
        <Box>
          <Box
            sx={{ display: "flex", gap: 3, flexWrap: "wrap", alignItems: "baseline" }}
            role="status"
            aria-label={say("verdict")}
          >
            <Typography component="h2" sx={{ fontSize: "1.8rem", fontWeight: 800 }}>
              {batch.status === "open" && view.verdict.verdict === "accept"
                ? say("goodEnough")
                : verdictText(view.verdict)}
            </Typography>
            <span>
              <Figure big>
                {say("badOfMeasured2", { bad: view.price.bad, measured: view.price.measured })}
              </Figure>{" "}
              {say("bad")}
            </span>
          </Box>
          <Box sx={{ color: "text.secondary", mb: 1 }}>
            {say("ruleFor")} {view.plan.pieces}{" "}
            {say("piecesMeasureSampleBearAccept", {
              sample: view.plan.sample,
              accept: view.plan.accept,
              x: say("itRefusesABatchWithGoodShare", {
                goodShare: percent(view.risk.goodShare),
                refusesGood: percent(view.plan.refusesGood),
                badShare: percent(view.risk.badShare),
                takesBad: percent(view.plan.takesBad),
              }),
            })}
            {view.plan.all && say("thereAreTooFewToTell")}
          </Box>
          {canWork && batch.status !== "rejected" && batch.status !== "disposed" && (
            <Inspect view={view} part={part} />
          )}
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
            {say("ofTheWholeBatch")}{" "}
            <Figure>
              {say("lowToHigh", { low: percent(view.share.low), high: percent(view.share.high) })}
            </Figure>{" "}
            {say("areBadNineTimesOfTen")}
          </Box>
          <Box>
            {say("aUsablePieceCosts")}{" "}
            <Figure>
              {view.price.each === null ? say("notKnownYet") : money(Math.round(view.price.each), shop)}
            </Figure>
            {view.price.each !== null &&
              say("goodsGoodsInspectionInspection2", {
                goods: money(view.price.goods, shop),
                inspection: money(view.price.inspection, shop),
                slips: money(view.price.slips, shop),
              })}
          </Box>
        </Box>
      </Box>
    )
  );
}

function HandleBatch({ canWork, batch }: BatchState) {
  return (
    canWork && (
      <Box component="section" aria-label={say("takeMoveCount")} sx={{ mt: 3 }}>
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
    )
  );
}

function Movements({ view, shop }: BatchState) {
  return (
    <Table
      label={say("movements")}
      heads={[say("when"), say("what"), say("pieces"), say("money"), say("unit"), say("by")]}
    >
      {view.movements.map((m, i) => (
        <tr key={i}>
          <td>{dayAndTime(m.at, shop)}</td>
          <td>
            {codeWords(m.kind)}
            {m.why && `: ${m.why}`}
          </td>
          <td>{m.delta > 0 ? `+${m.delta}` : m.delta}</td>
          <td>{money(m.minor, shop)}</td>
          <td>{m.unit && <Link href={`/units/${m.unit}`}>{m.unit}</Link>}</td>
          <td>{m.by}</td>
        </tr>
      ))}
    </Table>
  );
}

function Readings({ view }: { view: BatchView }) {
  if (view.readings.length === 0) return null;
  return (
    <Box component="ol" aria-label={say("measuredPieces")} sx={{ listStyle: "none", p: 0, mt: 2 }}>
      {[...view.readings].reverse().map((r) => (
        <Box component="li" key={r.number} sx={{ display: "flex", gap: 1.2, alignItems: "center", py: 0.3 }}>
          <StateMark state={r.verdict === "good" ? "pass" : "fail"} />
          <span>
            {r.number}: {codeWords(r.verdict)}
            {r.body.ohms?.[0] &&
              r.body.ohms[1] &&
              say("ohmsAndOhms2", { ohms: Math.round(r.body.ohms[0]), ohms2: Math.round(r.body.ohms[1]) })}
            {r.body.thicknessMm !== null && say("thicknessMmMm", { thicknessMm: r.body.thicknessMm })}
            {r.body.feel !== null && say("feelFeel", { feel: r.body.feel })}
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
  const send = (v: "accept" | "reject") =>
    deed.run({ batchId: batch.id, version: batch.version, verdict: v, why });
  if (batch.status === "disposed") return null;
  if (batch.status === "rejected")
    return (
      <Box sx={{ display: "flex", gap: 1, mt: 1, alignItems: "start", flexWrap: "wrap" }}>
        <BoundField
          deed="batch.dispose"
          name="how"
          label={say("whereItWent")}
          value={why}
          onChange={setWhy}
          helperText={say("cellsSolderWasteAndScrapBy")}
        />
        <Button
          variant="outlined"
          disabled={why.trim() === "" || dispose.running}
          onClick={() => dispose.run({ batchId: batch.id, version: batch.version, how: why })}
        >
          {say("disposedOf3")}
        </Button>
        <Problem problem={dispose.problem} />
      </Box>
    );
  return (
    <Box sx={{ display: "flex", gap: 1, mt: 1.5, alignItems: "start", flexWrap: "wrap" }}>
      <BoundField
        deed="batch.judge"
        name="why"
        label={say("why")}
        value={why}
        onChange={setWhy}
        sx={{ flex: 1, minWidth: 200 }}
      />
      {batch.status === "waiting" && (
        <Button
          variant={verdict.verdict === "accept" ? "contained" : "outlined"}
          disabled={deed.running || verdict.verdict === "more" || (verdict.verdict === "reject" && !canLead)}
          onClick={() => send("accept")}
        >
          {say("accept")}
        </Button>
      )}
      <Button
        color="error"
        variant={verdict.verdict === "reject" ? "contained" : "outlined"}
        disabled={deed.running || why.trim() === ""}
        onClick={() => send("reject")}
      >
        {say("rejectAndLock")}
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
    <Box component="section" aria-label={say("recall")} sx={{ mb: 2 }}>
      <Typography component="h2" variant="h2">
        {view.holders.length === 0
          ? say("noUnitHoldsAPieceOf")
          : say("holdersPlaceHoldsAPieceOf", { holders: view.holders.length })}
      </Typography>
      {view.holders.length > 0 && (
        <>
          <Typography sx={{ mb: 1 }}>
            {say("inHouseInHouseGoneGone", { inHouse: inHouse.length, gone: gone.length })}
          </Typography>
          <Holders view={view} shop={shop} />
        </>
      )}
      {gone.length > 0 && (
        <Button
          component="a"
          href={`/parts/${view.batch.code}/letters`}
          target="_blank"
          variant="contained"
          sx={{ mt: 1 }}
        >
          {gone.length === 1 ? say("letterToPrint") : say("goneLettersToPrint", { gone: gone.length })}
        </Button>
      )}
    </Box>
  );
}

function Holders({ view, shop }: { view: BatchView; shop?: Settings }) {
  return (
    <Table
      label={say("unitsThatHoldAPiece")}
      heads={[say("unit"), say("model"), say("where"), say("itIs"), say("whomToTell")]}
    >
      {view.holders.map((h) => {
        const ownerOf = () => {
          if (h.owner) return `${h.owner}, ${h.contact}`;
          if (h.ending === null) return say("nobodyYet");
          return say("theBuyer");
        };
        return (
          <tr key={`${h.unitId} ${h.slot}`}>
            <td>
              <Link href={`/units/${h.tag}`}>{h.tag}</Link>
            </td>
            <td>{h.model}</td>
            <td>
              {h.slot}
              {shop && say("sinceFittedAt", { fittedAt: dayAndTime(h.fittedAt, shop) })}
            </td>
            <td>
              {h.ending === null
                ? say("inHouseChangeItBeforeIt")
                : `${codeWords(h.ending)}${h.soldOn && shop ? say("handedOverSoldOn", { soldOn: day(h.soldOn, shop) }) : ""}`}
            </td>
            <td>
              {ownerOf()}
              {h.certificate && (
                <>
                  {" "}
                  (<Link href={`/c/${h.certificate}`}>{say("certificate")}</Link>)
                </>
              )}
            </td>
          </tr>
        );
      })}
    </Table>
  );
}

/** What happens at it: state, deeds and keys of TakeApart. */
function useTakeApart({ view, inside, offers, shop, canWork }: Props) {
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
    inside.map((x) => ({
      ...x,
      worth: piecePrice({ offers }, x.part)?.minor ?? null,
      owned: owned[x.part] === true,
    })),
  );
  const count = numberIn("stock.split", "count", n) ?? 0;
  const badOf = (x: Inside) => typed[x.part]?.bad ?? "0";
  const goodOf = (x: Inside) =>
    typed[x.part]?.good ?? String(Math.max(0, x.count * count - Number(badOf(x))));
  const lines = inside.map((x) => ({ ...x, good: Number(goodOf(x)) || 0, bad: Number(badOf(x)) || 0 }));
  const differs = lines.filter((x) => x.good + x.bad !== x.count * count);
  const cost = takeCost(batch.value_minor, batch.on_hand, Math.min(count, batch.on_hand));
  const shares = splitCost(cost, lines).cost;
  const tooMany = count > batch.on_hand - batch.reserved;
  const tools = inside.some((x) => x.tool);
  return {
    view,
    inside,
    shop,
    canWork,
    deed,
    join,
    batch,
    n,
    setN,
    owned,
    setOwned,
    typed,
    setTyped,
    one,
    against,
    count,
    badOf,
    goodOf,
    lines,
    differs,
    cost,
    shares,
    tooMany,
    tools,
  };
}
type TakeApartState = ReturnType<typeof useTakeApart>;

/** A kit or an assembly taken apart: what was in it, good and bad, and what its pieces then cost. */
function TakeApart(props: Props) {
  const s = useTakeApart(props);
  const { view, canWork, deed, join, batch, count, differs } = s;

  return (
    <Box component="section" aria-label={say("takeApart")} sx={{ mt: 2 }}>
      <Typography component="h2" variant="h2">
        {count > 1 ? say("whatIsInCount", { count }) : say("whatIsInOne")}
      </Typography>
      <Contents {...s} />
      <AgainstBuying {...s} />
      {differs.length > 0 && count > 0 && (
        <Alert severity="warning" role="status">
          {say("notAsListedDiffersItIs", { differs: differs.map((x) => x.name).join(", ") })}
        </Alert>
      )}
      <WhatComesOut {...s} />
      <TakeApartKeys {...s} />
      <Problem problem={deed.problem ?? join.problem} />
      {canWork && view.lastSplit && (
        <Button disabled={join.running} onClick={() => void join.run({ batchId: batch.id })}>
          {say("takeBackCountTakenApart", { count: view.lastSplit.count })}
          {view.lastSplit.into.length > 0 && say("intoInto", { into: view.lastSplit.into.join(", ") })}
        </Button>
      )}
      <Became {...s} />
    </Box>
  );
}

function Contents({
  tools,
  inside,
  count,
  goodOf,
  badOf,
  canWork,
  setTyped,
  typed,
  owned,
  setOwned,
}: TakeApartState) {
  return (
    <Table
      label={say("contents")}
      heads={[
        say("piece"),
        say("listed"),
        say("good2"),
        say("bad2"),
        ...(tools ? [say("ownedAlready")] : []),
      ]}
    >
      {inside.map((x) => (
        <tr key={x.part}>
          <td>
            {x.name}
            {x.tool && say("aTool")}
          </td>
          <td>{x.count * count}</td>
          {(["good", "bad"] as const).map((k) => (
            <td key={k}>
              <TextField
                slotProps={{
                  htmlInput: { "aria-label": `${codeWords(k)}, ${x.part}`, inputMode: "numeric" },
                }}
                value={k === "good" ? goodOf(x) : badOf(x)}
                disabled={!canWork}
                onChange={(e) =>
                  setTyped({
                    ...typed,
                    [x.part]: { ...typed[x.part], [k]: e.target.value.replace(/\D/g, "") },
                  })
                }
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
                  {say("weHaveOne")}
                </label>
              )}
            </td>
          )}
        </tr>
      ))}
    </Table>
  );
}

function AgainstBuying({ against, one, shop, owned }: TakeApartState) {
  return (
    against.each !== null && (
      <Box sx={{ my: 1 }}>
        {say("oneCosts")} <Figure>{money(one, shop)}</Figure>
        {say("boughtOneByOne")}
        {Object.values(owned).some(Boolean) && say("withoutWhatWeHave")} {say("itsPiecesCost")}{" "}
        <Figure>{money(against.each, shop)}</Figure>:{" "}
        {against.saves! >= 0
          ? say("theKitSavesSaves", { saves: money(against.saves, shop) })
          : say("theKitCostsSavesMore", { saves: money(-against.saves!, shop) })}
        .
      </Box>
    )
  );
}

function WhatComesOut({ count, tooMany, lines, shares, shop, cost }: TakeApartState) {
  return (
    count > 0 &&
    !tooMany && (
      <Box role="status" aria-label={say("whatComesOut")} sx={{ my: 1 }}>
        {say("outOfCountComesLinesTogether", {
          count,
          lines: lines
            .map(
              (x, i) =>
                `${x.good} × ${x.name}${x.good > 0 ? say("moneyEach", { money: money(Math.round(shares[i]! / x.good), shop) }) : ""}`,
            )
            .join("; "),
        })}{" "}
        <Figure>{money(cost, shop)}</Figure>.
      </Box>
    )
  );
}

function TakeApartKeys({ canWork, batch, n, setN, tooMany, deed, count, lines, setTyped }: TakeApartState) {
  return (
    canWork &&
    batch.status === "open" && (
      <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
        <BoundField
          deed="stock.split"
          name="count"
          label={say("howManyTakenApart")}
          value={n}
          onChange={setN}
          error={tooMany}
          helperText={
            tooMany ? say("onhandCanBeTaken", { onhand: batch.on_hand - batch.reserved }) : undefined
          }
          sx={{ width: 240 }}
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
          {say("takeApart")}
        </Button>
      </Box>
    )
  );
}

function Became({ view }: TakeApartState) {
  return (
    view.kin.length > 0 && (
      <Box>
        {say("became")}{" "}
        {view.kin.map((k, i) => (
          <span key={k.code}>
            {i > 0 && ", "}
            <Link href={`/parts/${k.code}`}>{k.code}</Link>
          </span>
        ))}
        .{" "}
        {view.yields.length > 0 &&
          say("goodPiecesOfAllYields", { yields: view.yields.map(percent).join(", ") })}
      </Box>
    )
  );
}
