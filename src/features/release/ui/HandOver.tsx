"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { ReleaseView } from "@/features/release/view";
import type { UnitView } from "@/features/units/view";
import { day, money, typedAmount } from "@/text/format";
import { HANDOVER_WORDS } from "@/features/release/words/text";
import { Problem } from "@/ui/deed/Problem";
import { Form } from "@/ui/fields/Form";
import { TypedDay } from "@/ui/form/TypedDay";
import { TypedField } from "@/ui/form/TypedField";
import { useDeedForm } from "@/ui/form/useDeedForm";
import { say } from "@/features/release/words/words";
import { Block } from "@/ui/kit/layout";

const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

type Props = { view: UnitView; release: ReleaseView; today: string; canWork: boolean };

/** Sold, or returned to its owner; cover runs from that day. */
export function HandOver({ view, release, today, canWork }: Props) {
  const { after } = release;
  const [again, setAgain] = useState(false);
  const { settings } = view;
  if (view.unit.ending === "donor" || view.unit.ending === "scrap") return null;
  return (
    <Block component="section" aria-label={say("handingOver")} around={2}>
      <Typography component="h3" variant="h2">
        {after
          ? `${capital(HANDOVER_WORDS[after.kind])}, ${day(after.handedOn, settings)}`
          : say("notHandedOverYet")}
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
                  {say("nameCoveredUntil", { name: c.what === "unit" ? say("theUnit") : c.name })}{" "}
                  <b>{day(c.until, settings)}</b>
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
    </Block>
  );
}

function HandOverForm({ view, release, today, onDone }: Props & { onDone: () => void }) {
  const { unit, settings } = view;
  const { after } = release;
  const customers = unit.source === "customer";
  const asked = view.endings[0]?.priceMinor ?? null;
  const form = useDeedForm("unit.hand-over", {
    start: {
      channel: after?.channel ?? "",
      priceMinor: typedAmount(after ? after.priceMinor : asked),
      feesMinor: typedAmount(after?.feesMinor),
      handedOn: after?.handedOn ?? today,
      buyer: after?.buyer ?? (customers ? (view.origin.customer ?? "") : ""),
      contact: after?.contact ?? "",
    },
    emptyIs: { feesMinor: 0 },
    rest: () => ({ unitId: unit.id, kind: customers ? ("returned" as const) : ("sold" as const) }),
    onDone,
  });
  return (
    <Form
      aria-label={say("handOver")}
      noValidate
      onSend={form.send}
      sx={{
        display: "grid",
        gap: 1.2,
        gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr 1fr" },
        maxWidth: 760,
        mt: 1,
      }}
    >
      <TypedField
        form={form}
        name="channel"
        label={customers ? say("howItGoesBack") : say("whereItWasSold")}
      />
      <TypedField
        form={form}
        name="priceMinor"
        label={`${customers ? say("askedForTheWork") : say("soldFor")}, ${settings.currency}`}
      />
      {!customers && (
        <TypedField form={form} name="feesMinor" label={`${say("feesPaid")}, ${settings.currency}`} />
      )}
      <TypedDay form={form} name="handedOn" shop={view.settings} label={say("on")} max={today} />
      <TypedField form={form} name="buyer" label={say("toWhomForALetterLater")} />
      <TypedField form={form} name="contact" label={say("howToReachThem")} />
      <Block full>
        <Button type="submit" variant="contained" disabled={form.running}>
          {customers ? say("returnedToItsOwner2") : say("sold2")}
        </Button>
        <Problem problem={form.problem} />
      </Block>
    </Form>
  );
}
