"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import type { Role } from "@/contract/deeds";
import { parseAmount } from "@/core/money/money";
import { controlsOf, functionsOf, placeName } from "@/core/profile/profile";
import { usualPartDays } from "@/core/prove/cover";
import { FIRM_BLOCKS, firmOf } from "@/core/record/standing";
import type { ReleaseView } from "@/service/release-view";
import type { UnitView } from "@/service/views";
import { money } from "@/text/format";
import { GRADE_WORDS } from "@/text/measures";
import { refusalText } from "@/text/refusals";
import { CONDITION_WORDS, conditionRule, disclosureText } from "@/text/release";
import { placeWords } from "@/text/names";
import { blockText } from "@/text/words";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { PlanView } from "@/ui/plan/PlanView";
import { BigFigure, PlanFrame, Station } from "@/ui/unit/Station";
import { Closed } from "./Closed";
import { LabelOf } from "./LabelOf";
import { OtherEnding } from "./OtherEnding";

export type ReleaseProps = {
  view: UnitView;
  release: ReleaseView;
  role: Role;
  publicUrl: string | null;
  /** YYYY-MM-DD */
  today: string;
};

/** The end of a unit's way through the shop: released with its certificate, or closed honestly in another way; and what came after. */
export function ReleaseStation(props: ReleaseProps) {
  const { unit, profile } = props.view;
  return (
    <Station
      plan={
        <>
          <PlanFrame>
            <PlanView profile={profile} revision={unit.revision} marks={unit.intake.marks.filter((m) => m.gone === null)} />
          </PlanFrame>
          {unit.ending === null && <Told release={props.release} />}
        </>
      }
    >
      {unit.ending ? <Closed {...props} /> : <Open {...props} />}
      <LabelOf view={props.view} />
    </Station>
  );
}

/** What a buyer will be told, from the record. */
function Told({ release }: { release: ReleaseView }) {
  return (
    <Box component="section" aria-label="What a buyer is told" sx={{ mt: 2 }}>
      <Typography component="h2" variant="h2">
        A buyer is told
      </Typography>
      {release.disclosures.length === 0 ? (
        <Typography color="text.secondary">
          Nothing beside the figures: no foreign part, glue, mark or loss is on record.
        </Typography>
      ) : (
        <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
          {release.disclosures.map((d, i) => (
            <li key={i}>{disclosureText(d)}</li>
          ))}
        </Box>
      )}
    </Box>
  );
}

function Open({ view, release: found, role }: ReleaseProps) {
  const { unit, profile, blocks, settings } = view;
  const release = useDeed("unit.release");
  const names = new Map(
    [...controlsOf(profile, unit.revision), ...functionsOf(profile, unit.revision)].map((x) => [x.id, placeName(x)]),
  );
  const { grade } = found;
  const { price: hint, condition } = found;
  const suggested = unit.source === "customer" ? null : hint.priceMinor;
  const [v, setV] = useState({
    price: suggested === null ? "" : (suggested / 100).toFixed(2),
    warranty: String(settings.warrantyDays),
    seal: "",
    known: "",
    limit: "",
    reason: "",
  });
  /** what was typed for a fitted part; the house's days for the others */
  const [typed, setTyped] = useState<Record<string, string>>({});
  const daysOf = (p: (typeof found.parts)[number]) => typed[p.id] ?? String(usualPartDays(p.used, settings.prove));
  const set = (k: keyof typeof v) => (e: { target: { value: string } }) => setV({ ...v, [k]: e.target.value });
  const firm = blocks.filter((b) => (FIRM_BLOCKS as readonly string[]).includes(b.code));
  const canWork = role !== "viewer";
  const price = v.price.trim() === "" ? null : parseAmount(v.price);
  const badPrice = v.price.trim() !== "" && price === null;
  const isDays = (d: string) => /^\d{1,4}$/.test(d) && Number(d) <= 3650;
  const badDays = !isDays(v.warranty);
  const belowFloor = price !== null && unit.source !== "customer" && price < hint.floorMinor;
  const save = () => {
    if (badPrice || badDays || !found.parts.every((p) => isDays(daysOf(p)))) return;
    void release.run({
      unitId: unit.id,
      version: unit.version,
      priceMinor: price,
      warrantyDays: Number(v.warranty),
      partDays: Object.fromEntries(found.parts.map((p) => [p.id, Number(daysOf(p))])),
      seal: v.seal,
      known: v.known,
      limit: v.limit,
      reason: v.reason,
    });
  };
  return (
    <>
      <Typography component="h2" sx={{ fontSize: "2.2rem", fontWeight: 800, lineHeight: 1.1, mb: 1 }}>
        {blocks.length === 0
          ? "Ready to release"
          : `${blocks.length} ${blocks.length === 1 ? "thing blocks" : "things block"} the release`}
      </Typography>
      {blocks.length > 0 && (
        <Box component="ul" sx={{ mt: 0, pl: 2.5, columns: { sm: blocks.length > 6 ? 2 : 1 } }}>
          {blocks.map((b, i) => (
            <li key={i}>{blockText(b, (id) => names.get(id) ?? placeWords(id), view.settings)}</li>
          ))}
        </Box>
      )}
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "minmax(0,1fr)", sm: "1fr 1fr minmax(0,1.7fr)" }, gap: 3, my: 1.5 }}>
        <BigFigure
          value={grade ? GRADE_WORDS[grade] : "not proven"}
          label="function"
          detail="the worst of its controls and functions"
        />
        <BigFigure
          value={CONDITION_WORDS[condition.condition]}
          label="outside"
          detail={
            condition.reasons.length
              ? condition.reasons.map(conditionRule).join("; ")
              : "one or two marks are light use, none is fine"
          }
        />
        {unit.source !== "customer" && (
          <BigFigure
            value={money(hint.priceMinor, settings)}
            label="suggested price"
            detail={`${
              hint.from === "own-sales"
                ? `middle of ${hint.cases} own sales, ${money(hint.interval![0], settings)} to ${money(hint.interval![1], settings)}`
                : hint.from === "going-price"
                  ? `what grade ${grade} goes for; ${hint.cases} own ${hint.cases === 1 ? "sale" : "sales"} so far, five make a suggestion`
                  : "no sale and no going price of this grade"
            }. Floor ${money(hint.floorMinor, settings)}: it cost ${money(hint.costsMinor, settings)}`}
          />
        )}
      </Box>
      {canWork && firm.length === 0 && (blocks.length === 0 || role === "lead") && (
        <Form
          onSend={save}
          sx={{
            display: "grid",
            gap: 1.5,
            gridTemplateColumns: "repeat(auto-fit, minmax(min(100%, 230px), 1fr))",
            alignItems: "start",
            maxWidth: 760,
            my: 2,
          }}
        >
          {blocks.length > 0 && (
            <>
              <Typography sx={{ gridColumn: "1 / -1" }}>
                As lead you can release it with a stated limit. The limit and the reason are printed on the certificate.
              </Typography>
              <TextField label="Limit, such as: by cable only" required value={v.limit} onChange={set("limit")} />
              <TextField label="Reason" required value={v.reason} onChange={set("reason")} />
            </>
          )}
          <TextField
            label={`Price ${settings.currency} (may stay empty)`}
            value={v.price}
            onChange={set("price")}
            error={badPrice}
            helperText={
              badPrice
                ? "an amount such as 34.50"
                : belowFloor
                  ? `below the floor of ${money(hint.floorMinor, settings)}: it loses money`
                  : undefined
            }
          />
          <TextField
            label="Warranty, days"
            value={v.warranty}
            onChange={set("warranty")}
            error={badDays}
            helperText={badDays ? "whole days, at most 3650" : undefined}
          />
          {found.parts.map((p) => (
            <TextField
              key={p.id}
              label={`Warranty, ${p.place}, days`}
              value={daysOf(p)}
              onChange={(e) => setTyped({ ...typed, [p.id]: e.target.value })}
              error={!isDays(daysOf(p))}
              helperText={isDays(daysOf(p)) ? `${p.name}, ${p.used ? "used" : "new"}` : "whole days, at most 3650"}
            />
          ))}
          <TextField label="Seal (may stay empty)" value={v.seal} onChange={set("seal")} />
          <TextField
            label="Worth knowing (printed)"
            value={v.known}
            onChange={set("known")}
            sx={{ gridColumn: "1 / -1" }}
            multiline
          />
          <Box>
            <Button type="submit" variant="contained" size="large" disabled={release.running}>
              {blocks.length > 0 ? "Release with this limit" : "Release"}
            </Button>
          </Box>
        </Form>
      )}
      {canWork && blocks.length > 0 && firm.length === 0 && role !== "lead" && (
        <Alert severity="info">Settle what blocks it. A lead can release it with a stated limit and a reason.</Alert>
      )}
      {firm.length > 0 && !unit.swollen && (
        <Alert
          severity="info"
          action={
            <Button
              component={Link}
              href={`/units/${unit.tag}/${firm.some((b) => b.code === "no-proof") ? "prove" : "mend"}`}
              color="inherit"
            >
              {firm.some((b) => b.code === "no-proof") ? "Go to Prove" : "Go to Mend"}
            </Button>
          }
        >
          {firm.some((b) => b.code === "no-proof")
            ? "Without a proof nothing is released, with or without a limit."
            : refusalText({ code: "firm-block", block: firmOf(firm)[0]! })}
        </Alert>
      )}
      <Problem problem={release.problem} />
      {canWork && <OtherEnding view={view} />}
    </>
  );
}
