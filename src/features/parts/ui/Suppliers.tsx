"use client";

import Box from "@mui/material/Box";

import type { Settings } from "@/contract/deeds";
import type { SupplierPrice } from "@/features/stock/batch-view";
import { money, figure } from "@/text/format";
import type { PartsProps } from "./props";
import { Figure, Table } from "@/ui/kit/Table";
import { say } from "@/features/parts/words/words";
import { Text, Words } from "@/ui/kit/layout";

const percent = (x: number) => `${Math.round(100 * x)} %`;

/** What a usable piece really costs, supplier beside supplier, and how the fitted ones felt. */
export function Suppliers({ view, shop }: PartsProps) {
  const byPart = new Map<string, typeof view.suppliers>();
  // what goes into units; parts with a measured piece first
  const known = (code: string) => view.suppliers.some((s) => s.part === code && s.price.each !== null);
  const shown = view.suppliers
    .filter((s) => view.catalogue.parts.find((p) => p.code === s.part)?.class === "part")
    .sort((a, b) => Number(known(b.part)) - Number(known(a.part)));
  for (const s of shown) byPart.set(s.part, [...(byPart.get(s.part) ?? []), s]);
  return (
    <Box>
      <Text color="text.secondary" after={1}>
        {say("goodsInspectionAndWhatSlips")}
      </Text>
      <Table
        label={say("priceOfAUsablePiece")}
        heads={[
          say("part2"),
          say("from"),
          say("aUsablePiece"),
          say("badOfMeasured"),
          say("batches"),
          say("feelWhenFitted"),
        ]}
      >
        {[...byPart].flatMap(([part, rows]) =>
          rows.map((r, i) => (
            <tr key={`${part} ${r.supplier}`}>
              <td>
                {i === 0 && (
                  <>
                    <b>{part}</b> {view.catalogue.parts.find((p) => p.code === part)?.name}
                  </>
                )}
              </td>
              <td>{view.catalogue.suppliers.find((s) => s.id === r.supplier)?.name ?? say("notKnown")}</td>
              <PriceCell r={r} rows={rows} shop={shop} />
              <td>
                {r.price.measured === 0
                  ? say("noneMeasured")
                  : say("badOfMeasuredLowToHigh", {
                      bad: r.price.bad,
                      measured: r.price.measured,
                      low: percent(r.price.share.low),
                      high: percent(r.price.share.high),
                    })}
              </td>
              <td>
                {r.batches}
                {r.rejected > 0 && say("rejectedRejected", { rejected: r.rejected })}
              </td>
              <td>
                {r.feel === null
                  ? say("notRated")
                  : say("feelOf5FeltRated", { feel: figure(r.feel, 1), felt: r.felt })}
              </td>
            </tr>
          )),
        )}
      </Table>
    </Box>
  );
}

const cheapest = (rows: readonly SupplierPrice[]): number =>
  Math.min(...rows.flatMap((r) => (r.price.each === null ? [] : [r.price.each])));

function PriceCell({ r, rows, shop }: { r: SupplierPrice; rows: readonly SupplierPrice[]; shop: Settings }) {
  return (
    <td>
      <Figure>{r.price.each === null ? say("notKnown") : money(Math.round(r.price.each), shop)}</Figure>
      {r.price.each !== null && (
        <Words component="span" size="small" quiet>
          {" "}
          {r.price.low !== null && r.price.high !== null
            ? say("lowToHigh", {
                low: money(Math.round(r.price.low), shop),
                high: money(Math.round(r.price.high), shop),
              })
            : say("theUpperEndIsOpen")}
          {rows.length > 1 && r.price.each === cheapest(rows) && say("theCheapest")}
        </Words>
      )}
      <Words size="small" quiet>
        {say("goodsGoodsInspectionInspection", {
          goods: money(r.price.goods, shop),
          inspection: money(r.price.inspection, shop),
          slips: money(r.price.slips, shop),
        })}
      </Words>
    </td>
  );
}
