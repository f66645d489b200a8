"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import type { UnitParts as Parts } from "@/service/needs";
import type { UnitView } from "@/service/views";
import { day, money } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";

/** A long shelf is shown by its oldest batches first. */
const SHOWN_FIRST = 6;

/** What was fitted from where, what is put aside for this unit, and what on the shelf would go in. */
export function UnitParts({ parts, view, canWork }: { parts: Parts; view: UnitView; canWork: boolean }) {
  const places = new Set(view.faults.filter((f) => f.status === "open").map((f) => f.place));
  const here = parts.shelf.filter((s) => view.profile.slots?.find((x) => x.id === s.slot)?.serves.some((p) => places.has(p)));
  const [all, setAll] = useState(false);
  const recalled = parts.fitted.filter((f) => f.recalled);
  return (
    <Box component="section" aria-label="Parts of this unit" sx={{ mt: 3 }}>
      <Typography component="h2" variant="h2">
        Parts
      </Typography>
      {recalled.map((f) => (
        <Alert key={f.id} severity="error" role="status" sx={{ mb: 1 }}>
          {f.slotName}: its part is of batch <Link href={`/parts/${f.batch}`}>{f.batch}</Link>, which was rejected. Change it
          before the unit goes.
        </Alert>
      ))}
      {parts.reserved.map((r) => (
        <Reserved key={r.id} reserved={r} canWork={canWork} />
      ))}
      {(all ? here : here.slice(0, SHOWN_FIRST)).map((s) => (
        <OnShelf key={`${s.batchId} ${s.slot}`} line={s} unitId={view.unit.id} canWork={canWork} />
      ))}
      {!all && here.length > SHOWN_FIRST && (
        <Button size="small" onClick={() => setAll(true)}>
          {here.length - SHOWN_FIRST} more on the shelf
        </Button>
      )}
      {here.length === 0 && parts.reserved.length === 0 && places.size > 0 && (
        <Typography color="text.secondary">
          Nothing on the shelf fits what is faulty. <Link href="/parts?tab=donors">Look at the donors</Link> or{" "}
          <Link href="/parts?tab=buy">at what to buy</Link>.
        </Typography>
      )}
      {parts.fitted.map((f) => (
        <Fitted key={f.id} fitted={f} view={view} canWork={canWork} />
      ))}
      {canWork && <Swap parts={parts} view={view} />}
    </Box>
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
        Put aside for its {reserved.slot}: {reserved.part},{" "}
        {reserved.batch ? (
          <Link href={`/parts/${reserved.batch}`}>{reserved.batch}</Link>
        ) : (
          <>
            still in donor <Link href={`/parts/donors/${reserved.donor}`}>{reserved.donor}</Link>
          </>
        )}
      </span>
      {canWork && (
        <Button size="small" disabled={free.running} onClick={() => free.run({ reservationId: reserved.id })}>
          Let it go
        </Button>
      )}
      <Problem problem={free.problem} />
    </Box>
  );
}

function OnShelf({ line: s, unitId, canWork }: { line: Parts["shelf"][number]; unitId: string; canWork: boolean }) {
  const hold = useDeed("stock.reserve");
  return (
    <Box sx={line}>
      <span>
        For its {s.slotName}: {s.name}, <Link href={`/parts/${s.batch}`}>{s.batch}</Link> in bin {s.bin}, {s.free} free
        {s.lacks.length > 0 && `. Move over from the old one: ${s.lacks.join(", ")}`}
        {s.fit.instead.length > 0 && `. Instead of ${s.fit.instead.map((i) => i.of).join(", then ")}: ${s.fit.instead[0]!.why}`}
        {s.fit.deviation && `. To be told: ${s.fit.deviation}`}
      </span>
      {canWork && s.mine === 0 && (
        <Button
          size="small"
          disabled={hold.running}
          onClick={() => hold.run({ unitId, slot: s.slot, batchId: s.batchId, count: s.count })}
          aria-label={`Put ${s.batch} aside for its ${s.slotName}`}
        >
          Put aside
        </Button>
      )}
      <Problem problem={hold.problem} />
    </Box>
  );
}

function Fitted({ fitted: f, view, canWork }: { fitted: Parts["fitted"][number]; view: UnitView; canWork: boolean }) {
  const feel = useDeed("fitted.feel");
  const remove = useDeed("fitted.remove");
  const [taking, setTaking] = useState(false);
  const [why, setWhy] = useState("");
  return (
    <Box sx={line}>
      <span>
        {f.removed === null ? "In it" : "Was in it"}: {f.name} at its {f.slotName}
        {f.batch && (
          <>
            , <Link href={`/parts/${f.batch}`}>{f.batch}</Link>
          </>
        )}
        {f.from && `, ${f.from}`}, {f.condition}, {money(f.costMinor, view.settings)}, {day(f.at, view.settings)}
        {f.deviation && `. To be told: ${f.deviation}`}
        {f.removed !== null && `. Taken out: ${f.removed}`}
      </span>
      {canWork && f.removed === null && (
        <TextField
          select
          label="Feels"
          value={f.feel ?? ""}
          onChange={(e) => void feel.run({ fittedId: f.id, feel: Number(e.target.value), words: "" })}
          sx={{ width: 150 }}
          size="small"
        >
          {["1, loose or stiff", "2", "3, usable", "4", "5, like the original"].map((t, i) => (
            <MenuItem key={t} value={i + 1}>
              {t}
            </MenuItem>
          ))}
        </TextField>
      )}
      {canWork && f.removed === null && view.unit.ending === null && !taking && (
        <Button size="small" onClick={() => setTaking(true)}>
          Take it out
        </Button>
      )}
      {taking && (
        <>
          <TextField label="Why" value={why} onChange={(e) => setWhy(e.target.value)} autoFocus size="small" />
          <Button
            size="small"
            disabled={why.trim() === "" || remove.running}
            onClick={() => remove.run({ fittedId: f.id, to: "stock", bin: null, why })}
          >
            Back on the shelf
          </Button>
          <Button
            size="small"
            disabled={why.trim() === "" || remove.running}
            onClick={() => remove.run({ fittedId: f.id, to: "scrap", bin: null, why })}
          >
            Thrown away
          </Button>
        </>
      )}
      <Problem problem={feel.problem ?? remove.problem} />
    </Box>
  );
}

/** Two like parts change places between units: each history says what came and what went. */
function Swap({ parts, view }: { parts: Parts; view: UnitView }) {
  const swap = useDeed("part.swap");
  const [open, setOpen] = useState(false);
  const [slot, setSlot] = useState(parts.slots[0]?.id ?? "");
  const [tag, setTag] = useState("");
  const [otherSlot, setOtherSlot] = useState("");
  const [part, setPart] = useState("");
  const [why, setWhy] = useState("");
  const [missing, setMissing] = useState("");
  const send = async () => {
    const found = (await (await fetch(`/api/search?q=${encodeURIComponent(tag)}`)).json().catch(() => null)) as {
      value?: { id: string; tag: string }[];
    } | null;
    const other = found?.value?.find((u) => u.tag === tag.trim().toUpperCase());
    if (!other) return setMissing(`There is no unit ${tag}. Type its whole tag.`);
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
  if (!open)
    return (
      <Button size="small" sx={{ mt: 1 }} onClick={() => setOpen(true)}>
        Swap a part with another unit
      </Button>
    );
  return (
    <Form aria-label="Swap a part" onSend={send} sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 1.5, alignItems: "start" }}>
      <TextField select label="Its" value={slot} onChange={(e) => setSlot(e.target.value)} sx={{ width: 190 }}>
        {parts.slots.map((s) => (
          <MenuItem key={s.id} value={s.id}>
            {s.name}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        label="With unit"
        value={tag}
        onChange={(e) => setTag(e.target.value)}
        placeholder="B-0116"
        sx={{ width: 120 }}
      />
      <TextField
        select
        label="and that one’s"
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
      <TextField
        label="Part"
        value={part}
        onChange={(e) => setPart(e.target.value)}
        placeholder="as in the catalogue"
        sx={{ width: 150 }}
      />
      <TextField label="Why" value={why} onChange={(e) => setWhy(e.target.value)} sx={{ flex: 1, minWidth: 150 }} />
      <Button type="submit" variant="outlined" disabled={swap.running || !tag.trim() || !part.trim() || !why.trim()}>
        They were swapped
      </Button>
      <Box sx={{ flexBasis: "100%" }}>
        {missing && <Alert severity="error">{missing}</Alert>}
        <Problem problem={swap.problem} />
      </Box>
    </Form>
  );
}
