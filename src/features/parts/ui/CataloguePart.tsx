"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { type FitRule, PART_USES, type Part, type Use } from "@/core/parts/catalogue";
import { kitOffered } from "@/core/parts/kit";
import { type Fit, type FitSide, fitOf, partsThatFit } from "@/core/parts/fit";
import { TELL_WORDS, USE_WORDS, fitWhyText, traitText } from "@/features/parts/words/text";
import { say } from "@/features/parts/words/words";
import { money } from "@/text/format";
import { inTurn } from "@/text/lists";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { BoundField } from "@/ui/form/BoundField";
import { Figure, Table } from "@/ui/kit/Table";
import { StateMark } from "@/ui/state/StateMark";
import { codeWords } from "@/words/codes";
import { TellDrawing } from "./TellDrawing";
import type { PartsProps } from "./props";
import { SIZE } from "@/ui/tokens";
import { Column, Row, Words } from "@/ui/kit/layout";

/** What PartPanel knows and does; the components below only show it. */
function usePartPanel({ view, shop, picked, canEdit }: PartsProps & { picked: Part; canEdit: boolean }) {
  const save = useDeed("catalogue.save");
  const { catalogue } = view;
  const [use, setUse] = useState<Use>(picked.use);
  const offers = catalogue.offers.filter((o) => o.part === picked.code);
  return { view, shop, picked, canEdit, save, catalogue, use, setUse, offers };
}

type PartPanelState = ReturnType<typeof usePartPanel>;

export function PartPanel(props: PartsProps & { picked: Part; canEdit: boolean }) {
  const s = usePartPanel(props);
  const { view, picked, canEdit, save } = s;

  return (
    <Column component="aside" aria-label={say("partPicked", { picked: picked.code })} gap={1}>
      <Typography component="h2" variant="h2">
        {picked.code}
      </Typography>
      <div>{picked.name}</div>
      <div>{traitText(picked.traits) || say("noTraitsAreWrittenDown")}</div>
      {picked.lacks.length > 0 && (
        <div>{say("comesWithoutLacksMoveThemOver", { lacks: picked.lacks.join(", ") })}</div>
      )}
      {picked.uses && <div>{say("goodForUses", { uses: picked.uses })}</div>}
      {picked.disposal && <Words quiet>{say("whenItIsBadOrOver", { disposal: picked.disposal })}</Words>}
      {picked.tells.length > 0 && (
        <Row gap={1.5}>
          {picked.tells.map((t) => (
            <Box key={t.kind} sx={{ width: 180, fontSize: SIZE.small }}>
              <TellDrawing kind={t.kind} />
              <b>{TELL_WORDS[t.kind]}</b>
              {say("genuineGenuineACopyCopy", { genuine: t.genuine, copy: t.copy })}
            </Box>
          ))}
        </Row>
      )}
      <ChangePart {...s} />
      <Problem problem={save.problem} />
      <Offers {...s} />
      <AgainstSingles {...s} />
      {picked.class === "part" && <FitCheck view={view} picked={picked} canEdit={canEdit} />}
    </Column>
  );
}

function ChangePart({ canEdit, use, setUse, picked, save, view, catalogue }: PartPanelState) {
  return (
    canEdit && (
      <Row gap={1} oneLine>
        <TextField
          select
          label={say("mayBeUsed")}
          value={use}
          onChange={(e) => setUse(e.target.value as Use)}
          sx={{ width: 250 }}
        >
          {PART_USES.map((u) => (
            <MenuItem key={u} value={u}>
              {USE_WORDS[u]}
            </MenuItem>
          ))}
        </TextField>
        <Button
          variant="outlined"
          disabled={use === picked.use || save.running}
          onClick={() =>
            save.run({
              version: view.version,
              catalogue: {
                ...catalogue,
                parts: catalogue.parts.map((p) => (p.code === picked.code ? { ...p, use } : p)),
              },
            })
          }
        >
          {say("save")}
        </Button>
      </Row>
    )
  );
}

function Offers({ offers, catalogue, shop }: PartPanelState) {
  return (
    offers.length > 0 && (
      <Table
        label={say("offers")}
        heads={[say("from"), say("pack"), say("price"), say("days")]}
        minWidth={320}
      >
        {offers.map((o) => (
          <tr key={`${o.supplier} ${o.pack}`}>
            <td>{catalogue.suppliers.find((s) => s.id === o.supplier)?.name}</td>
            <td>{o.pack}</td>
            <td>
              {o.breaks.map((b) => (
                <div key={b.packs}>
                  <Figure>{money(b.priceMinor, shop)}</Figure>
                  {b.packs > 1 && say("fromPacks", { packs: b.packs })}
                </div>
              ))}
            </td>
            <td>{o.leadDays}</td>
          </tr>
        ))}
      </Table>
    )
  );
}

const kitWords = (each: number, saves: number, shop: PartsProps["shop"]): string =>
  saves > 0
    ? say("buyTheKit", { saves: money(saves, shop), needed: money(each, shop) })
    : say("buySingly", { more: money(-saves, shop), needed: money(each, shop) });

/** A kit against its pieces bought by themselves, without the tools that lie on the shelf already. */
function AgainstSingles({ catalogue, picked, view, shop }: PartPanelState) {
  const owned = new Set(view.stock.flatMap((b) => (b.cls === "tool" && b.onHand > 0 ? [b.part] : [])));
  const kit = kitOffered(catalogue, picked.code, owned);
  if (!kit) return null;
  return (
    <section aria-label={say("kitOrSingly")}>
      <Table label={say("kitOrSingly")} heads={[say("piece"), say("pieces"), say("singly")]} minWidth={320}>
        {kit.lines.map((l) => (
          <tr key={l.part}>
            <td>{l.name}</td>
            <td>{l.count}</td>
            <td>
              {l.owned ? say("ownedAlready") : null}
              {!l.owned && (l.worth === null ? say("notSoldSingly") : money(l.worth * l.count, shop))}
            </td>
          </tr>
        ))}
      </Table>
      <Words strong>
        {kit.each === null || kit.saves === null
          ? say("onlyTheKitBrings", { names: kit.onlyHere.join(", ") })
          : kitWords(kit.each, kit.saves, shop)}
      </Words>
    </section>
  );
}

const SIDE_STATE = { fits: "pass", no: "fail", "not-known": "untested" } as const;

const SIDE_WORD = { fits: say("fits"), no: say("doesNotFit"), "not-known": say("notKnown") } as const;

function SideLine({ name, side }: { name: string; side: FitSide }) {
  return (
    <Row gap={1} oneLine at="baseline">
      <StateMark state={SIDE_STATE[side.verdict]} />
      <span>
        {name}: {SIDE_WORD[side.verdict]}
        {side.why.length > 0 && `, ${side.why.map(fitWhyText).join("; ")}`}
      </span>
    </Row>
  );
}

/**
 * Does this part go into that slot: the mechanical and the electrical answer apart, for one revision or for
 * one that is not known.
 */
function FitCheck({ view, picked, canEdit }: { view: PartsProps["view"]; picked: Part; canEdit: boolean }) {
  const like = view.models.filter((m) => m.slots.some((s) => s.kind === picked.kind));
  const [modelId, setModelId] = useState(like[0]?.id ?? "");
  const [revision, setRevision] = useState("");
  const model = like.find((m) => m.id === modelId);
  if (!model) return null;
  const rows: { slot: string; name: string; sits: string; fit: Fit }[] = model.slots
    .filter((s) => s.kind === picked.kind)
    .map((slot) => {
      const place = { model: model.id, revision: revision || null, slot };
      const fit =
        partsThatFit(view.catalogue, place).find((f) => f.part === picked.code) ??
        fitOf(view.catalogue, place, picked);
      return { slot: slot.id, name: slot.name, sits: slot.fit?.sits ?? "", fit };
    });
  return (
    <Box component="section" aria-label={say("whereItFits")}>
      <Row gap={1} after={1}>
        <TextField
          select
          label={say("intoWhichModel")}
          value={modelId}
          onChange={(e) => {
            setModelId(e.target.value);
            setRevision("");
          }}
          sx={{ width: 210 }}
        >
          {like.map((m) => (
            <MenuItem key={m.id} value={m.id}>
              {m.name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label={say("revision")}
          value={revision}
          onChange={(e) => setRevision(e.target.value)}
          sx={{ width: 210 }}
        >
          <MenuItem value="">{say("notKnownYet")}</MenuItem>
          {model.revisions.map((r) => (
            <MenuItem key={r.id} value={r.id}>
              {r.name}
            </MenuItem>
          ))}
        </TextField>
      </Row>
      {rows.map((r) => (
        <Box key={r.slot} sx={{ borderTop: 1, borderColor: "divider", py: 0.8 }}>
          <b>{r.name}</b>{" "}
          <Words component="span" size="small" quiet>
            {r.sits}
          </Words>
          <SideLine name={say("mechanical")} side={r.fit.mechanical} />
          <SideLine name={say("electrical")} side={r.fit.electrical} />
          {r.fit.instead.length > 0 && (
            <div>
              {say("insteadOfInstead", { instead: inTurn(r.fit.instead.map((i) => `${i.of} (${i.why})`)) })}
            </div>
          )}
          {r.fit.deviation && <div>{say("toBeToldDeviation", { deviation: r.fit.deviation })}</div>}
          {canEdit && (
            <FoundOut
              key={`${model.id} ${revision} ${r.slot}`}
              view={view}
              part={picked.code}
              model={model.id}
              revision={revision || null}
              slot={r.slot}
            />
          )}
        </Box>
      ))}
    </Box>
  );
}

type FoundOutProps = {
  view: PartsProps["view"];
  part: string;
  model: string;
  revision: string | null;
  slot: string;
};

/** What FoundOut knows and does; the components below only show it. */
function useFoundOut({ view, part, model, revision, slot }: FoundOutProps) {
  const save = useDeed("catalogue.save");
  const [open, setOpen] = useState(false);
  const [side, setSide] = useState<"mechanical" | "electrical">("mechanical");
  const [fits, setFits] = useState("yes");
  const [why, setWhy] = useState("");
  const [deviation, setDeviation] = useState("");
  const write = async () => {
    const same = (r: FitRule) =>
      r.part === part && r.model === model && r.slot === slot && r.revision === revision;
    const had = view.catalogue.rules.find(same);
    const rule: FitRule = {
      part,
      model,
      revision,
      slot,
      mechanical: had?.mechanical ?? null,
      electrical: had?.electrical ?? null,
      deviation: deviation.trim() || (had?.deviation ?? ""),
      [side]: { fits: fits === "yes", why: why.trim() },
    };
    const done = await save.run({
      version: view.version,
      catalogue: { ...view.catalogue, rules: [...view.catalogue.rules.filter((r) => !same(r)), rule] },
    });
    if (done?.ok) setOpen(false);
  };
  return {
    slot,
    save,
    open,
    setOpen,
    side,
    setSide,
    fits,
    setFits,
    why,
    setWhy,
    deviation,
    setDeviation,
    write,
  };
}

type FoundOutState = ReturnType<typeof useFoundOut>;

/** What a try at the bench showed: it stands before what traits say. */
function FoundOut(props: FoundOutProps) {
  const s = useFoundOut(props);
  const { slot, open, setOpen } = s;

  if (!open)
    return (
      <Button
        size="small"
        onClick={() => setOpen(true)}
        aria-label={say("foundOutByTryingSlot", { slot: codeWords(slot) })}
      >
        {say("foundOutByTrying")}
      </Button>
    );
  return <FoundOutForm {...s} />;
}

function FoundOutForm({
  write,
  side,
  setSide,
  fits,
  setFits,
  why,
  setWhy,
  deviation,
  setDeviation,
  save,
}: FoundOutState) {
  return (
    <Form
      aria-label={say("foundOutByTrying")}
      onSend={write}
      sx={{ display: "flex", gap: 1, flexWrap: "wrap", my: 1, alignItems: "start" }}
    >
      <TextField
        select
        label={say("side2")}
        value={side}
        onChange={(e) => setSide(e.target.value as typeof side)}
        sx={{ width: 140 }}
      >
        <MenuItem value="mechanical">{say("mechanical")}</MenuItem>
        <MenuItem value="electrical">{say("electrical")}</MenuItem>
      </TextField>
      <TextField
        select
        label={say("itFits")}
        value={fits}
        onChange={(e) => setFits(e.target.value)}
        sx={{ width: 90 }}
      >
        <MenuItem value="yes">{say("yes")}</MenuItem>
        <MenuItem value="no">{say("no")}</MenuItem>
      </TextField>
      <BoundField
        deed="catalogue.save"
        name="catalogue.rules.*.mechanical.why"
        label={say("howOneKnows")}
        value={why}
        onChange={setWhy}
        sx={{ flex: 1, minWidth: 170 }}
      />
      <BoundField
        deed="catalogue.save"
        name="catalogue.rules.*.deviation"
        label={say("whatIsToBeTold")}
        value={deviation}
        onChange={setDeviation}
        sx={{ flex: 1, minWidth: 170 }}
      />
      <Button type="submit" variant="outlined" disabled={why.trim() === "" || save.running}>
        {say("writeItDown")}
      </Button>
      <Problem problem={save.problem} />
    </Form>
  );
}
