"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Id } from "@/core/base/ids";
import { refTo } from "@/core/mend/ref";
import type { Proposal } from "@/features/mend/proposal";
import type { OrderView } from "@/features/mend/view";
import { SOILING_WORDS } from "@/features/mend/words/text";
import { say } from "@/features/mend/words/words";
import type { UnitView } from "@/features/units/view";
import { placeWords } from "@/text/names";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { NativeSelect } from "@/ui/fields/NativeSelect";

const LEVELS = [say("none"), say("level1"), say("level2"), say("level3"), say("level4")];
import type { MendRoute } from "./route";
import { Row, Words } from "@/ui/kit/layout";

type Row = {
  faultId: Id<"fault"> | null;
  label: string;
  place: string | null;
  on: boolean;
  route: string;
  slot: string;
  done: boolean;
  what: string;
  /** routes that follow where the retest fails */
  then: readonly string[];
};

/** Whether a row of the order is what is proposed; what mends no fault is known by where it goes. */
const isSame = (h: Row, t: Proposal["targets"][number]): boolean =>
  t.faultId === null
    ? h.faultId === null && h.slot === t.slot
    : h.faultId === t.faultId || h.place === t.place;

/** The rows of the form: what the order holds already, then open faults that it does not. */
function rowsOf(view: UnitView, order: OrderView | null, proposal: Proposal, routes: MendRoute[]): Row[] {
  const held = (order?.body.targets ?? []).map((t): Row => {
    const fault = view.faults.find((f) => f.id === t.faultId);
    return {
      faultId: t.faultId,
      label: fault ? `${fault.number}. ${placeWords(fault.place)}` : t.what,
      place: fault?.place ?? null,
      on: true,
      route: t.route ?? "",
      slot: t.slot ?? "",
      done: order!.line.some((s) => s.key === refTo("mend", t.key) && s.done),
      what: t.what,
      then: t.then ?? [],
    };
  });
  const others = proposal.targets
    .filter((t) => !held.some((h) => isSame(h, t)))
    .map((t): Row => ({
      faultId: t.faultId,
      label: t.number === null ? t.what : `${t.number}. ${placeWords(t.place)}`,
      place: t.place,
      on: order === null,
      route: routes.find((r) => r.id === t.route && r.places.includes(t.place))?.id ?? "",
      slot: t.slot ?? "",
      done: false,
      what: "",
      then: t.then,
    }));
  return [...held, ...others];
}

type OrderFormProps = {
  view: UnitView;
  order: OrderView | null;
  proposal: Proposal;
  routes: MendRoute[];
  onDone?: () => void;
};

/** What OrderForm knows and does; the components below only show it. */
function useOrderForm({ view, order, proposal, routes, onDone }: OrderFormProps) {
  const open = useDeed("work.open");
  const change = useDeed("work.change");
  const [level, setLevel] = useState(order?.body.cleaningLevel ?? proposal.cleaning.level);
  const [rows, setRows] = useState(() => rowsOf(view, order, proposal, routes));
  const [calibrate, setCalibrate] = useState(order?.body.calibrate ?? proposal.calibrate);
  const [checks, setChecks] = useState<readonly string[]>(
    () => order?.body.checks ?? proposal.looks.map((l) => l.id),
  );
  /** what can be looked at first: what the order holds, then what is proposed */
  const looks = [
    ...(order?.looks ?? []),
    ...proposal.looks.filter((l) => !order?.looks.some((held) => held.id === l.id)),
  ];
  const sticks = view.profile.guide?.calibration?.sticks ?? [];
  const slots = view.profile.slots ?? [];
  const send = async () => {
    const targets = rows
      .filter((r) => r.on)
      .map((r) => {
        const route = routes.find((x) => x.id === r.route);
        const kept = order?.body.targets.find((t) => t.faultId === r.faultId && (t.route ?? "") === r.route);
        const what =
          r.done || kept
            ? r.what
            : `${route?.name ?? say("mend")}: ${r.place ? placeWords(r.place) : r.label}`.slice(0, 120);
        const then = r.then.filter((id) => id !== r.route);
        return { faultId: r.faultId, what, slot: r.slot || null, route: r.route || null, then };
      });
    const body = { cleaningLevel: level, calibrate, targets, checks: [...checks] };
    const done = order
      ? await change.run({ orderId: order.id, version: order.version, ...body })
      : await open.run({ unitId: view.unit.id, ...body });
    if (done?.ok) onDone?.();
  };
  const set = (i: number, to: Partial<Row>) => setRows(rows.map((r, k) => (k === i ? { ...r, ...to } : r)));
  return {
    order,
    proposal,
    routes,
    onDone,
    open,
    change,
    level,
    setLevel,
    rows,
    calibrate,
    setCalibrate,
    checks,
    setChecks,
    looks,
    sticks,
    slots,
    send,
    set,
  };
}

type OrderFormState = ReturnType<typeof useOrderForm>;

/** Opens a work order, or changes the open one; what is done already keeps its place in it. */
export function OrderForm(props: OrderFormProps) {
  const s = useOrderForm(props);
  const { order, onDone, open, change, rows, send } = s;

  return (
    <Form
      aria-label={order ? say("changeTheWorkOrder") : say("openAWorkOrder")}
      onSend={send}
      sx={{
        border: 1,
        borderColor: "divider",
        borderRadius: 1,
        bgcolor: "background.paper",
        p: 2,
        my: order ? 1 : 0,
        mb: 2,
        display: "grid",
        gap: 1.5,
      }}
    >
      <Typography component="h3" variant="h2">
        {order ? say("changeTheWorkOrder") : say("openAWorkOrder")}
      </Typography>
      <LooksFirst {...s} />
      <Targets {...s} />
      {rows.length === 0 && (
        <Typography color="text.secondary">{say("nothingToMendIsNamedCleaning")}</Typography>
      )}
      <CleaningLevel {...s} />
      <CalibrateAfter {...s} />
      <Row gap={1} oneLine>
        <Button type="submit" variant="contained" size="large" disabled={open.running || change.running}>
          {order ? say("saveTheChange") : say("openTheWorkOrder")}
        </Button>
        {onDone && <Button onClick={onDone}>{say("cancel")}</Button>}
      </Row>
      <Problem problem={open.problem ?? change.problem} />
    </Form>
  );
}

function LooksFirst({ looks, checks, setChecks }: OrderFormState) {
  if (looks.length === 0) return null;
  return (
    <Box>
      <Typography>{say("lookFirstAt")}</Typography>
      {looks.map((l) => (
        <FormControlLabel
          key={l.id}
          control={
            <Checkbox
              checked={checks.includes(l.id)}
              onChange={(e) =>
                setChecks(e.target.checked ? [...checks, l.id] : checks.filter((x) => x !== l.id))
              }
            />
          }
          label={l.name}
        />
      ))}
    </Box>
  );
}

function Targets({ rows, set, routes, slots, proposal }: OrderFormState) {
  return rows.map((r, i) => (
    <Box
      key={r.faultId ?? i}
      sx={{
        display: "grid",
        gap: 1,
        gridTemplateColumns: { xs: "1fr", sm: "minmax(0,1.2fr) minmax(0,1.5fr) minmax(0,1.3fr)" },
        alignItems: "center",
      }}
    >
      <FormControlLabel
        control={
          <Checkbox checked={r.on} disabled={r.done} onChange={(e) => set(i, { on: e.target.checked })} />
        }
        label={r.done ? say("labelDone", { label: r.label }) : r.label}
      />
      <NativeSelect
        label={say("by")}
        value={r.route}
        disabled={r.done}
        onChange={(e) => set(i, { route: e.target.value })}
      >
        <option value="">{say("aWayOfMyOwn")}</option>
        {routes
          .filter((x) => r.place === null || x.places.includes(r.place))
          .map((x) => (
            <option key={x.id} value={x.id}>
              {x.name}
            </option>
          ))}
      </NativeSelect>
      <NativeSelect
        label={say("at")}
        value={r.slot}
        disabled={r.done}
        onChange={(e) => set(i, { slot: e.target.value })}
      >
        <option value="">{say("noPartStaysClosed")}</option>
        {slots
          .filter((x) => r.place === null || x.serves.includes(r.place))
          .map((x) => (
            <option key={x.id} value={x.id}>
              {x.name}
            </option>
          ))}
      </NativeSelect>
      {r.route !== "" && !r.done && (
        <Box sx={{ gridColumn: "1 / -1" }}>
          <Words size="small" quiet>
            {thenWords(
              r.then.filter((id) => id !== r.route),
              proposal.names,
            )}
          </Words>
        </Box>
      )}
    </Box>
  ));
}

/** What follows a route whose retest fails, as it is advised before it was tried. */
export const thenWords = (then: readonly string[], names: Readonly<Record<string, string>>): string =>
  then.length > 0
    ? say("ifTheRetestFails", { then: then.map((id) => names[id] ?? id).join(", ") })
    : say("ifTheRetestFailsStop");

function CleaningLevel({ level, setLevel, proposal }: OrderFormState) {
  return (
    <Row gap={2} at="center">
      <NativeSelect
        label={say("cleanToLevel")}
        value={level}
        onChange={(e) => setLevel(Number(e.target.value))}
        sx={{ width: 230 }}
      >
        {LEVELS.map((name, i) => (
          <option key={name} value={i}>
            {name}
          </option>
        ))}
      </NativeSelect>
      <Typography color="text.secondary" sx={{ flex: 1, minWidth: 200 }}>
        {say("suggestedLevelWhy", {
          level: proposal.cleaning.level,
          why: proposal.cleaning.why.map((w) => SOILING_WORDS[w]).join("; "),
        })}
      </Typography>
    </Row>
  );
}

function CalibrateAfter({ sticks, calibrate, setCalibrate }: OrderFormState) {
  return (
    sticks.length > 0 && (
      <Box>
        {sticks.map((s) => (
          <FormControlLabel
            key={s}
            control={
              <Checkbox
                checked={calibrate.includes(s)}
                onChange={(e) =>
                  setCalibrate(e.target.checked ? [...calibrate, s] : calibrate.filter((x) => x !== s))
                }
              />
            }
            label={say("calibrateThePlaceWordsAfter", { placeWords: placeWords(s) })}
          />
        ))}
      </Box>
    )
  );
}
