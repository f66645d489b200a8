import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import type { ReactNode } from "react";

import type { Settings } from "@/contract/deeds";
import type { ReadyLine, ReturnView, SaleLine } from "@/service/after-sale";
import { day, money } from "@/text/format";
import { HANDOVER_WORDS } from "@/text/release";
import { Figure, Table } from "@/ui/parts/Table";
import { BigFigure } from "@/ui/unit/Station";

type Props = {
  counts: { ready: number; ending: number };
  ready: ReadyLine[];
  ending: SaleLine[];
  returns: ReturnView[];
  sales: SaleLine[];
  soonDays: number;
  shop: Settings;
};

/** What left the bench: what waits to go, whose cover ends soon, what came back and what it cost, and what was handed over. */
export function After({ counts, ready, ending, returns, sales, soonDays, shop }: Props) {
  const covered = returns.filter((r) => r.inWarranty);
  const cost = covered.reduce((s, r) => s + r.costMinor, 0);
  return (
    <Box sx={{ display: "grid", gap: 3, gridTemplateColumns: "minmax(0,1fr)" }}>
      <Box sx={{ display: "flex", gap: 5, flexWrap: "wrap", alignItems: "flex-end" }}>
        <Typography component="h1" variant="h1">
          After the bench
        </Typography>
        <BigFigure value={counts.ready} label="released, still here" detail="hand each over: cover runs from that day" />
        <BigFigure
          value={counts.ending}
          label={`covers end within ${soonDays} days`}
          detail="the last moment to settle a doubt"
        />
        <BigFigure
          value={money(cost, shop)}
          label="mended again under warranty"
          detail={`covered: ${covered.length} of ${returns.length} ${returns.length === 1 ? "return" : "returns"}`}
        />
      </Box>
      <Part
        title="Ready to go"
        more={counts.ready - ready.length}
        csv="listings"
        empty={ready.length === 0 && "Nothing waits: what was released was handed over."}
      >
        <Table label="Ready to go" heads={["Unit", "Model", "Grade", "Price", "Released"]}>
          {ready.map((r) => (
            <tr key={r.tag}>
              <td>
                <Link href={`/units/${r.tag}/release`}>{r.tag}</Link>
              </td>
              <td>{r.model}</td>
              <td>{r.grade}</td>
              <td>
                <Figure>{r.source === "customer" ? "customer's" : money(r.priceMinor, shop)}</Figure>
              </td>
              <td>{day(r.releasedAt, shop)}</td>
            </tr>
          ))}
        </Table>
      </Part>
      <Part
        title="Cover ends soon"
        more={counts.ending - ending.length}
        empty={ending.length === 0 && `No cover ends within ${soonDays} days.`}
      >
        <Table label="Cover ends soon" heads={["Unit", "Model", "Handed over", "The unit until", "Its fitted parts until"]}>
          {ending.map((s) => (
            <tr key={s.tag}>
              <td>
                <Link href={`/units/${s.tag}/release`}>{s.tag}</Link>
              </td>
              <td>{s.model}</td>
              <td>{day(s.handedOn, shop)}</td>
              <td>{s.coverUntil ? day(s.coverUntil, shop) : "none"}</td>
              <td>{s.partCoverUntil ? day(s.partCoverUntil, shop) : "none"}</td>
            </tr>
          ))}
        </Table>
      </Part>
      <Part title="Returns" empty={returns.length === 0 && "Nothing came back."}>
        <Table label="Returns" heads={["Unit", "What they said", "After", "Covered", "Points to", "Cost since"]} minWidth={760}>
          {returns.map((r) => (
            <tr key={`${r.tag} ${r.at}`}>
              <td>
                <Link href={`/units/${r.tag}`}>{r.tag}</Link>
                {r.open && " (open)"}
              </td>
              <td>{r.words}</td>
              <td>{r.days} days</td>
              <td>{r.inWarranty === null ? "not known" : r.inWarranty ? "yes" : "no"}</td>
              <td>
                {[r.mend, r.route, r.person && `by ${r.person}`, r.part, r.batch && `batch ${r.batch}`]
                  .filter(Boolean)
                  .join(", ") || "nothing yet"}
              </td>
              <td>
                <Figure>{money(r.costMinor, shop)}</Figure>
              </td>
            </tr>
          ))}
        </Table>
      </Part>
      <Part title="Handed over" csv="sales" empty={sales.length === 0 && "Nothing was handed over yet."}>
        <Table label="Handed over" heads={["Unit", "Model", "How", "Price", "Fees", "On"]}>
          {sales.map((s) => (
            <tr key={s.tag + s.handedOn}>
              <td>
                <Link href={`/units/${s.tag}/release`}>{s.tag}</Link>
              </td>
              <td>{s.model}</td>
              <td>
                {HANDOVER_WORDS[s.kind]}
                {s.channel && `, ${s.channel}`}
              </td>
              <td>
                <Figure>{s.priceMinor === null ? "none" : money(s.priceMinor, shop)}</Figure>
              </td>
              <td>{s.feesMinor ? money(s.feesMinor, shop) : "none"}</td>
              <td>{day(s.handedOn, shop)}</td>
            </tr>
          ))}
        </Table>
      </Part>
    </Box>
  );
}

function Part({
  title,
  empty,
  csv,
  more = 0,
  children,
}: {
  title: string;
  empty: string | false;
  csv?: string;
  more?: number;
  children: ReactNode;
}) {
  return (
    <section aria-label={title}>
      <Box sx={{ display: "flex", alignItems: "center", gap: 2 }}>
        <Typography component="h2" variant="h2">
          {title}
        </Typography>
        {csv && !empty && (
          <Button component="a" href={`/api/sales?list=${csv}`} size="small">
            {csv === "listings" ? "Listings as CSV" : "Sales as CSV"}
          </Button>
        )}
      </Box>
      {empty ? <Typography color="text.secondary">{empty}</Typography> : children}
      {more > 0 && <Typography color="text.secondary">and {more} more</Typography>}
    </section>
  );
}
