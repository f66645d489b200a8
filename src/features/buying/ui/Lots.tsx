"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import { type SpreadWay, SPREADS } from "@/core/decide/lot";
import { readAmount } from "@/text/format";
import type { BuyingView, LotView } from "@/features/buying/view";
import { SPREAD_WORDS } from "@/features/decide/words/text";
import { dayAndTime, money, typedAmount } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { Amount } from "./Amount";
import { say } from "@/features/buying/words/words";
import { codeWords } from "@/words/codes";
import { SIZE } from "@/ui/tokens";
import { Row, Words } from "@/ui/kit/layout";

/** Lots in house: each unit's share of the one price, always adding up to the cent. */
export function Lots({ view, shop, canWork }: { view: BuyingView; shop: Settings; canWork: boolean }) {
  if (view.lots.length === 0) return <Typography color="text.secondary">{say("noLotYetALotIs")}</Typography>;
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "minmax(0,1fr)", gap: 3 }}>
      {(view.lotCount > view.lots.length || view.lotAsked) && <OtherLot view={view} />}
      {view.lots.map((l) => (
        <Lot key={`${l.id} ${l.version}`} lot={l} shop={shop} canWork={canWork} />
      ))}
    </Box>
  );
}

/** A lot that is neither open nor among the newest, by its code. */
function OtherLot({ view }: { view: BuyingView }) {
  const router = useRouter();
  const [code, setCode] = useState(view.lotAsked?.code ?? "");
  const missing = view.lotAsked?.found === false;
  return (
    <Form
      onSend={() => router.push(`/buying?lot=${encodeURIComponent(code.trim())}`)}
      sx={{ display: "flex", gap: 2, alignItems: "center", flexWrap: "wrap" }}
    >
      <TextField
        label={say("anotherLotByItsCodeEnter")}
        value={code}
        onChange={(e) => setCode(e.target.value)}
        error={missing}
        helperText={missing ? say("thereIsNoLotLotAskedIts", { lotAsked: view.lotAsked!.code }) : undefined}
        sx={{ width: 280 }}
      />
      <Typography color="text.secondary">
        {say("lotsOfLotCountLotsThoseThat", { lots: view.lots.length, lotCount: view.lotCount })}
      </Typography>
    </Form>
  );
}

type LotProps = { lot: LotView; shop: Settings; canWork: boolean };

/** What Lot knows and does; the components below only show it. */
function useLot({ lot, shop, canWork }: LotProps) {
  const deed = useDeed("lot.spread");
  const [way, setWay] = useState<SpreadWay>(lot.way);
  const [hand, setHand] = useState<Record<string, string>>(
    Object.fromEntries(lot.units.map((u) => [u.id, typedAmount(u.handMinor)])),
  );
  const bad = way === "hand" && Object.values(hand).some((t) => t.trim() !== "" && readAmount(t) === null);
  const sum = lot.units.reduce((s, u) => s + (u.shareMinor ?? 0), 0);
  const save = () =>
    deed.run({
      lotId: lot.id,
      version: lot.version,
      way,
      hand:
        way === "hand"
          ? Object.entries(hand)
              .filter(([, t]) => t.trim() !== "")
              .map(([unitId, t]) => ({ unitId, minor: readAmount(t)! }))
          : [],
    });
  return { lot, shop, canWork, deed, way, setWay, hand, setHand, bad, sum, save };
}
type LotState = ReturnType<typeof useLot>;

function Lot(props: LotProps) {
  const s = useLot(props);
  const { lot, deed } = s;

  return (
    <Box component="section" aria-label={say("lotLot", { lot: lot.code })}>
      <LotFigures {...s} />
      <SharesOfLot {...s} />
      <SpreadLot {...s} />
      <CarriageOfLot {...s} />
      <Problem problem={deed.problem} />
      <SpreadHistory {...s} />
    </Box>
  );
}

function LotFigures({ lot, shop }: LotState) {
  return (
    <Row gap={2} at="baseline">
      <Typography component="h2" variant="h2">
        {lot.code}
      </Typography>
      <span>{lot.seller}</span>
      <Words size="title" strong figures>
        {money(lot.costMinor, shop)}
      </Words>
      <Typography color="text.secondary">
        {say("overUnits", { units: lot.units.length })}
        {lot.unitsPromised && say("ofUnitsPromised", { unitsPromised: lot.unitsPromised })}{" "}
        {say("unitsWay", { units: lot.unitsPromised ?? lot.units.length, way: SPREAD_WORDS[lot.way] })}
        {lot.toComeMinor > 0 &&
          say("toComeMinorForThoseStillToCome", { toComeMinor: money(lot.toComeMinor, shop) })}
      </Typography>
    </Row>
  );
}

function SharesOfLot({ way, lot, shop, hand, setHand, sum }: LotState) {
  return (
    <Box sx={{ overflowX: "auto" }}>
      <Box
        component="table"
        sx={{
          borderCollapse: "collapse",
          minWidth: 560,
          "& td, & th": { py: 0.4, pr: 2, textAlign: "left", borderTop: 1, borderColor: "divider" },
        }}
      >
        <thead>
          <tr>
            <th>{say("unit")}</th>
            <th>{say("model")}</th>
            <th>{say("role")}</th>
            <th>{say("share")}</th>
            {way === "hand" && <th>{say("byHand")}</th>}
            <th>{say("claim")}</th>
          </tr>
        </thead>
        <tbody>
          {lot.units.map((u) => (
            <tr key={u.id}>
              <td>
                <Link href={`/units/${u.tag}`}>{u.tag}</Link>
              </td>
              <td>{u.model}</td>
              <td>{codeWords(u.role)}</td>
              <td>
                <Words component="span" strong figures>
                  {money(u.shareMinor, shop)}
                </Words>
              </td>
              {way === "hand" && (
                <td>
                  <Box sx={{ width: 120 }}>
                    <Amount
                      label={say("shareOfTag", { tag: u.tag })}
                      value={hand[u.id] ?? ""}
                      onChange={(v) => setHand({ ...hand, [u.id]: v })}
                      optional
                    />
                  </Box>
                </td>
              )}
              <td>{u.claim}</td>
            </tr>
          ))}
          <tr>
            <td colSpan={3}>
              <b>
                {say("together")}
                {lot.toComeMinor > 0 && say("withThoseToCome")}
              </b>
            </td>
            <td colSpan={way === "hand" ? 3 : 2}>
              <Words component="span" strong figures>
                {money(sum + lot.toComeMinor, shop)}
              </Words>
            </td>
          </tr>
        </tbody>
      </Box>
    </Box>
  );
}

function SpreadLot({ canWork, way, setWay, save, deed, bad }: LotState) {
  return (
    canWork && (
      <Row gap={1.5} before={1} at="center">
        <TextField
          select
          label={say("spread")}
          value={way}
          onChange={(e) => setWay(e.target.value as SpreadWay)}
          sx={{ width: 210 }}
        >
          {SPREADS.map((w) => (
            <MenuItem key={w} value={w}>
              {SPREAD_WORDS[w]}
            </MenuItem>
          ))}
        </TextField>
        <Button variant="outlined" onClick={save} disabled={deed.running || bad}>
          {say("spreadItAgain")}
        </Button>
        {way === "hand" && <Typography color="text.secondary">{say("leaveAUnitEmptyToGive")}</Typography>}
      </Row>
    )
  );
}

/** The bill for the carriage may come when all is sold: it is booked all the same. */
function CarriageOfLot({ lot, shop, canWork }: LotState) {
  const book = useDeed("lot.carriage");
  const [typed, setTyped] = useState(typedAmount(lot.carriageMinor));
  const minor = readAmount(typed);
  if (!canWork) return null;
  return (
    <Form
      onSend={() => minor !== null && book.run({ lotId: lot.id, version: lot.version, carriageMinor: minor })}
      sx={{ display: "flex", gap: 1.5, mt: 1, alignItems: "center", flexWrap: "wrap" }}
    >
      <Box sx={{ width: 210 }}>
        <Amount
          label={say("carriageOfTheLot", { currency: shop.currency })}
          value={typed}
          onChange={setTyped}
        />
      </Box>
      <Button
        type="submit"
        variant="outlined"
        disabled={book.running || minor === null || minor === lot.carriageMinor}
      >
        {say("bookTheCarriage")}
      </Button>
      <Typography color="text.secondary">{say("whatIsSoldCarriesItToo")}</Typography>
      <Problem problem={book.problem} />
    </Form>
  );
}

function SpreadHistory({ lot, shop }: LotState) {
  return (
    lot.history.length > 0 && (
      <Box component="details" sx={{ mt: 1, "& summary": { cursor: "pointer" } }}>
        <summary>
          {say("spreadHistory", {
            history:
              lot.history.length === 1 ? say("once") : say("historyTimes", { history: lot.history.length }),
          })}
        </summary>
        {lot.history.map((h, i) => (
          <Box key={i} sx={{ fontSize: SIZE.small, py: 0.3 }}>
            {dayAndTime(h.at, shop)}, {h.by}: {h.why}, {SPREAD_WORDS[h.way as SpreadWay]}:{" "}
            {h.shares.map((s) => `${s.unit} ${money(s.minor, shop)}`).join(", ")}
          </Box>
        ))}
      </Box>
    )
  );
}
