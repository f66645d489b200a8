"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { buildProblem, type DecideInput, type Option } from "@/core/decide/build";
import { minorInUnit, money, readAmount, typedAmount } from "@/text/format";
import type { LikePart } from "@/contract/question";
import { refreshBeside } from "@/core/decide/refresh";
import { addUp } from "@/core/money/money";
import { spread } from "@/core/money/spread";
import { labourOf, totalOf } from "@/core/money/rates";
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
const MOST_PICTURES = 6;

type Line = {
  key: string;
  words: string;
  price: string;
  days: string;
  on: boolean;
  /** the like part with it: where, in words, and what that saves */
  like: { place: string; words: string; price: string; savesMinor: number; on: boolean } | null;
};

/** Half again on what it costs on average until it works, to the full unit of money. */
const priced = (costMinor: number): string => String(Math.ceil((costMinor * 1.5) / minorInUnit()));

/** What the like part on the other side comes to while this one is open, and what opening it again would cost. */
function likeOf(offered: readonly Option[], route: string, place: string, input: DecideInput): Line["like"] {
  const slot = (input.profile.slots ?? []).find((s) => s.serves[0] === place && s.twin);
  const twin = (input.profile.slots ?? []).find((s) => s.id === slot?.twin);
  const option = offered.find((o) => o.twin && o.route.id === route && o.places[0] === twin?.serves[0]);
  if (!twin || !option) return null;
  const again = labourOf(twin.stripMinutes, input.rates);
  return {
    place: option.places[0]!,
    words: say("likeOf", { route: option.route.name, place: placeWords(option.places[0]!) }),
    price: priced(-totalOf(option.terms)),
    savesMinor: Math.round(again * 1.5),
    on: false,
  };
}

/** A full refresh: its parts as they are worked out, and one price for all that can be changed. */
type Refresh = { parts: LikePart[]; price: string; on: boolean };

/** What a full refresh beside the deepest mend comes to; null where no mend lays everything open that wears. */
function refreshOf(
  input: DecideInput,
  offered: readonly Option[],
  faults: readonly FaultView[],
): Refresh | null {
  for (const f of faults) {
    const make = offered.find((o) => o.places.includes(f.place) && o.route.part)?.route.part?.make ?? null;
    const found = refreshBeside(input, f.place, make);
    if (found.length === 0) continue;
    const parts = found.map((r): LikePart => ({
      place: r.place,
      words: r.slot.name,
      priceMinor: readAmount(priced(r.costMinor)) ?? 0,
      savesMinor: Math.round(r.savesMinor * 1.5),
      route: r.route.id,
      slot: r.slot.id,
    }));
    return { parts, price: typedAmount(addUp(parts.map((x) => x.priceMinor))), on: false };
  }
  return null;
}

/** The parts with one price spread over them as their own prices were; the last takes what rounding leaves. */
function spreadOver(parts: readonly LikePart[], minor: number): LikePart[] {
  const shares = spread(
    minor,
    parts.map((p) => p.priceMinor),
  );
  return parts.map((p, i) => ({ ...p, priceMinor: shares[i]! }));
}

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
  // like parts are weighed for units of the shop's own; here they are only offered
  const [likes] = useState(() => buildProblem({ ...input, agreed: [], customer: null }).options);
  const linesOf = (f: FaultView): Line[] =>
    offered
      .filter((o) => o.places.includes(f.place) && !o.twin)
      .slice(0, 6)
      .map((o, i) => ({
        key: o.route.id,
        words: o.route.name,
        price: priced(-totalOf(o.terms) / Math.max(0.2, o.chance.mean)),
        days: String(o.leadDays + 3),
        on: i < 2,
        like: likeOf(likes, o.route.id, f.place, input),
      }));
  const [lines, setLines] = useState<Record<string, Line[]>>(() =>
    Object.fromEntries(faults.map((f) => [f.id, linesOf(f)])),
  );
  const [refresh, setRefresh] = useState(() => refreshOf(input, offered, faults));
  const [pictures, setPictures] = useState<string[]>([]);
  const change = (id: string, i: number, next: Partial<Line>) =>
    setLines({ ...lines, [id]: lines[id]!.map((l, k) => (k === i ? { ...l, ...next } : l)) });
  const chosen = faults.filter((f) => picked[f.id]);
  const badRefresh = refresh?.on === true && readAmount(refresh.price) === null;
  const bad =
    badRefresh ||
    chosen.some((f) => {
      const on = lines[f.id]!.filter((l) => l.on);
      return (
        on.length === 0 ||
        on.some(
          (l) =>
            readAmount(l.price) === null ||
            readWhole(l.days, 0, 999) === null ||
            !l.words.trim() ||
            (l.like?.on && readAmount(l.like.price) === null),
        )
      );
    });
  const send = () =>
    deed.run({
      unitId: view.unit.id,
      days: DAYS,
      body: {
        v: 1,
        findings,
        photos: pictures,
        refresh: refresh?.on ? spreadOver(refresh.parts, readAmount(refresh.price)!) : [],
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
            like: l.like?.on
              ? {
                  place: l.like.place,
                  words: l.like.words,
                  priceMinor: readAmount(l.like.price)!,
                  savesMinor: l.like.savesMinor,
                }
              : null,
          })),
        })),
      },
    });
  return {
    view,
    pictures,
    setPictures,
    refresh,
    setRefresh,
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
      <RefreshOffered {...s} />
      <PicturesShown {...s} />
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

/** Which photographs the customer sees beside what was found. */
function PicturesShown({ view, pictures, setPictures }: AskState) {
  const kept = view.photos;
  if (kept.length === 0) return null;
  const turn = (id: string) =>
    setPictures(pictures.includes(id) ? pictures.filter((p) => p !== id) : [...pictures, id]);
  return (
    <Row gap={1} role="group" aria-label={say("picturesForThem")}>
      {kept.map((p) => (
        <FormControlLabel
          key={p.id}
          control={
            <Checkbox
              checked={pictures.includes(p.id)}
              disabled={pictures.length >= MOST_PICTURES && !pictures.includes(p.id)}
              onChange={() => turn(p.id)}
            />
          }
          label={
            <Row gap={0.5} at="center">
              <Box
                component="img"
                src={`/api/photos/${p.id}?small`}
                alt={p.caption || say("aPictureOfIt")}
                sx={{ height: 44, borderRadius: 1, display: "block" }}
              />
              {p.caption}
            </Row>
          }
        />
      ))}
    </Row>
  );
}

/** The like part on the other side, offered with an option while the unit is open for it. */
function LikeOffered({
  like,
  shop,
  onChange,
}: {
  like: NonNullable<Line["like"]>;
  shop: AskState["shop"];
  onChange: (next: Line["like"]) => void;
}) {
  return (
    <Box sx={{ gridColumn: "2 / -1", display: "flex", gap: 1, flexWrap: "wrap", alignItems: "center" }}>
      <FormControlLabel
        control={<Checkbox checked={like.on} onChange={(e) => onChange({ ...like, on: e.target.checked })} />}
        label={say("andTheLike", { place: placeWords(like.place) })}
      />
      {like.on && (
        <>
          <BoundField
            deed="question.send"
            name="body.faults.*.options.*.like.priceMinor"
            label={say("priceCurrency", { currency: shop.currency })}
            value={like.price}
            onChange={(price) => onChange({ ...like, price })}
            sx={{ width: 130 }}
          />
          <Text color="text.secondary" size="small">
            {say("likeSaves", { saves: money(like.savesMinor, shop) })}
          </Text>
        </>
      )}
    </Box>
  );
}

/** Everything that wears as one choice with one price, where the work lays it all open. */
function RefreshOffered({ refresh, setRefresh, shop }: AskState) {
  if (refresh === null) return null;
  return (
    <Row gap={1} at="center">
      <FormControlLabel
        control={
          <Checkbox checked={refresh.on} onChange={(e) => setRefresh({ ...refresh, on: e.target.checked })} />
        }
        label={say("andAFullRefresh", { parts: refresh.parts.map((p) => p.words).join(", ") })}
      />
      {refresh.on && (
        <BoundField
          deed="question.send"
          name="body.refresh.*.priceMinor"
          label={say("priceCurrency", { currency: shop.currency })}
          value={refresh.price}
          onChange={(price) => setRefresh({ ...refresh, price })}
          sx={{ width: 130 }}
        />
      )}
    </Row>
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
            {l.on && l.like && (
              <LikeOffered like={l.like} shop={shop} onChange={(like) => change(f.id, i, { like })} />
            )}
          </Box>
        ))}
      {picked[f.id] && lines[f.id]!.length === 0 && (
        <Typography color="text.secondary">{say("noRouteOfTheCatalogueTreats")}</Typography>
      )}
    </Box>
  ));
}
