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
import { parseAmount, parseOptional } from "@/core/money/money";
import type { BuyingView } from "@/service/buying";
import { money } from "@/text/format";
import { Form } from "@/ui/fields/Form";
import { BigFigure } from "@/ui/unit/Station";
import { Amount } from "./Bid";
import type { BaseOf } from "./Buying";

type Line = { id: number; model: string; count: string; words: string };

/** A lot that is offered: how many of what, with which words, for how much. Its worth with its spread, by 10,000 seeded draws. */
export function LotOffer({ view, shop }: { view: BuyingView; shop: Settings }) {
  const [lines, setLines] = useState<Line[]>([{ id: 1, model: view.models[0]?.key ?? "", count: "10", words: "untested" }]);
  const [price, setPrice] = useState("");
  const [carriage, setCarriage] = useState("8.90");
  const [worth, setWorth] = useState<LotWorth | null>(null);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState("");
  const cost = (parseAmount(price || "0") ?? 0) + (parseOptional(carriage) ?? 0);
  const change = (id: number, next: Partial<Line>) => setLines(lines.map((l) => (l.id === id ? { ...l, ...next } : l)));
  const bad = lines.some((l) => !/^[1-9]\d{0,2}$/.test(l.count));
  const work = async () => {
    setBusy(true);
    setProblem("");
    try {
      const bases = await Promise.all(
        lines.map(
          async (l) => ((await (await fetch(`/api/buy-base/${l.model}`)).json()) as { value: NonNullable<BaseOf> }).value,
        ),
      );
      const asked = lines.map((l, i) => ({ asked: { ...bases[i]!, words: l.words }, count: Number(l.count) }));
      setWorth(await decider().lot({ lines: asked, cost }));
    } catch {
      setProblem("This could not be worked out. Check the lines and try again.");
    }
    setBusy(false);
  };
  return (
    <Form
      onSend={() => {
        if (!bad) void work();
      }}
      sx={{ display: "grid", gap: 1.5, maxWidth: 980 }}
    >
      {lines.map((l) => (
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
            label="How many"
            value={l.count}
            error={!/^[1-9]\d{0,2}$/.test(l.count)}
            helperText={/^[1-9]\d{0,2}$/.test(l.count) ? undefined : "1 to 999"}
            onChange={(e) => change(l.id, { count: e.target.value })}
          />
          <TextField select label="Model" value={l.model} onChange={(e) => change(l.id, { model: e.target.value })}>
            {view.models.map((m) => (
              <MenuItem key={m.key} value={m.key}>
                {m.name}
              </MenuItem>
            ))}
          </TextField>
          <TextField label="What is said of them" value={l.words} onChange={(e) => change(l.id, { words: e.target.value })} />
          <Button color="inherit" disabled={lines.length === 1} onClick={() => setLines(lines.filter((x) => x.id !== l.id))}>
            Remove
          </Button>
        </Box>
      ))}
      <Box>
        <Button
          onClick={() =>
            setLines([
              ...lines,
              { id: Math.max(...lines.map((l) => l.id)) + 1, model: view.models[0]?.key ?? "", count: "1", words: "" },
            ])
          }
        >
          Another line
        </Button>
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: "200px 200px auto", gap: 1.5, alignItems: "start" }}>
        <Amount label={`Price of the lot, ${shop.currency}`} value={price} onChange={setPrice} optional />
        <Amount label="Carriage" value={carriage} onChange={setCarriage} optional />
        <Button type="submit" variant="contained" size="large" disabled={busy || bad} sx={{ justifySelf: "start" }}>
          {busy ? "Working …" : "What is it worth"}
        </Button>
      </Box>
      {problem && <Typography color="error">{problem}</Typography>}
      {worth && (
        <Box aria-live="polite" component="section" aria-label="Worth of the lot">
          <Box sx={{ display: "flex", gap: 4, flexWrap: "wrap" }}>
            <BigFigure
              value={money(Math.round(worth.mean), shop)}
              label={`worth of ${worth.units} units`}
              detail={`8 of 10 times ${money(Math.round(worth.low), shop)} to ${money(Math.round(worth.high), shop)}`}
            />
            <BigFigure value={money(Math.round(worth.mean / worth.units), shop)} label="a unit" detail="before what it costs" />
            <BigFigure
              value={money(Math.round(worth.mean - cost), shop)}
              label="margin"
              detail={`${money(cost, shop)} landed; loss in ${Math.round(worth.loss * 100)} of 100`}
            />
          </Box>
          <Typography color="text.secondary">
            Each unit by its own odds, 10,000 draws with a fixed seed; units are taken as independent, so a lot with one common
            fault spreads wider than this.
          </Typography>
        </Box>
      )}
    </Form>
  );
}
