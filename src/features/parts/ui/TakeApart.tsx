"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import { piecePrice } from "@/core/parts/catalogue";
import { kitAgainstPieces, splitCost, takeCost } from "@/core/parts/cost";
import { say } from "@/features/parts/words/words";
import { money } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { BoundField } from "@/ui/form/BoundField";
import { numberIn } from "@/ui/form/typed";
import { Figure, Table } from "@/ui/kit/Table";
import { codeWords } from "@/words/codes";
import { percent } from "./BatchInspection";
import type { Inside, Props } from "./useBatch";
import { Block, Row } from "@/ui/kit/layout";

/** What TakeApart knows and does; the components below only show it. */
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
export function TakeApart(props: Props) {
  const s = useTakeApart(props);
  const { view, canWork, deed, join, batch, count, differs } = s;

  return (
    <Block component="section" aria-label={say("takeApart")} before={2}>
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
    </Block>
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
      <Block around={1}>
        {say("oneCosts")} <Figure>{money(one, shop)}</Figure>
        {say("boughtOneByOne")}
        {Object.values(owned).some(Boolean) && say("withoutWhatWeHave")} {say("itsPiecesCost")}{" "}
        <Figure>{money(against.each, shop)}</Figure>:{" "}
        {against.saves! >= 0
          ? say("theKitSavesSaves", { saves: money(against.saves, shop) })
          : say("theKitCostsSavesMore", { saves: money(-against.saves!, shop) })}
        .
      </Block>
    )
  );
}

function WhatComesOut({ count, tooMany, lines, shares, shop, cost }: TakeApartState) {
  return (
    count > 0 &&
    !tooMany && (
      <Block role="status" aria-label={say("whatComesOut")} around={1}>
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
      </Block>
    )
  );
}

function TakeApartKeys({ canWork, batch, n, setN, tooMany, deed, count, lines, setTyped }: TakeApartState) {
  return (
    canWork &&
    batch.status === "open" && (
      <Row gap={1} before={1} oneLine>
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
      </Row>
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
