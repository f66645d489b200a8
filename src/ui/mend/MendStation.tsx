"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useSearchParams } from "next/navigation";
import { useState } from "react";
import { Controller, useForm, useWatch } from "react-hook-form";

import { Form } from "@/ui/fields/Form";
import type { UnitParts as Parts } from "@/service/needs";
import type { WaitView } from "@/service/waits";
import type { DamageView } from "@/service/damage";
import type { OrderView, Proposal } from "@/service/order-view";
import type { MendView, UnitView } from "@/service/views";
import { type Cause, CAUSES } from "@/contract/deeds";
import { isMark, type MarkKey } from "@/contract/intake";
import { placeAt } from "@/core/profile/profile";
import { parseAmount } from "@/core/money/money";
import { day, dayAndTime, money } from "@/text/format";
import { placeWords } from "@/text/names";
import { CAUSE_WORDS } from "@/text/words";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { DateField, isDay } from "@/ui/fields/DateField";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { PlanView } from "@/ui/plan/PlanView";
import { LiquidSignOff } from "@/ui/test/LiquidSignOff";
import { PlanFrame, Station } from "@/ui/unit/Station";
import { FIGURES } from "@/ui/figures";
import { Damage, Waits } from "./Aside";
import { MendTabs } from "./MendTabs";
import { UnitParts } from "./UnitParts";
import { WorkCard } from "./WorkCard";

/** A route of the catalogue as the form needs it: for which places of this unit, and what its part costs here. */
export type MendRoute = { id: string; name: string; places: string[]; part: string; partMinor: number };

/** The log of what was done: each entry with its fault, part, minutes, and the test it followed. */
export function MendStation({
  view,
  routes,
  parts,
  work,
  canWork,
}: {
  view: UnitView;
  routes: MendRoute[];
  parts: Parts;
  work: { order: OrderView | null; proposal: Proposal; waits: WaitView[]; damage: DamageView[] };
  canWork: boolean;
}) {
  const { unit, profile } = view;
  if (unit.swollen) return <Alert severity="error">Locked: this unit is in quarantine. A swollen cell is not opened here.</Alert>;
  const open = canWork && unit.ending === null;
  const faults = view.faults.filter((f) => f.status === "open");
  const total = view.mends.reduce((sum, m) => sum + m.minutes, 0);
  return (
    <Station
      plan={
        <>
          <PlanFrame height={230}>
            <PlanView
              profile={profile}
              revision={unit.revision}
              states={Object.fromEntries(faults.map((f) => [f.place, "fail" as const]))}
            />
          </PlanFrame>
          <Box sx={{ mt: 2 }}>
            <Waits unitId={unit.id} waits={work.waits} canWork={open} />
            <Damage unitId={unit.id} damage={work.damage} canWork={open} />
          </Box>
        </>
      }
    >
      <MendTabs tag={unit.tag} />
      {unit.liquid && !unit.liquid_cleared && <LiquidSignOff view={view} canWork={open} />}
      <Box sx={{ display: "flex", gap: 2, alignItems: "baseline", mb: 1 }}>
        <Typography component="h2" sx={{ fontSize: "2rem", fontWeight: 800 }}>
          {faults.length ? `${faults.length} open ${faults.length === 1 ? "fault" : "faults"}` : "No open fault"}
        </Typography>
        <Typography color="text.secondary">{total} minutes logged</Typography>
      </Box>
      {unit.ending === null && !(unit.liquid && !unit.liquid_cleared) && (
        <WorkCard view={view} order={work.order} proposal={work.proposal} routes={routes} canWork={open} />
      )}
      {open &&
        (work.order ? (
          <Box component="details" sx={{ mb: 2 }}>
            <summary>Log something that the work order does not name</summary>
            <Box sx={{ mt: 1.5 }}>
              <AddMend view={view} routes={routes} parts={parts} />
            </Box>
          </Box>
        ) : (
          <AddMend view={view} routes={routes} parts={parts} />
        ))}
      <UnitParts parts={parts} view={view} canWork={canWork} />
      <Box sx={{ mt: 3 }}>
        {view.mends.length === 0 && <Typography color="text.secondary">Nothing was done yet.</Typography>}
        {[...view.mends].reverse().map((m) => (
          <Entry key={`${m.id}-${m.version}`} mend={m} view={view} canEdit={open} />
        ))}
      </Box>
    </Station>
  );
}

type Fields = {
  faultId: string;
  what: string;
  part: string;
  minutes: string;
  remark: string;
  opened: boolean;
  settlesFault: boolean;
  route: string;
  partCost: string;
  partGift: string;
  cause: Cause;
  fallback: string;
  reviewOn: string;
  shelf: string;
};

function AddMend({ view, routes, parts }: { view: UnitView; routes: MendRoute[]; parts: Parts }) {
  const deed = useDeed("mend.add");
  const asked = useSearchParams().get("fault");
  const open = view.faults.filter((f) => f.status === "open");
  const defaults: Fields = {
    faultId: open.find((f) => f.id === asked)?.id ?? open[0]?.id ?? "",
    what: "",
    part: "",
    minutes: String(view.minutesNow),
    remark: "",
    opened: true,
    settlesFault: true,
    route: "",
    partCost: "0.00",
    partGift: "",
    cause: "not-known",
    fallback: "",
    reviewOn: "",
    shelf: "",
  };
  const { register, handleSubmit, reset, control, formState, setValue, getValues } = useForm<Fields>({ defaultValues: defaults });
  const [marksGone, setMarksGone] = useState<MarkKey[]>([]);
  const marks = view.unit.intake.marks.filter((m) => m.gone === null);
  const part = useWatch({ control, name: "part" });
  const faultId = useWatch({ control, name: "faultId" });
  const route = useWatch({ control, name: "route" });
  const place = view.faults.find((f) => f.id === faultId)?.place;
  const shelf = useWatch({ control, name: "shelf" });
  const onShelf = parts.shelf.filter((s) => place && view.profile.slots?.find((x) => x.id === s.slot)?.serves.includes(place));
  const offered = routes.filter((r) => place && r.places.includes(place));
  /** A route says what is done by it; which part really went in, only who did it knows. */
  const follow = (id: string) => {
    const route = offered.find((r) => r.id === id);
    setValue("route", id);
    if (!route) return;
    if (!getValues("what")) setValue("what", route.name);
  };
  const chosen = offered.find((r) => r.id === route);
  /** What the route usually takes is offered, and written down only when a hand takes it. */
  const takeUsual = () => {
    setValue("part", chosen!.part, { shouldDirty: true });
    setValue("partCost", (chosen!.partMinor / 100).toFixed(2), { shouldDirty: true });
  };
  const save = handleSubmit(async (v) => {
    const done = await deed.run({
      unitId: view.unit.id,
      faultId: v.faultId || null,
      what: v.what,
      part: v.part,
      minutes: Number(v.minutes),
      remark: v.remark,
      opened: v.opened,
      settlesFault: v.settlesFault && v.faultId !== "",
      route: v.route || null,
      partMinor: parseAmount(v.partCost) ?? 0,
      partGift: v.partGift,
      cause: v.cause,
      fromStock: v.shelf ? { batchId: v.shelf.split(" ")[0]!, slot: v.shelf.split(" ")[1]! } : null,
      marksGone,
      provisional: v.fallback.trim() && v.reviewOn ? { fallback: v.fallback, reviewOn: v.reviewOn } : null,
    });
    if (!done?.ok) return;
    reset({ ...defaults, faultId: "", minutes: "0" });
    setMarksGone([]);
  });
  return (
    <Box
      component="form"
      onSubmit={save}
      noValidate
      sx={{ display: "grid", gap: 1.5, gridTemplateColumns: { xs: "1fr", sm: "2fr 1.4fr 0.8fr" } }}
    >
      {view.mends.length === 0 && (
        <Alert severity="warning" sx={{ gridColumn: "1 / -1" }}>
          Before opening: unplug the power. Unplug the cell first by its plug, never by its wires. Hot iron, fumes and springs:
          eyes and air.
        </Alert>
      )}
      <TextField
        label="What was done"
        {...register("what", { required: "say what was done" })}
        error={Boolean(formState.errors.what)}
        helperText={formState.errors.what?.message}
      />
      <NativeSelect label="To which fault" {...register("faultId")} value={faultId}>
        <option value="">no named fault</option>
        {open.map((f) => (
          <option key={f.id} value={f.id}>
            {`${f.number}. ${placeWords(f.place)}: ${f.kind}`}
          </option>
        ))}
      </NativeSelect>
      <TextField
        label="Minutes"
        {...register("minutes", { validate: (v) => /^\d{1,4}$/.test(v) || "whole minutes" })}
        error={Boolean(formState.errors.minutes)}
        helperText={formState.errors.minutes?.message ?? "counted while open"}
        slotProps={{ htmlInput: { inputMode: "numeric" } }}
      />
      <NativeSelect
        label="By which route"
        {...register("route")}
        value={route}
        onChange={(e) => follow(e.target.value)}
        helperText={faultId ? "its odds learn from the retest" : "choose a fault first"}
      >
        <option value="">none of the catalogue</option>
        {offered.map((r) => (
          <option key={r.id} value={r.id}>
            {r.name}
          </option>
        ))}
      </NativeSelect>
      <TextField
        label="Part used"
        {...register("part")}
        slotProps={{ inputLabel: part ? { shrink: true } : {} }}
        helperText={
          chosen?.part ? (
            <>
              usual here: {chosen.part}, {money(chosen.partMinor, view.settings)}{" "}
              <Button size="small" onClick={takeUsual} sx={{ py: 0, minHeight: 0 }}>
                It was this
              </Button>
            </>
          ) : undefined
        }
      />
      <TextField
        label={`Its cost, ${view.settings.currency}`}
        {...register("partCost", { validate: (t) => parseAmount(t) !== null || "an amount, such as 2.60" })}
        error={Boolean(formState.errors.partCost)}
        helperText={formState.errors.partCost?.message}
        slotProps={{ htmlInput: { inputMode: "decimal" } }}
      />
      {onShelf.length > 0 && (
        <NativeSelect
          label="Piece from the shelf"
          {...register("shelf")}
          value={shelf}
          sx={{ gridColumn: "1 / -1" }}
          helperText={shelf ? "its name and cost are the batch’s" : "none is taken off"}
        >
          <option value="">none</option>
          {onShelf.map((s) => (
            <option key={`${s.batchId} ${s.slot}`} value={`${s.batchId} ${s.slot}`}>
              {`${s.batch}, ${s.name}${s.mine ? ", put aside for it" : ""}`}
            </option>
          ))}
        </NativeSelect>
      )}
      <TextField label="Remark" {...register("remark")} sx={{ gridColumn: { sm: "1 / 3" } }} />
      <TextField label="A gift from" {...register("partGift")} helperText="counts for the job, costs no cash" />
      <NativeSelect label="Why the fault came" {...register("cause")} disabled={!faultId}>
        {CAUSES.map((c) => (
          <option key={c} value={c}>
            {CAUSE_WORDS[c]}
          </option>
        ))}
      </NativeSelect>
      <TextField label="Good for now; falls back on" {...register("fallback")} />
      <Controller
        control={control}
        name="reviewOn"
        rules={{ validate: (d, all) => !all.fallback.trim() || isDay(d) || "name the day" }}
        render={({ field: { value, onChange } }) => (
          <DateField
            label="Look again on"
            shop={view.settings}
            value={value}
            onChange={onChange}
            error={Boolean(formState.errors.reviewOn)}
            helperText={formState.errors.reviewOn?.message}
          />
        )}
      />
      {marks.length > 0 && (
        <Box
          role="group"
          aria-label="Marks that went with it"
          sx={{ gridColumn: "1 / -1", display: "flex", flexWrap: "wrap", columnGap: 2, alignItems: "center" }}
        >
          <span>Went with it, of the marks outside:</span>
          {marks.map(({ kind, x, y }) => {
            const on = marksGone.some((m) => isMark(m, { kind, x, y }));
            return (
              <FormControlLabel
                key={`${kind} ${x} ${y}`}
                control={
                  <Checkbox
                    checked={on}
                    onChange={() =>
                      setMarksGone(on ? marksGone.filter((m) => !isMark(m, { kind, x, y })) : [...marksGone, { kind, x, y }])
                    }
                  />
                }
                label={`${kind.replaceAll("-", " ")}, ${placeAt(view.profile, { x, y })}`}
              />
            );
          })}
        </Box>
      )}
      <Box sx={{ gridColumn: "1 / -1", display: "flex", gap: 2, flexWrap: "wrap", alignItems: "center" }}>
        <Button type="submit" variant="contained" size="large" disabled={deed.running}>
          Log it
        </Button>
        <FormControlLabel control={<Checkbox {...register("opened")} defaultChecked />} label="The unit was open" />
        {faultId && (
          <FormControlLabel
            control={<Checkbox {...register("settlesFault")} defaultChecked />}
            label="The retest is good: this mends the fault"
          />
        )}
      </Box>
      <Box sx={{ gridColumn: "1 / -1" }}>
        <Problem problem={deed.problem} />
      </Box>
    </Box>
  );
}

function Entry({ mend, view, canEdit }: { mend: MendView; view: UnitView; canEdit: boolean }) {
  const edit = useDeed("mend.edit");
  const [v, setV] = useState<{ what: string; part: string; minutes: string; remark: string } | null>(null);
  const fault = view.faults.find((f) => f.id === mend.faultId);
  const after = view.recordings.find((r) => r.id === mend.afterRecordingId);
  const save = async () => {
    if (!v) return;
    const done = await edit.run({
      mendId: mend.id,
      version: mend.version,
      what: v.what,
      part: v.part,
      minutes: Number(v.minutes) || 0,
      remark: v.remark,
    });
    if (done?.ok) setV(null);
  };
  if (v)
    return (
      <Form
        onSend={save}
        sx={{
          display: "grid",
          gap: 1,
          gridTemplateColumns: { sm: "2fr 1fr 0.6fr" },
          py: 1.5,
          borderTop: 1,
          borderColor: "divider",
        }}
      >
        <TextField label="What was done" value={v.what} onChange={(e) => setV({ ...v, what: e.target.value })} autoFocus />
        <TextField label="Part used" value={v.part} onChange={(e) => setV({ ...v, part: e.target.value })} />
        <TextField
          label="Minutes"
          value={v.minutes}
          onChange={(e) => setV({ ...v, minutes: e.target.value.replace(/\D/g, "") })}
        />
        <TextField
          label="Remark"
          value={v.remark}
          onChange={(e) => setV({ ...v, remark: e.target.value })}
          sx={{ gridColumn: "1 / -1" }}
        />
        <Box sx={{ display: "flex", gap: 1, gridColumn: "1 / -1" }}>
          <Button type="submit" variant="contained" disabled={edit.running}>
            Save
          </Button>
          <Button onClick={() => setV(null)}>Cancel</Button>
        </Box>
        <Box sx={{ gridColumn: "1 / -1" }}>
          <Problem problem={edit.problem} />
        </Box>
      </Form>
    );
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: "84px minmax(0,1fr) auto",
        gap: 2,
        py: 1.2,
        borderTop: 1,
        borderColor: "divider",
        alignItems: "start",
      }}
    >
      <Box>
        <Box
          sx={{
            fontFamily: FIGURES,
            fontSize: "1.5rem",
            fontWeight: 700,
            lineHeight: 1,
          }}
        >
          {mend.minutes}
        </Box>
        <Box sx={{ fontSize: "0.8rem", color: "text.secondary" }}>minutes</Box>
      </Box>
      <Box>
        <Box sx={{ fontWeight: 700 }}>{mend.what}</Box>
        <Box sx={{ color: "text.secondary", fontSize: "0.92rem" }}>
          {fault && `Fault ${fault.number}, ${placeWords(fault.place)}. `}
          {mend.part && `Part: ${mend.part}. `}
          {mend.remark && `${mend.remark}. `}
          {fault && fault.cause !== "not-known" && `Cause: ${CAUSE_WORDS[fault.cause]}. `}
          {mend.provisional &&
            `Good for now, falls back on ${mend.provisional.fallback}, look again on ${day(mend.provisional.reviewOn, view.settings)}. `}
          {mend.opened ? "Open. " : "Closed. "}
          {mend.by}, {dayAndTime(mend.at, view.settings)}
          {after
            ? `, after the ${after.purpose === "full" ? "full test" : "quick look"} of ${dayAndTime(after.startedAt, view.settings)}`
            : ", before any test"}
        </Box>
      </Box>
      {canEdit && (
        <Button
          size="small"
          onClick={() => setV({ what: mend.what, part: mend.part, minutes: String(mend.minutes), remark: mend.remark })}
        >
          Edit
        </Button>
      )}
    </Box>
  );
}
