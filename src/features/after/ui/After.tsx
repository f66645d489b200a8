import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import type { ReactNode } from "react";

import type { Settings } from "@/contract/deeds";
import type { ReadyLine, ReturnView, SaleLine } from "@/features/after/view";
import { PaperBook } from "@/features/papers/ui/PaperBook";
import type { PaperView } from "@/features/papers/view";
import { day, money } from "@/text/format";
import { HANDOVER_WORDS } from "@/features/release/words/text";
import { Figure, Table } from "@/ui/kit/Table";
import { BigFigure } from "@/features/units/ui/unit/Station";
import { say } from "@/features/after/words/words";
import { Row } from "@/ui/kit/layout";

type Props = {
  counts: { ready: number; ending: number };
  ready: ReadyLine[];
  ending: SaleLine[];
  returns: ReturnView[];
  sales: SaleLine[];
  papers: PaperView[];
  soonDays: number;
  shop: Settings;
};

/** What the parts of it are drawn from. */
function afterOf({ counts, ready, ending, returns, sales, soonDays, shop }: Omit<Props, "papers">) {
  const covered = returns.filter((r) => r.inWarranty);
  const cost = covered.reduce((s, r) => s + r.costMinor, 0);
  return { counts, ready, ending, returns, sales, soonDays, shop, covered, cost };
}
type AfterState = ReturnType<typeof afterOf>;

/**
 * What left the bench: what waits to go, whose cover ends soon, what came back and what it cost, and what was
 * handed over.
 */
export function After(props: Props) {
  const s = afterOf(props);

  return (
    <Box sx={{ display: "grid", gap: 3, gridTemplateColumns: "minmax(0,1fr)" }}>
      <AfterHead {...s} />
      <ReadyToGo {...s} />
      <CoverEnds {...s} />
      <Returns {...s} />
      <HandedOver {...s} />
      <PaperBook papers={props.papers} shop={props.shop} />
    </Box>
  );
}

function AfterHead({ counts, soonDays, cost, shop, covered, returns }: AfterState) {
  return (
    <Box sx={{ display: "flex", gap: 5, flexWrap: "wrap", alignItems: "flex-end" }}>
      <Typography component="h1" variant="h1">
        {say("afterTheBench")}
      </Typography>
      <BigFigure
        value={counts.ready}
        label={say("releasedStillHere")}
        detail={say("handEachOverCoverRunsFrom")}
      />
      <BigFigure
        value={counts.ending}
        label={say("coversEndWithinSoonDaysDays", { soonDays })}
        detail={say("theLastMomentToSettleA")}
      />
      <BigFigure
        value={money(cost, shop)}
        label={say("mendedAgainUnderWarranty")}
        detail={say("coveredOfReturns", { covered: covered.length, returns: returns.length })}
      />
    </Box>
  );
}

function ReadyToGo({ counts, ready, shop }: AfterState) {
  return (
    <Part
      title={say("readyToGo")}
      more={counts.ready - ready.length}
      csv="listings"
      empty={ready.length === 0 && say("nothingWaitsWhatWasReleased")}
    >
      <Table
        label={say("readyToGo")}
        heads={[say("unit"), say("model"), say("grade"), say("price"), say("released")]}
      >
        {ready.map((r) => (
          <tr key={r.tag}>
            <td>
              <Link href={`/units/${r.tag}/release`}>{r.tag}</Link>
            </td>
            <td>{r.model}</td>
            <td>{r.grade}</td>
            <td>
              <Figure>{r.source === "customer" ? say("customers") : money(r.priceMinor, shop)}</Figure>
            </td>
            <td>{day(r.releasedAt, shop)}</td>
          </tr>
        ))}
      </Table>
    </Part>
  );
}

function CoverEnds({ counts, ending, soonDays, shop }: AfterState) {
  return (
    <Part
      title={say("coverEndsSoon")}
      more={counts.ending - ending.length}
      empty={ending.length === 0 && say("noCoverEndsWithinSoonDaysDays", { soonDays })}
    >
      <Table
        label={say("coverEndsSoon")}
        heads={[
          say("unit"),
          say("model"),
          say("handedOver"),
          say("theUnitUntil"),
          say("itsFittedPartsUntil"),
        ]}
      >
        {ending.map((s) => (
          <tr key={s.tag}>
            <td>
              <Link href={`/units/${s.tag}/release`}>{s.tag}</Link>
            </td>
            <td>{s.model}</td>
            <td>{day(s.handedOn, shop)}</td>
            <td>{s.coverUntil ? day(s.coverUntil, shop) : say("none")}</td>
            <td>{s.partCoverUntil ? day(s.partCoverUntil, shop) : say("none")}</td>
          </tr>
        ))}
      </Table>
    </Part>
  );
}

function Returns({ returns, shop }: AfterState) {
  return (
    <Part title={say("returns2")} empty={returns.length === 0 && say("nothingCameBack")}>
      <Table
        label={say("returns2")}
        heads={[
          say("unit"),
          say("whatTheySaid"),
          say("after"),
          say("covered"),
          say("pointsTo"),
          say("costSince"),
        ]}
        minWidth={760}
      >
        {returns.map((r) => {
          const coverOf = () => {
            if (r.inWarranty === null) return say("notKnown");
            if (r.inWarranty) return say("yes");
            return say("no");
          };
          return (
            <tr key={`${r.tag} ${r.at}`}>
              <td>
                <Link href={`/units/${r.tag}`}>{r.tag}</Link>
                {r.open && say("open")}
              </td>
              <td>{r.words}</td>
              <td>{say("daysDays", { days: r.days })}</td>
              <td>{coverOf()}</td>
              <td>
                {[
                  r.mend,
                  r.route,
                  r.person && say("byPerson", { person: r.person }),
                  r.part,
                  r.batch && say("batchBatch", { batch: r.batch }),
                ]
                  .filter(Boolean)
                  .join(", ") || say("nothingYet")}
              </td>
              <td>
                <Figure>{money(r.costMinor, shop)}</Figure>
              </td>
            </tr>
          );
        })}
      </Table>
    </Part>
  );
}

function HandedOver({ sales, shop }: AfterState) {
  return (
    <Part title={say("handedOver")} csv="sales" empty={sales.length === 0 && say("nothingWasHandedOverYet")}>
      <Table
        label={say("handedOver")}
        heads={[say("unit"), say("model"), say("how"), say("price"), say("fees"), say("on")]}
      >
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
              <Figure>{s.priceMinor === null ? say("none") : money(s.priceMinor, shop)}</Figure>
            </td>
            <td>{s.feesMinor ? money(s.feesMinor, shop) : say("none")}</td>
            <td>{day(s.handedOn, shop)}</td>
          </tr>
        ))}
      </Table>
    </Part>
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
      <Row gap={2} oneLine at="center">
        <Typography component="h2" variant="h2">
          {title}
        </Typography>
        {csv && !empty && (
          <Button component="a" href={`/api/sales?list=${csv}`} size="small">
            {csv === "listings" ? say("listingsAsCSV") : say("salesAsCSV")}
          </Button>
        )}
      </Row>
      {empty ? <Typography color="text.secondary">{empty}</Typography> : children}
      {more > 0 && <Typography color="text.secondary">{say("andMoreMore", { more })}</Typography>}
    </section>
  );
}
