"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useEffect, useState } from "react";

import { planner } from "@/browser/plan";
import type { Basket } from "@/core/allocate/basket";
import type { BuyingList, OrderView } from "@/features/parts/orders";
import { day, money, figure } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import type { PartsProps } from "./props";
import { Figure, Table } from "@/ui/kit/Table";
import { say } from "@/features/parts/words/words";
import { BoundField } from "@/ui/form/BoundField";
import { SIZE } from "@/ui/tokens";
import { Row, Words } from "@/ui/kit/layout";

const WHY_WORDS: Record<BuyingList["lines"][number]["why"], string> = {
  backlog: say("unitsWaitForIt"),
  "below-point": say("belowItsPoint"),
  enough: say("enough"),
  "no-demand": say("nobodyAsksForIt"),
};

/** What BuyList knows and does; the components below only show it. */
function useBuyList({ buy, view, shop, canWork }: PartsProps & { buy: BuyingList }) {
  const [counts, setCounts] = useState<Record<string, string>>(
    Object.fromEntries(buy.lines.map((l) => [l.part, String(l.quantity)])),
  );
  const [basket, setBasket] = useState<Basket | null>(null);
  const [failed, setFailed] = useState(false);
  const wanted = buy.lines
    .map((l) => ({ part: l.part, count: Number(counts[l.part] ?? "0") || 0 }))
    .filter((w) => w.count > 0);
  const key = JSON.stringify(wanted);
  useEffect(() => {
    const { api, end } = planner();
    let over = false;
    api
      .basket(JSON.parse(key) as typeof wanted, buy.offers, buy.suppliers)
      .then((b) => {
        if (!over) {
          setBasket(b);
          setFailed(false);
        }
      })
      .catch(() => !over && setFailed(true));
    return () => {
      over = true;
      end();
    };
  }, [key, buy.offers, buy.suppliers]);
  const nameOf = (code: string) => view.catalogue.parts.find((p) => p.code === code)?.name ?? code;
  const supplierOf = (id: string) => view.catalogue.suppliers.find((s) => s.id === id)?.name ?? id;
  const bySupplier = new Map<string, Basket["lines"]>();
  for (const l of basket?.lines ?? []) bySupplier.set(l.supplier, [...(bySupplier.get(l.supplier) ?? []), l]);
  return { buy, shop, canWork, counts, setCounts, basket, failed, wanted, nameOf, supplierOf, bySupplier };
}
type BuyListState = ReturnType<typeof useBuyList>;

/**
 * What to order: by part how much and why, the cheapest basket over all suppliers, and what is on its way.
 */
export function BuyList(props: PartsProps & { buy: BuyingList }) {
  const s = useBuyList(props);
  const { buy } = s;

  return (
    <Box sx={{ display: "grid", gap: 3, gridTemplateColumns: "minmax(0,1fr)" }}>
      <Box component="section" aria-label={say("whatToOrder")}>
        {buy.lines.length === 0 ? (
          <Typography color="text.secondary">{say("nothingIsCalledForNoUnit")}</Typography>
        ) : (
          <OrderTable {...s} />
        )}
      </Box>
      <CheapestBasket {...s} />
      <CameWithout {...s} />
      <OnItsWay {...s} />
    </Box>
  );
}

function OrderTable({ buy, counts, setCounts }: BuyListState) {
  return (
    <Table
      label={say("whatToOrder")}
      heads={[
        say("part2"),
        say("order"),
        say("why"),
        say("there"),
        say("onItsWay"),
        say("unitsWaitFor"),
        say("usedAWeek"),
        say("orderAt"),
        say("days"),
      ]}
      minWidth={860}
    >
      {[...buy.lines]
        .sort((a, b) => b.quantity - a.quantity)
        .map((l) => (
          <tr key={l.part}>
            <td>
              <Link href={`/parts?tab=catalogue&part=${l.part}`}>{l.part}</Link> {l.name}
            </td>
            <td>
              <TextField
                value={counts[l.part] ?? "0"}
                onChange={(e) => setCounts({ ...counts, [l.part]: e.target.value.replace(/\D/g, "") })}
                slotProps={{ htmlInput: { inputMode: "numeric", "aria-label": `pieces of ${l.part}` } }}
                sx={{ width: 80, "& input": { fontWeight: 700, fontSize: SIZE.lead, py: 0.6 } }}
              />
            </td>
            <td>{WHY_WORDS[l.why]}</td>
            <td>{l.free}</td>
            <td>{l.onOrder}</td>
            <td>{l.backlog}</td>
            <td>
              {l.weeks > 0
                ? say("perWeekOverWeeksWeeks", {
                    perWeek: figure(l.perWeek, 2),
                    weeks: figure(l.weeks),
                  })
                : say("noRecord")}
            </td>
            <td>{l.point}</td>
            <td>{l.leadDays}</td>
          </tr>
        ))}
    </Table>
  );
}

/** What units came without: it lowers their price until it is bought and added. */
function CameWithout({ buy, shop }: BuyListState) {
  if (buy.missing.length === 0) return null;
  return (
    <Box component="section" aria-label={say("unitsCameWithout")}>
      <Typography component="h2" variant="h2">
        {say("unitsCameWithout")}
      </Typography>
      <Words quiet after={1}>
        {say("eachIsOffItsPrice")}
      </Words>
      <Table
        label={say("unitsCameWithout")}
        heads={[say("piece"), say("model"), say("units"), say("each"), say("together")]}
        minWidth={560}
      >
        {buy.missing.map((l) => (
          <tr key={`${l.model} ${l.piece}`}>
            <td>{l.piece}</td>
            <td>{l.model}</td>
            <td>
              {l.tags.map((tag, i) => (
                <span key={tag}>
                  {i > 0 && ", "}
                  <Link href={`/units/${tag}/intake`}>{tag}</Link>
                </span>
              ))}
            </td>
            <td>{money(l.costMinor, shop)}</td>
            <td>
              <b>{money(l.costMinor * l.tags.length, shop)}</b>
            </td>
          </tr>
        ))}
      </Table>
    </Box>
  );
}

function CheapestBasket({
  wanted,
  failed,
  basket,
  shop,
  supplierOf,
  bySupplier,
  buy,
  nameOf,
  canWork,
}: BuyListState) {
  return (
    wanted.length > 0 && (
      <Box component="section" aria-label={say("theCheapestBasket")}>
        <Row gap={2} at="baseline" role="status">
          <Typography component="h2" variant="h2">
            {say("theCheapestBasket")}
          </Typography>
          {failed && <span>{say("couldNotBeWorkedOutReload")}</span>}
          {!basket && !failed && <span>{say("workingItOut")}</span>}
          {basket && (
            <span>
              <Figure big>{money(basket.goodsMinor + basket.carriageMinor, shop)}</Figure>
              {say("carriageMinorOfItCarriageOneSupplier", {
                carriageMinor: money(basket.carriageMinor, shop),
                oneSupplier:
                  basket.oneSupplier && basket.oneSupplier.minor > basket.goodsMinor + basket.carriageMinor
                    ? say("allFromSupplierItWouldBe", {
                        supplier: supplierOf(basket.oneSupplier.supplier),
                        minor: money(basket.oneSupplier.minor, shop),
                      })
                    : "",
              })}
              {basket.missing.length > 0 &&
                say("nobodyOffersMissing", { missing: basket.missing.join(", ") })}
            </span>
          )}
        </Row>
        {[...bySupplier].map(([supplier, lines]) => (
          <Order
            key={supplier}
            supplier={supplier}
            name={supplierOf(supplier)}
            lines={lines}
            buy={buy}
            nameOf={nameOf}
            shop={shop}
            canWork={canWork}
          />
        ))}
      </Box>
    )
  );
}

function OnItsWay({ buy, supplierOf, nameOf, shop, canWork }: BuyListState) {
  return (
    <Box component="section" aria-label={say("onItsWay")}>
      <Typography component="h2" variant="h2">
        {say("onItsWay")}
      </Typography>
      {buy.orders.filter((o) => o.status === "open").length === 0 && (
        <Typography color="text.secondary">{say("noOpenOrder")}</Typography>
      )}
      {buy.orders
        .filter((o) => o.status === "open")
        .map((o) => (
          <OpenOrder
            key={o.id}
            order={o}
            supplier={supplierOf(o.supplier)}
            nameOf={nameOf}
            shop={shop}
            canWork={canWork}
          />
        ))}
    </Box>
  );
}

function Order({
  supplier,
  name,
  lines,
  buy,
  nameOf,
  shop,
  canWork,
}: {
  supplier: string;
  name: string;
  lines: Basket["lines"];
  buy: BuyingList;
  nameOf: (code: string) => string;
  shop: PartsProps["shop"];
  canWork: boolean;
}) {
  const deed = useDeed("order.place");
  const terms = buy.suppliers.find((s) => s.id === supplier);
  const goods = lines.reduce((s, l) => s + l.costMinor, 0);
  const carriage =
    terms && !(terms.freeFromMinor !== null && goods >= terms.freeFromMinor) ? terms.carriageMinor : 0;
  const days = Math.max(...lines.map((l) => buy.leads[l.offer] ?? 0));
  const place = () =>
    deed.run({
      supplier,
      carriageMinor: carriage,
      days,
      lines: lines.map((l) => ({
        part: l.part,
        pack: l.pieces / l.packs,
        packs: l.packs,
        costMinor: l.costMinor,
      })),
    });
  return (
    <Box sx={{ borderTop: 1, borderColor: "divider", py: 1 }}>
      <Row gap={2} at="center">
        <b>{name}</b>
        <Figure>{money(goods + carriage, shop)}</Figure>
        <span>
          {say("carriageInDaysDays", {
            carriage:
              carriage > 0
                ? say("withCarriageCarriage", { carriage: money(carriage, shop) })
                : say("withoutCarriage"),
            days,
          })}
        </span>
        {canWork && (
          <Button
            variant="contained"
            onClick={place}
            disabled={deed.running}
            aria-label={say("writeDownTheOrderToName", { name })}
          >
            {say("ordered")}
          </Button>
        )}
      </Row>
      {lines.map((l) => (
        <div key={l.offer}>
          {l.packs} x {l.pieces / l.packs} {nameOf(l.part)}: {money(l.costMinor, shop)}
        </div>
      ))}
      <Problem problem={deed.problem} />
    </Box>
  );
}

type OpenOrderProps = {
  order: OrderView;
  supplier: string;
  nameOf: (code: string) => string;
  shop: PartsProps["shop"];
  canWork: boolean;
};

/** What OpenOrder knows and does; the components below only show it. */
function useOpenOrder({ order, supplier, nameOf, shop, canWork }: OpenOrderProps) {
  const arrive = useDeed("stock.receive");
  const cancel = useDeed("order.cancel");
  const [bin, setBin] = useState("N1");
  const goods = order.lines.reduce((s, l) => s + l.costMinor, 0);
  // carriage goes with the goods, by their price; the last line takes what is left
  const shareOf = (i: number) => {
    const upTo = (k: number) =>
      goods > 0
        ? Math.round(
            (order.carriageMinor * order.lines.slice(0, k).reduce((s, l) => s + l.costMinor, 0)) / goods,
          )
        : 0;
    return upTo(i + 1) - upTo(i);
  };
  return { order, supplier, nameOf, shop, canWork, arrive, cancel, bin, setBin, shareOf };
}
type OpenOrderState = ReturnType<typeof useOpenOrder>;

function OpenOrder(props: OpenOrderProps) {
  const s = useOpenOrder(props);
  const { arrive, cancel } = s;

  return (
    <Box sx={{ borderTop: 1, borderColor: "divider", py: 1 }}>
      <OrderHead {...s} />
      <OrderLines {...s} />
      <Problem problem={arrive.problem ?? cancel.problem} />
    </Box>
  );
}

function OrderHead({ order, supplier, shop, canWork, bin, setBin, cancel }: OpenOrderState) {
  return (
    <Row gap={2} at="center">
      <b>{order.code}</b>{" "}
      {say("supplierExpectedExpectedOnBy", {
        supplier,
        expectedOn: day(order.expectedOn, shop),
        by: order.by,
      })}
      {canWork && (
        <BoundField
          deed="stock.receive"
          name="bin"
          label={say("intoBin")}
          value={bin}
          onChange={setBin}
          sx={{ width: 100 }}
        />
      )}
      {canWork && order.lines.every((l) => !l.batch) && (
        <Button size="small" onClick={() => cancel.run({ orderId: order.id })}>
          {say("cancelled")}
        </Button>
      )}
    </Row>
  );
}

function OrderLines({ order, nameOf, shareOf, shop, canWork, arrive, bin }: OpenOrderState) {
  return order.lines.map((l, i) => (
    <Row key={l.id} gap={1.5} at="center">
      {say("piecesPartCostMinorWithCarriage", {
        pieces: l.pieces,
        part: nameOf(l.part),
        costMinor: money(l.costMinor + shareOf(i), shop),
      })}
      {l.batch ? (
        <>
          {say("arrivedAs")} <Link href={`/parts/${l.batch}`}>{l.batch}</Link>
        </>
      ) : (
        canWork && (
          <Button
            size="small"
            variant="outlined"
            disabled={arrive.running}
            onClick={() =>
              arrive.run({
                part: l.part,
                supplier: order.supplier,
                pieces: l.pieces,
                costMinor: l.costMinor + shareOf(i),
                bin: bin.trim(),
                orderLineId: l.id,
              })
            }
          >
            {say("itIsHere")}
          </Button>
        )
      )}
    </Row>
  ));
}
