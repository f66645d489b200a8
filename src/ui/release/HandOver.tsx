"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { parseAmount } from "@/core/money/money";
import type { ReleaseView } from "@/service/release-view";
import type { UnitView } from "@/service/views";
import { day, money } from "@/text/format";
import { HANDOVER_WORDS } from "@/text/release";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { DateField } from "@/ui/fields/DateField";
import { Form } from "@/ui/fields/Form";
import { say } from "@/words/release";

const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

type Props = { view: UnitView; release: ReleaseView; today: string; canWork: boolean };

/** Sold, or returned to its owner; cover runs from that day. */
export function HandOver({ view, release, today, canWork }: Props) {
  const { after } = release;
  const [again, setAgain] = useState(false);
  const { settings } = view;
  if (view.unit.ending === "donor" || view.unit.ending === "scrap") return null;
  return (
    <Box component="section" aria-label={say("handingOver")} sx={{ my: 2 }}>
      <Typography component="h3" variant="h2">
        {after ? `${capital(HANDOVER_WORDS[after.kind])}, ${day(after.handedOn, settings)}` : say("notHandedOverYet")}
      </Typography>
      {after && (
        <>
          <Typography>
            {[
              after.channel,
              after.priceMinor === null ? "" : money(after.priceMinor, settings),
              after.feesMinor ? say("feesFeesMinor", { feesMinor: money(after.feesMinor, settings) }) : "",
              after.buyer ? say("toBuyer", { buyer: after.buyer }) : "",
              say("byBy", { by: after.by }),
            ]
              .filter(Boolean)
              .join(", ")}
          </Typography>
          {after.covers.length === 0 ? (
            <Typography color="text.secondary">{say("noWarrantyWasGiven")}</Typography>
          ) : (
            <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
              {after.covers.map((c) => (
                <li key={`${c.what} ${c.fittedId}`}>
                  {say("nameCoveredUntil", { name: c.what === "unit" ? say("theUnit") : c.name })} <b>{day(c.until, settings)}</b>
                  {c.until < today ? say("over") : ""}
                </li>
              ))}
            </Box>
          )}
        </>
      )}
      {canWork &&
        (after && !again ? (
          <Button onClick={() => setAgain(true)} sx={{ mt: 0.5 }}>
            {say("correctThis")}
          </Button>
        ) : (
          <HandOverForm
            key={after?.handedOn}
            view={view}
            release={release}
            today={today}
            canWork
            onDone={() => setAgain(false)}
          />
        ))}
    </Box>
  );
}

function HandOverForm({ view, release, today, onDone }: Props & { onDone: () => void }) {
  const { unit, settings } = view;
  const { after } = release;
  const deed = useDeed("unit.hand-over");
  const customers = unit.source === "customer";
  const amount = (minor: number | null | undefined) => (minor === null || minor === undefined ? "" : (minor / 100).toFixed(2));
  const asked = view.endings[0]?.priceMinor ?? null;
  const [v, setV] = useState({
    channel: after?.channel ?? "",
    price: amount(after ? after.priceMinor : asked),
    fees: amount(after?.feesMinor),
    on: after?.handedOn ?? today,
    buyer: after?.buyer ?? (customers ? (view.origin.customer ?? "") : ""),
    contact: after?.contact ?? "",
  });
  const set = (k: keyof typeof v) => (e: { target: { value: string } }) => setV({ ...v, [k]: e.target.value });
  const read = (text: string) => (text.trim() === "" ? null : parseAmount(text));
  const bad = (text: string) => text.trim() !== "" && read(text) === null;
  const field = (k: "price" | "fees", label: string) => (
    <TextField
      label={`${label}, ${settings.currency}`}
      value={v[k]}
      onChange={set(k)}
      error={bad(v[k])}
      helperText={bad(v[k]) ? say("anAmountSuchAs1250") : undefined}
    />
  );
  const save = async () => {
    if (bad(v.price) || bad(v.fees)) return;
    const done = await deed.run({
      unitId: unit.id,
      kind: customers ? "returned" : "sold",
      channel: v.channel,
      priceMinor: read(v.price),
      feesMinor: read(v.fees) ?? 0,
      handedOn: v.on,
      buyer: v.buyer,
      contact: v.contact,
    });
    if (done?.ok) onDone();
  };
  return (
    <Form
      aria-label={say("handOver")}
      onSend={save}
      sx={{ display: "grid", gap: 1.2, gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr 1fr" }, maxWidth: 760, mt: 1 }}
    >
      <TextField label={customers ? say("howItGoesBack") : say("whereItWasSold")} value={v.channel} onChange={set("channel")} />
      {field("price", customers ? say("askedForTheWork") : say("soldFor"))}
      {!customers && field("fees", say("feesPaid"))}
      <DateField shop={view.settings} label={say("on")} required value={v.on} onChange={(on) => setV({ ...v, on })} max={today} />
      <TextField label={say("toWhomForALetterLater")} value={v.buyer} onChange={set("buyer")} />
      <TextField label={say("howToReachThem")} value={v.contact} onChange={set("contact")} />
      <Box sx={{ gridColumn: "1 / -1" }}>
        <Button type="submit" variant="contained" disabled={deed.running}>
          {customers ? say("returnedToItsOwner2") : say("sold2")}
        </Button>
        <Problem problem={deed.problem} />
      </Box>
    </Form>
  );
}
