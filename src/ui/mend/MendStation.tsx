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
import { say } from "@/words/mend";
import { codeWords } from "@/words/codes";

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
  if (unit.swollen) return <Alert severity="error">{say("lockedThisUnitIsInQuarantine")}</Alert>;
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
          {faults.length ? say("faultsOpenFault", { faults: faults.length }) : say("noOpenFault")}
        </Typography>
        <Typography color="text.secondary">{say("totalMinutesLogged", { total })}</Typography>
      </Box>
      {unit.ending === null && !(unit.liquid && !unit.liquid_cleared) && (
        <WorkCard view={view} order={work.order} proposal={work.proposal} routes={routes} canWork={open} />
      )}
      {open &&
        (work.order ? (
          <Box component="details" sx={{ mb: 2 }}>
            <summary>{say("logSomethingThatTheWorkOrder")}</summary>
            <Box sx={{ mt: 1.5 }}>
              <AddMend view={view} routes={routes} parts={parts} />
            </Box>
          </Box>
        ) : (
          <AddMend view={view} routes={routes} parts={parts} />
        ))}
      <UnitParts parts={parts} view={view} canWork={canWork} />
      <Box sx={{ mt: 3 }}>
        {view.mends.length === 0 && <Typography color="text.secondary">{say("nothingWasDoneYet")}</Typography>}
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
      sx={{ display: "grid", gap: 1.5, gridTemplateColumns: { xs: "1fr", sm: "1.7fr 1.7fr 0.8fr" } }}
    >
      {view.mends.length === 0 && (
        <Alert severity="warning" sx={{ gridColumn: "1 / -1" }}>
          {say("beforeOpeningUnplugThePower")}
        </Alert>
      )}
      <TextField
        label={say("whatWasDone")}
        {...register("what", { required: say("sayWhatWasDone") })}
        error={Boolean(formState.errors.what)}
        helperText={formState.errors.what?.message}
      />
      <NativeSelect label={say("toWhichFault")} {...register("faultId")} value={faultId}>
        <option value="">{say("noNamedFault")}</option>
        {open.map((f) => (
          <option key={f.id} value={f.id}>
            {`${f.number}. ${placeWords(f.place)}: ${f.kind}`}
          </option>
        ))}
      </NativeSelect>
      <TextField
        label={say("minutes")}
        {...register("minutes", { validate: (v) => /^\d{1,4}$/.test(v) || say("wholeMinutes") })}
        error={Boolean(formState.errors.minutes)}
        helperText={formState.errors.minutes?.message ?? say("countedWhileOpen")}
        slotProps={{ htmlInput: { inputMode: "numeric" } }}
      />
      <NativeSelect
        label={say("byWhichRoute")}
        {...register("route")}
        value={route}
        onChange={(e) => follow(e.target.value)}
        helperText={faultId ? say("itsOddsLearnFromTheRetest") : say("chooseAFaultFirst")}
      >
        <option value="">{say("noneOfTheCatalogue")}</option>
        {offered.map((r) => (
          <option key={r.id} value={r.id}>
            {r.name}
          </option>
        ))}
      </NativeSelect>
      <TextField
        label={say("partUsed")}
        {...register("part")}
        slotProps={{ inputLabel: part ? { shrink: true } : {} }}
        helperText={
          chosen?.part ? (
            <>
              {say("usualHerePartPartMinor", { part: chosen.part, partMinor: money(chosen.partMinor, view.settings) })}{" "}
              <Button size="small" onClick={takeUsual} sx={{ py: 0, minHeight: 0 }}>
                {say("itWasThis")}
              </Button>
            </>
          ) : undefined
        }
      />
      <TextField
        label={say("itsCostCurrency", { currency: view.settings.currency })}
        {...register("partCost", { validate: (t) => parseAmount(t) !== null || say("anAmountSuchAs260") })}
        error={Boolean(formState.errors.partCost)}
        helperText={formState.errors.partCost?.message}
        slotProps={{ htmlInput: { inputMode: "decimal" } }}
      />
      {onShelf.length > 0 && (
        <NativeSelect
          label={say("pieceFromTheShelf")}
          {...register("shelf")}
          value={shelf}
          sx={{ gridColumn: "1 / -1" }}
          helperText={shelf ? say("itsNameAndCostAreThe") : say("noneIsTakenOff")}
        >
          <option value="">{say("none")}</option>
          {onShelf.map((s) => (
            <option key={`${s.batchId} ${s.slot}`} value={`${s.batchId} ${s.slot}`}>
              {`${s.batch}, ${s.name}${s.mine ? say("putAsideForIt") : ""}`}
            </option>
          ))}
        </NativeSelect>
      )}
      <TextField label={say("remark")} {...register("remark")} sx={{ gridColumn: { sm: "1 / 3" } }} />
      <TextField label={say("aGiftFrom")} {...register("partGift")} helperText={say("countsForTheJobCostsNo")} />
      <NativeSelect label={say("whyTheFaultCame")} {...register("cause")} disabled={!faultId}>
        {CAUSES.map((c) => (
          <option key={c} value={c}>
            {CAUSE_WORDS[c]}
          </option>
        ))}
      </NativeSelect>
      <TextField label={say("goodForNowFallsBackOn")} {...register("fallback")} />
      <Controller
        control={control}
        name="reviewOn"
        rules={{ validate: (d, all) => !all.fallback.trim() || isDay(d) || say("nameTheDay") }}
        render={({ field: { value, onChange } }) => (
          <DateField
            label={say("lookAgainOn")}
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
          aria-label={say("marksThatWentWithIt")}
          sx={{ gridColumn: "1 / -1", display: "flex", flexWrap: "wrap", columnGap: 2, alignItems: "center" }}
        >
          <span>{say("wentWithItOfTheMarks")}</span>
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
                label={`${codeWords(kind)}, ${placeAt(view.profile, { x, y })}`}
              />
            );
          })}
        </Box>
      )}
      <Box sx={{ gridColumn: "1 / -1", display: "flex", gap: 2, flexWrap: "wrap", alignItems: "center" }}>
        <Button type="submit" variant="contained" size="large" disabled={deed.running}>
          {say("logIt")}
        </Button>
        <FormControlLabel control={<Checkbox {...register("opened")} defaultChecked />} label={say("theUnitWasOpen")} />
        {faultId && (
          <FormControlLabel
            control={<Checkbox {...register("settlesFault")} defaultChecked />}
            label={say("theRetestIsGoodThisMends")}
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
        <TextField label={say("whatWasDone")} value={v.what} onChange={(e) => setV({ ...v, what: e.target.value })} autoFocus />
        <TextField label={say("partUsed")} value={v.part} onChange={(e) => setV({ ...v, part: e.target.value })} />
        <TextField
          label={say("minutes")}
          value={v.minutes}
          onChange={(e) => setV({ ...v, minutes: e.target.value.replace(/\D/g, "") })}
        />
        <TextField
          label={say("remark")}
          value={v.remark}
          onChange={(e) => setV({ ...v, remark: e.target.value })}
          sx={{ gridColumn: "1 / -1" }}
        />
        <Box sx={{ display: "flex", gap: 1, gridColumn: "1 / -1" }}>
          <Button type="submit" variant="contained" disabled={edit.running}>
            {say("save")}
          </Button>
          <Button onClick={() => setV(null)}>{say("cancel")}</Button>
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
        <Box sx={{ fontSize: "0.8rem", color: "text.secondary" }}>{say("minutes2")}</Box>
      </Box>
      <Box>
        <Box sx={{ fontWeight: 700 }}>{mend.what}</Box>
        <Box sx={{ color: "text.secondary", fontSize: "0.92rem" }}>
          {fault && say("faultNumberPlace", { number: fault.number, place: placeWords(fault.place) })}
          {mend.part && say("partPart", { part: mend.part })}
          {mend.remark && `${mend.remark}. `}
          {fault && fault.cause !== "not-known" && say("causeCause", { cause: CAUSE_WORDS[fault.cause] })}
          {mend.provisional &&
            say("goodForNowFallsBackOn2", {
              fallback: mend.provisional.fallback,
              reviewOn: day(mend.provisional.reviewOn, view.settings),
            })}
          {mend.opened ? say("open") : say("closed")}
          {mend.by}, {dayAndTime(mend.at, view.settings)}
          {after
            ? say("afterThePurposeOfStartedAt", {
                purpose: after.purpose === "full" ? say("fullTest") : say("quickLook"),
                startedAt: dayAndTime(after.startedAt, view.settings),
              })
            : say("beforeAnyTest")}
        </Box>
      </Box>
      {canEdit && (
        <Button
          size="small"
          onClick={() => setV({ what: mend.what, part: mend.part, minutes: String(mend.minutes), remark: mend.remark })}
        >
          {say("edit")}
        </Button>
      )}
    </Box>
  );
}
