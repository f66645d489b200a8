"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { buildProblem, type DecideInput } from "@/core/decide/build";
import { readAmount } from "@/text/format";
import { totalOf } from "@/core/money/rates";
import { say } from "@/features/decide/words/words";
import type { FaultView, UnitView } from "@/features/units/view";
import { placeWords } from "@/text/names";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { readWhole } from "@/ui/fields/NumberField";
import { BoundField } from "@/ui/form/BoundField";
import { Row, Text } from "@/ui/kit/layout";

const DAYS = 10;

type Line = { key: string; words: string; price: string; days: string; on: boolean };

type AskProps = {
  view: UnitView;
  faults: FaultView[];
  input: DecideInput;
  onSent: () => void;
};

/** What Ask knows and does; the components below only show it. */
function useAsk({ view, faults, input, onSent }: AskProps) {
  const deed = useDeed("question.send");
  const shop = view.settings;
  const [findings, setFindings] = useState(
    faults.map((f) => `${placeWords(f.place)}: ${f.words || f.kind}`).join("\n"),
  );
  const [picked, setPicked] = useState<Record<string, boolean>>(
    // several symptoms of one place are asked about once
    Object.fromEntries(faults.map((f, i) => [f.id, faults.findIndex((x) => x.place === f.place) === i])),
  );
  // what was agreed before binds the work, not what may be asked for now
  const [offered] = useState(() => buildProblem({ ...input, agreed: [] }).options);
  const linesOf = (f: FaultView): Line[] =>
    offered
      .filter((o) => o.places.includes(f.place) && !o.twin)
      .slice(0, 6)
      .map((o, i) => ({
        key: o.route.id,
        words: o.route.name,
        // half again on what it costs on average until it works, to the full unit
        price: String(Math.ceil((-totalOf(o.terms) / Math.max(0.2, o.chance.mean)) * 0.015)),
        days: String(o.leadDays + 3),
        on: i < 2,
      }));
  const [lines, setLines] = useState<Record<string, Line[]>>(() =>
    Object.fromEntries(faults.map((f) => [f.id, linesOf(f)])),
  );
  const change = (id: string, i: number, next: Partial<Line>) =>
    setLines({ ...lines, [id]: lines[id]!.map((l, k) => (k === i ? { ...l, ...next } : l)) });
  const chosen = faults.filter((f) => picked[f.id]);
  const bad = chosen.some((f) => {
    const on = lines[f.id]!.filter((l) => l.on);
    return (
      on.length === 0 ||
      on.some((l) => readAmount(l.price) === null || readWhole(l.days, 0, 999) === null || !l.words.trim())
    );
  });
  const send = () =>
    deed.run({
      unitId: view.unit.id,
      days: DAYS,
      body: {
        v: 1,
        findings,
        faults: chosen.map((f) => ({
          faultId: f.id,
          number: f.number,
          found: `${placeWords(f.place)}: ${f.kind}`,
          options: lines[f.id]!.filter((l) => l.on).map((l) => ({
            key: l.key,
            words: l.words,
            priceMinor: readAmount(l.price)!,
            days: readWhole(l.days, 0, 999)!,
            warrantyDays: shop.warrantyDays,
          })),
        })),
      },
    });
  return {
    faults,
    onSent,
    deed,
    shop,
    findings,
    setFindings,
    picked,
    setPicked,
    lines,
    change,
    chosen,
    bad,
    send,
  };
}

type AskState = ReturnType<typeof useAsk>;

/**
 * Options come from the ladder's routes with a price worked out from their cost; each can be changed before
 * it is sent.
 */
export function Ask(props: AskProps) {
  const s = useAsk(props);
  const { onSent, deed, shop, findings, setFindings, chosen, bad, send } = s;

  return (
    <Form
      onSend={() => {
        if (!bad && chosen.length) void send().then((r) => r?.ok && onSent());
      }}
      sx={{
        display: "grid",
        gap: 1.2,
        my: 1.5,
        p: 1.5,
        bgcolor: "background.paper",
        border: 1,
        borderColor: "divider",
        borderRadius: 1,
      }}
    >
      <BoundField
        deed="question.send"
        name="body.findings"
        label={say("whatWasFound")}
        multiline
        minRows={2}
        value={findings}
        onChange={setFindings}
      />
      <FaultsAsked {...s} />
      <Text color="text.secondary" size="small">
        {say("noIsAlwaysOfferedWorkAt", { dAYS: DAYS, warrantyDays: shop.warrantyDays })}
      </Text>
      <Row gap={1} oneLine>
        <Button type="submit" variant="contained" disabled={bad || chosen.length === 0 || deed.running}>
          {say("makeThePage")}
        </Button>
      </Row>
      <Problem problem={deed.problem} />
    </Form>
  );
}

function FaultsAsked({ faults, picked, setPicked, lines, change, shop }: AskState) {
  return faults.map((f) => (
    <Box key={f.id}>
      <FormControlLabel
        control={
          <Checkbox
            checked={picked[f.id] ?? false}
            onChange={(e) => setPicked({ ...picked, [f.id]: e.target.checked })}
          />
        }
        label={say("faultNumberPlaceKind", {
          number: f.number,
          place: placeWords(f.place),
          kind: f.kind,
        })}
      />
      {picked[f.id] &&
        lines[f.id]!.map((l, i) => (
          <Box
            key={l.key}
            sx={{
              display: "grid",
              gridTemplateColumns: "auto 2fr 1fr 1fr",
              gap: 1,
              alignItems: "center",
              mb: 0.6,
            }}
          >
            <Checkbox
              checked={l.on}
              onChange={(e) => change(f.id, i, { on: e.target.checked })}
              slotProps={{ input: { "aria-label": say("offerWords", { words: l.words }) } }}
            />
            <BoundField
              deed="question.send"
              name="body.faults.*.options.*.words"
              label={say("option")}
              value={l.words}
              onChange={(words) => change(f.id, i, { words })}
              disabled={!l.on}
            />
            <BoundField
              deed="question.send"
              name="body.faults.*.options.*.priceMinor"
              label={say("priceCurrency", { currency: shop.currency })}
              value={l.price}
              onChange={(price) => change(f.id, i, { price })}
              disabled={!l.on}
            />
            <BoundField
              deed="question.send"
              name="body.faults.*.options.*.days"
              label={say("days")}
              value={l.days}
              onChange={(days) => change(f.id, i, { days })}
              disabled={!l.on}
            />
          </Box>
        ))}
      {picked[f.id] && lines[f.id]!.length === 0 && (
        <Typography color="text.secondary">{say("noRouteOfTheCatalogueTreats")}</Typography>
      )}
    </Box>
  ));
}
