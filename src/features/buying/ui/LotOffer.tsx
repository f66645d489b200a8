"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { decider } from "@/browser/decide";
import type { LotWorth } from "@/browser/decide-worker";
import type { Settings } from "@/contract/deeds";
import { readAmount, readOptionalAmount } from "@/text/format";
import type { BuyingView } from "@/features/buying/view";
import { money, typedAmount } from "@/text/format";
import { Form } from "@/ui/fields/Form";
import { BigFigure } from "@/features/units/ui/unit/Station";
import { Amount } from "./Amount";
import type { BaseOf } from "./base";
import { say } from "@/features/buying/words/words";
import { readWhole } from "@/ui/fields/NumberField";
import { Row } from "@/ui/kit/layout";

type Line = { id: number; model: string; count: string; words: string };

const countOf = (line: Line): number | null => readWhole(line.count, 1, 999);

type LotOfferProps = { view: BuyingView; shop: Settings };

/** What LotOffer knows and does; the components below only show it. */
function useLotOffer({ view, shop }: LotOfferProps) {
  const [lines, setLines] = useState<Line[]>([
    { id: 1, model: view.models[0]?.key ?? "", count: "10", words: "untested" },
  ]);
  const [price, setPrice] = useState("");
  const [carriage, setCarriage] = useState(() => typedAmount(shop.rates.carriageOut));
  const [worth, setWorth] = useState<LotWorth | null>(null);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState("");
  const cost = (readAmount(price || "0") ?? 0) + (readOptionalAmount(carriage) ?? 0);
  const change = (id: number, next: Partial<Line>) =>
    setLines(lines.map((l) => (l.id === id ? { ...l, ...next } : l)));
  const bad = lines.some((l) => countOf(l) === null);
  const work = async () => {
    setBusy(true);
    setProblem("");
    try {
      const bases = await Promise.all(
        lines.map(
          async (l) =>
            ((await (await fetch(`/api/buy-base/${l.model}`)).json()) as { value: NonNullable<BaseOf> })
              .value,
        ),
      );
      const asked = lines.map((l, i) => ({ asked: { ...bases[i]!, words: l.words }, count: countOf(l)! }));
      setWorth(await decider().lot({ lines: asked, cost }));
    } catch {
      setProblem(say("thisCouldNotBeWorkedOut"));
    }
    setBusy(false);
  };
  return {
    view,
    shop,
    lines,
    setLines,
    price,
    setPrice,
    carriage,
    setCarriage,
    worth,
    busy,
    problem,
    cost,
    change,
    bad,
    work,
  };
}
type LotOfferState = ReturnType<typeof useLotOffer>;

/**
 * A lot that is offered: how many of what, with which words, for how much. Its worth with its spread, by
 * 10,000 seeded draws.
 */
export function LotOffer(props: LotOfferProps) {
  const s = useLotOffer(props);
  const { view, lines, setLines, problem, bad, work } = s;

  return (
    <Form
      onSend={() => {
        if (!bad) void work();
      }}
      sx={{ display: "grid", gap: 1.5, maxWidth: 980 }}
    >
      <OfferLines {...s} />
      <Box>
        <Button
          onClick={() =>
            setLines([
              ...lines,
              {
                id: Math.max(...lines.map((l) => l.id)) + 1,
                model: view.models[0]?.key ?? "",
                count: "1",
                words: "",
              },
            ])
          }
        >
          {say("anotherLine")}
        </Button>
      </Box>
      <OfferPrice {...s} />
      {problem && <Typography color="error">{problem}</Typography>}
      <OfferWorth {...s} />
    </Form>
  );
}

function OfferLines({ lines, change, view, setLines }: LotOfferState) {
  return lines.map((l) => (
    <Box
      key={l.id}
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "1fr 1fr", sm: "100px 200px 1fr auto" },
        gap: 1,
        alignItems: "start",
      }}
    >
      <TextField
        label={say("howMany")}
        value={l.count}
        error={countOf(l) === null}
        helperText={countOf(l) === null ? say("from1To999") : undefined}
        onChange={(e) => change(l.id, { count: e.target.value })}
      />
      <TextField
        select
        label={say("model")}
        value={l.model}
        onChange={(e) => change(l.id, { model: e.target.value })}
      >
        {view.models.map((m) => (
          <MenuItem key={m.key} value={m.key}>
            {m.name}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        label={say("whatIsSaidOfThem")}
        value={l.words}
        onChange={(e) => change(l.id, { words: e.target.value })}
      />
      <Button
        color="inherit"
        disabled={lines.length === 1}
        onClick={() => setLines(lines.filter((x) => x.id !== l.id))}
      >
        {say("remove")}
      </Button>
    </Box>
  ));
}

function OfferPrice({ shop, price, setPrice, carriage, setCarriage, busy, bad }: LotOfferState) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "200px 200px auto", gap: 1.5, alignItems: "start" }}>
      <Amount
        label={say("priceOfTheLotCurrency", { currency: shop.currency })}
        value={price}
        onChange={setPrice}
        optional
      />
      <Amount label={say("carriage")} value={carriage} onChange={setCarriage} optional />
      <Button
        type="submit"
        variant="contained"
        size="large"
        disabled={busy || bad}
        sx={{ justifySelf: "start" }}
      >
        {busy ? say("working") : say("whatIsItWorth")}
      </Button>
    </Box>
  );
}

function OfferWorth({ worth, shop, cost }: LotOfferState) {
  return (
    worth && (
      <Box aria-live="polite" component="section" aria-label={say("worthOfTheLot")}>
        <Row gap={4}>
          <BigFigure
            value={money(Math.round(worth.mean), shop)}
            label={say("worthOfUnitsUnits", { units: worth.units })}
            detail={say("n8Of10TimesLowTo", {
              low: money(Math.round(worth.low), shop),
              high: money(Math.round(worth.high), shop),
            })}
          />
          <BigFigure
            value={money(Math.round(worth.mean / worth.units), shop)}
            label={say("aUnit")}
            detail={say("beforeWhatItCosts")}
          />
          <BigFigure
            value={money(Math.round(worth.mean - cost), shop)}
            label={say("margin")}
            detail={say("costLandedLossInLossOf", {
              cost: money(cost, shop),
              loss: Math.round(worth.loss * 100),
            })}
          />
        </Row>
        <Typography color="text.secondary">{say("eachUnitByItsOwnOdds")}</Typography>
      </Box>
    )
  );
}
