"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import type { UnitParts as Parts } from "@/features/parts/needs";
import type { UnitView } from "@/features/units/view";
import { day, money } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { say } from "@/features/mend/words/words";
import { BoundField } from "@/ui/form/BoundField";
import type { Id } from "@/core/base/ids";
import { inTurn } from "@/text/lists";
import { Block, Notice } from "@/ui/kit/layout";

/** A long shelf is shown by its oldest batches first. */
const SHOWN_FIRST = 6;

/** What was fitted from where, what is put aside for this unit, and what on the shelf would go in. */
export function UnitParts({ parts, view, canWork }: { parts: Parts; view: UnitView; canWork: boolean }) {
  const places = new Set(view.faults.filter((f) => f.status === "open").map((f) => f.place));
  const here = parts.shelf.filter((s) =>
    view.profile.slots?.find((x) => x.id === s.slot)?.serves.some((p) => places.has(p)),
  );
  const [all, setAll] = useState(false);
  const recalled = parts.fitted.filter((f) => f.recalled);
  return (
    <Block component="section" aria-label={say("partsOfThisUnit")} before={3}>
      <Typography component="h2" variant="h2">
        {say("parts")}
      </Typography>
      {recalled.map((f) => (
        <Notice key={f.id} severity="error" role="status" after={1}>
          {say("slotNameItsPartIsOfBatch", { slotName: f.slotName })}{" "}
          <Link href={`/parts/${f.batch}`}>{f.batch}</Link>
          {say("whichWasRejectedChangeItBefore")}
        </Notice>
      ))}
      {parts.reserved.map((r) => (
        <Reserved key={r.id} reserved={r} canWork={canWork} />
      ))}
      {(all ? here : here.slice(0, SHOWN_FIRST)).map((s) => (
        <OnShelf key={`${s.batchId} ${s.slot}`} line={s} unitId={view.unit.id} canWork={canWork} />
      ))}
      {!all && here.length > SHOWN_FIRST && (
        <Button size="small" onClick={() => setAll(true)}>
          {say("hereMoreOnTheShelf", { here: here.length - SHOWN_FIRST })}
        </Button>
      )}
      {here.length === 0 && parts.reserved.length === 0 && places.size > 0 && (
        <Typography color="text.secondary">
          {say("nothingOnTheShelfFitsWhat")} <Link href="/parts?tab=donors">{say("lookAtTheDonors")}</Link>{" "}
          {say("or")} <Link href="/parts?tab=buy">{say("atWhatToBuy")}</Link>.
        </Typography>
      )}
      {parts.fitted.map((f) => (
        <Fitted key={f.id} fitted={f} view={view} canWork={canWork} />
      ))}
      {canWork && <Swap parts={parts} view={view} />}
    </Block>
  );
}

const line = {
  display: "flex",
  gap: 1.5,
  alignItems: "center",
  flexWrap: "wrap",
  py: 0.7,
  borderTop: 1,
  borderColor: "divider",
} as const;

function Reserved({ reserved, canWork }: { reserved: Parts["reserved"][number]; canWork: boolean }) {
  const free = useDeed("stock.unreserve");
  return (
    <Box sx={line}>
      <span>
        {say("putAsideForItsSlotPart", { slot: reserved.slot, part: reserved.part })}{" "}
        {reserved.batch ? (
          <Link href={`/parts/${reserved.batch}`}>{reserved.batch}</Link>
        ) : (
          <>
            {say("stillInDonor")} <Link href={`/parts/donors/${reserved.donor}`}>{reserved.donor}</Link>
          </>
        )}
      </span>
      {canWork && (
        <Button size="small" disabled={free.running} onClick={() => free.run({ reservationId: reserved.id })}>
          {say("letItGo")}
        </Button>
      )}
      <Problem problem={free.problem} />
    </Box>
  );
}

function OnShelf({
  line: s,
  unitId,
  canWork,
}: {
  line: Parts["shelf"][number];
  unitId: Id<"unit">;
  canWork: boolean;
}) {
  const hold = useDeed("stock.reserve");
  return (
    <Box sx={line}>
      <span>
        {say("forItsSlotNameName", { slotName: s.slotName, name: s.name })}{" "}
        <Link href={`/parts/${s.batch}`}>{s.batch}</Link>{" "}
        {say("inBinBinFreeFree", { bin: s.bin, free: s.free })}
        {s.lacks.length > 0 && say("moveOverFromTheOldOne", { lacks: s.lacks.join(", ") })}
        {s.fit.instead.length > 0 &&
          say("insteadOfInsteadWhy", {
            instead: inTurn(s.fit.instead.map((i) => i.of)),
            why: s.fit.instead[0]!.why,
          })}
        {s.fit.deviation && say("toBeToldDeviation", { deviation: s.fit.deviation })}
      </span>
      {canWork && s.mine === 0 && (
        <Button
          size="small"
          disabled={hold.running}
          onClick={() => hold.run({ unitId, slot: s.slot, batchId: s.batchId, count: s.count })}
          aria-label={say("putBatchAsideForItsSlotName", { batch: s.batch, slotName: s.slotName })}
        >
          {say("putAside")}
        </Button>
      )}
      <Problem problem={hold.problem} />
    </Box>
  );
}

type FittedProps = {
  fitted: Parts["fitted"][number];
  view: UnitView;
  canWork: boolean;
};

/** What Fitted knows and does; the components below only show it. */
function useFitted({ fitted: f, view, canWork }: FittedProps) {
  const feel = useDeed("fitted.feel");
  const remove = useDeed("fitted.remove");
  const [taking, setTaking] = useState(false);
  const [why, setWhy] = useState("");
  return { f, view, canWork, feel, remove, taking, setTaking, why, setWhy };
}
type FittedState = ReturnType<typeof useFitted>;

function Fitted(props: FittedProps) {
  const s = useFitted(props);
  const { f, view, canWork, feel, remove, taking, setTaking } = s;

  return (
    <Box sx={line}>
      <span>
        {say("removedNameAtItsSlotName", {
          removed: f.removed === null ? say("inIt") : say("wasInIt"),
          name: f.name,
          slotName: f.slotName,
        })}
        {f.batch && (
          <>
            , <Link href={`/parts/${f.batch}`}>{f.batch}</Link>
          </>
        )}
        {f.from && `, ${f.from}`}, {f.condition}, {money(f.costMinor, view.settings)},{" "}
        {day(f.at, view.settings)}
        {f.deviation && say("toBeToldDeviation", { deviation: f.deviation })}
        {f.removed !== null && say("takenOutRemoved", { removed: f.removed })}
      </span>
      <Feels {...s} />
      {canWork && f.removed === null && view.unit.ending === null && !taking && (
        <Button size="small" onClick={() => setTaking(true)}>
          {say("takeItOut")}
        </Button>
      )}
      <TakingOut {...s} />
      <Problem problem={feel.problem ?? remove.problem} />
    </Box>
  );
}

function Feels({ canWork, f, feel }: FittedState) {
  return (
    canWork &&
    f.removed === null && (
      <TextField
        select
        label={say("feels")}
        value={f.feel ?? ""}
        onChange={(e) => void feel.run({ fittedId: f.id, feel: Number(e.target.value), words: "" })}
        sx={{ width: 150 }}
        size="small"
      >
        {[say("feelsLoose"), "2", say("feelsUsable"), "4", say("feelsOriginal")].map((t, i) => (
          <MenuItem key={t} value={i + 1}>
            {t}
          </MenuItem>
        ))}
      </TextField>
    )
  );
}

function TakingOut({ taking, why, setWhy, remove, f }: FittedState) {
  return (
    taking && (
      <>
        <BoundField
          deed="fitted.remove"
          name="why"
          label={say("why")}
          value={why}
          onChange={setWhy}
          autoFocus
          size="small"
        />
        <Button
          size="small"
          disabled={why.trim() === "" || remove.running}
          onClick={() => remove.run({ fittedId: f.id, to: "stock", bin: null, why })}
        >
          {say("backOnTheShelf")}
        </Button>
        <Button
          size="small"
          disabled={why.trim() === "" || remove.running}
          onClick={() => remove.run({ fittedId: f.id, to: "scrap", bin: null, why })}
        >
          {say("thrownAway")}
        </Button>
      </>
    )
  );
}

type SwapProps = { parts: Parts; view: UnitView };

/** What Swap knows and does; the components below only show it. */
function useSwap({ parts, view }: SwapProps) {
  const swap = useDeed("part.swap");
  const [open, setOpen] = useState(false);
  const [slot, setSlot] = useState(parts.slots[0]?.id ?? "");
  const [tag, setTag] = useState("");
  const [otherSlot, setOtherSlot] = useState("");
  const [part, setPart] = useState("");
  const [why, setWhy] = useState("");
  const [missing, setMissing] = useState("");
  const send = async () => {
    const found = (await (
      await fetch(`/api/search?q=${encodeURIComponent(tag)}`)
    )
      .json()
      .catch(() => null)) as {
      value?: { id: string; tag: string }[];
    } | null;
    const other = found?.value?.find((u) => u.tag === tag.trim().toUpperCase());
    if (!other) return setMissing(say("thereIsNoUnitTagType", { tag }));
    setMissing("");
    const done = await swap.run({
      unitId: view.unit.id,
      slot,
      otherUnitId: other.id,
      otherSlot: otherSlot || slot,
      part: part.trim().toUpperCase(),
      why,
    });
    if (done?.ok) setOpen(false);
  };
  return {
    parts,
    swap,
    open,
    setOpen,
    slot,
    setSlot,
    tag,
    setTag,
    otherSlot,
    setOtherSlot,
    part,
    setPart,
    why,
    setWhy,
    missing,
    send,
  };
}
type SwapState = ReturnType<typeof useSwap>;

/** Two like parts change places between units: each history says what came and what went. */
function Swap(props: SwapProps) {
  const s = useSwap(props);
  const { swap, open, setOpen, tag, setTag, part, setPart, why, setWhy, missing, send } = s;

  if (!open)
    return (
      <Button size="small" sx={{ mt: 1 }} onClick={() => setOpen(true)}>
        {say("swapAPartWithAnotherUnit")}
      </Button>
    );
  return (
    <Form
      aria-label={say("swapAPart")}
      onSend={send}
      sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 1.5, alignItems: "start" }}
    >
      <OwnSlot {...s} />
      <TextField
        label={say("withUnit")}
        value={tag}
        onChange={(e) => setTag(e.target.value)}
        placeholder="B-0116"
        sx={{ width: 120 }}
      />
      <OtherSlot {...s} />
      <BoundField
        deed="part.swap"
        name="part"
        label={say("part")}
        value={part}
        onChange={setPart}
        placeholder={say("asInTheCatalogue")}
        sx={{ width: 150 }}
      />
      <BoundField
        deed="part.swap"
        name="why"
        label={say("why")}
        value={why}
        onChange={setWhy}
        sx={{ flex: 1, minWidth: 150 }}
      />
      <Button
        type="submit"
        variant="outlined"
        disabled={swap.running || !tag.trim() || !part.trim() || !why.trim()}
      >
        {say("theyWereSwapped")}
      </Button>
      <Box sx={{ flexBasis: "100%" }}>
        {missing && <Alert severity="error">{missing}</Alert>}
        <Problem problem={swap.problem} />
      </Box>
    </Form>
  );
}

function OwnSlot({ slot, setSlot, parts }: SwapState) {
  return (
    <TextField
      select
      label={say("its")}
      value={slot}
      onChange={(e) => setSlot(e.target.value)}
      sx={{ width: 190 }}
    >
      {parts.slots.map((s) => (
        <MenuItem key={s.id} value={s.id}>
          {s.name}
        </MenuItem>
      ))}
    </TextField>
  );
}

function OtherSlot({ otherSlot, slot, setOtherSlot, parts }: SwapState) {
  return (
    <TextField
      select
      label={say("andThatOneS")}
      value={otherSlot || slot}
      onChange={(e) => setOtherSlot(e.target.value)}
      sx={{ width: 190 }}
    >
      {parts.slots.map((s) => (
        <MenuItem key={s.id} value={s.id}>
          {s.name}
        </MenuItem>
      ))}
    </TextField>
  );
}
