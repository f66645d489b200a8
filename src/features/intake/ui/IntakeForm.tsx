"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Typography from "@mui/material/Typography";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { Controller, useForm, useWatch } from "react-hook-form";

import type { Origin } from "@/contract/intake";
import type { Settings } from "@/contract/deeds";
import { addUp, parseAmount, parseOptional } from "@/core/money/money";
import type { ModelProfile } from "@/core/profile/profile";
import { money, typedAmount } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { ConditionFields } from "./ConditionFields";
import { dropDraft, keepDraft, readDraft, typedBefore, typedUntilNow } from "./draft";
import { ModelField, modelMeant, modelProblem } from "./ModelField";
import { CustomerDialog, LotDialog } from "./OriginDialogs";
import { say } from "@/features/intake/words/words";
import { slotsOf } from "@/ui/form/slots";
import { fieldRule, fieldWrong } from "@/ui/form/typed";
import { EMPTY, type IntakeFields } from "./fields";

type Props = {
  models: ModelProfile[];
  lots: { id: string; code: string; seller: string }[];
  customers: { id: string; name: string }[];
  nextTag: string;
  /** how many of the nine trays are free */
  freeTrays: number;
  shop: Settings;
  /** the kept listing that it came from: its words, price and seller are filled in */
  listing: {
    id: string;
    modelKey: string;
    words: string;
    seller: string;
    priceMinor: number;
    carriageMinor: number;
  } | null;
};

const FORM = "intake";
/** A field that was filled in by us keeps its label out of the way. */
const labelOver = (value: string) => (value ? { inputLabel: { shrink: true } } : {});

type Way =
  | "origin.seller"
  | "origin.priceMinor"
  | "origin.carriageMinor"
  | "intake.costLimitMinor"
  | "intake.differs"
  | "claim";
/** The deed's own rule for a field, where something is typed. */
const fits = (way: Way) => (v: string) => v.trim() === "" || (fieldWrong("unit.take-in", way, v) ?? true);
const must = (way: Way) => (v: string) => fieldWrong("unit.take-in", way, v) ?? true;
const slots = (way: Way, value: string) => ({
  ...slotsOf(fieldRule("unit.take-in", way), undefined),
  ...labelOver(value),
});

function originOf(f: IntakeFields): Origin {
  if (f.source === "lot") return { source: "lot", lotId: f.lotId };
  if (f.source === "customer") return { source: "customer", customerId: f.customerId };
  return {
    source: "single",
    seller: f.seller,
    priceMinor: parseAmount(f.price) ?? 0,
    carriageMinor: parseOptional(f.carriage) ?? 0,
  };
}

/** What comes with a model when nothing is known to be missing. */
const ofModel = (
  model: ModelProfile | null,
): Pick<IntakeFields, "model" | "modelText" | "revision" | "accessories"> => ({
  model,
  modelText: model?.name ?? "",
  revision: model?.revisions.length === 1 ? model.revisions[0]!.id : "",
  accessories: model?.accessories.map((a) => a.id) ?? [],
});

function fromListing(l: NonNullable<Props["listing"]>, models: ModelProfile[]): IntakeFields {
  const model = models.find((m) => m.id === l.modelKey) ?? null;
  return {
    ...EMPTY,
    ...ofModel(model),
    seller: l.seller,
    claim: l.words,
    price: typedAmount(l.priceMinor),
    carriage: typedAmount(l.carriageMinor),
  };
}

/** What happens at it: state, deeds and keys of IntakeForm. */
function useIntake({ models, lots, customers, nextTag, freeTrays, shop, listing }: Props) {
  const router = useRouter();
  const [seenEarly] = useState(() => typedBefore(FORM));
  const [restored, setRestored] = useState(false);
  const { control, register, handleSubmit, setValue, reset, formState } = useForm<IntakeFields>({
    defaultValues: listing ? fromListing(listing, models) : EMPTY,
  });
  const takeIn = useDeed("unit.take-in");
  const [dialog, setDialog] = useState<"lot" | "customer" | null>(null);
  const [taken, setTaken] = useState<string | null>(null);
  const f = useWatch({ control }) as IntakeFields;
  const listingId = listing?.id ?? null;
  /** The fields as they were left, and over them what was typed before the page was alive. */
  useEffect(() => {
    const typedEarly = typedUntilNow(FORM, seenEarly);
    const draft = readDraft(listingId);
    const { modelId = null, ...kept } = draft ?? {};
    const early = Object.fromEntries(
      Object.entries(typedEarly).filter(([name]) => name in EMPTY && name !== "model"),
    );
    if (!draft && Object.keys(typedEarly).length === 0) return;
    const start = listing ? fromListing(listing, models) : EMPTY;
    // words that are still being typed are read when the field is left, as ever
    const typing = document.activeElement?.getAttribute("name") === "model";
    const meant = typedEarly.model && !typing ? modelMeant(typedEarly.model, models) : null;
    const known = typedEarly.model ? meant : (models.find((m) => m.id === modelId) ?? start.model);
    reset(
      {
        ...start,
        ...kept,
        ...(meant ? ofModel(meant) : {}),
        ...early,
        model: known,
        modelText: meant?.name ?? typedEarly.model ?? draft?.modelText ?? start.modelText,
      },
      { keepDefaultValues: true },
    );
    // eslint-disable-next-line react-hooks/set-state-in-effect -- this window's own store is there only after hydration
    setRestored(draft !== null);
  }, [reset, listing, listingId, models, seenEarly]);
  const changed = formState.isDirty || restored;
  useEffect(() => {
    if (changed) keepDraft(listingId, f);
  }, [changed, listingId, f]);
  const startAnew = () => {
    dropDraft();
    setRestored(false);
    reset(listing ? fromListing(listing, models) : EMPTY);
  };
  const { errors } = formState;
  const model = f.model;
  const missing = model?.accessories.filter((a) => !f.accessories.includes(a.id)) ?? [];

  const save = (another: boolean) =>
    handleSubmit(async (v) => {
      const done = await takeIn.run({
        profileKey: v.model!.id,
        revision: v.revision || null,
        origin: originOf(v),
        claim: v.claim,
        swollen: v.swollen,
        liquid: v.liquid,
        intake: {
          v: 1,
          smell: v.smell,
          grime: v.grime,
          rattle: v.rattle,
          openedBefore: v.openedBefore,
          history: v.history,
          remark: v.remark,
          marks: v.marks,
          accessories: v.accessories,
          parcel: v.parcel,
          differs: v.differs,
          costLimitMinor: v.source === "customer" && v.costLimit.trim() ? parseAmount(v.costLimit) : null,
          use: v.use,
        },
        toTray: !another,
        listingId: listing?.id ?? null,
      });
      if (!done?.ok) return;
      dropDraft();
      setRestored(false);
      if (another) {
        setTaken(done.value.tag);
        // the next one out of a lot is most often another of the same
        const same = v.source === "lot" ? ofModel(v.model) : {};
        reset({
          ...EMPTY,
          ...same,
          source: v.source,
          lotId: v.lotId,
          customerId: v.customerId,
          seller: v.seller,
        });
      } else router.push(`/units/${done.value.tag}${v.swollen ? "/intake" : ""}`);
    });

  const takeInWords = () => {
    if (f.swollen) return say("takeInToQuarantine");
    if (freeTrays > 0) return say("takeInToATray");
    return say("takeInWithoutATray");
  };
  return {
    models,
    lots,
    customers,
    nextTag,
    freeTrays,
    shop,
    restored,
    control,
    register,
    setValue,
    takeIn,
    dialog,
    setDialog,
    taken,
    f,
    startAnew,
    errors,
    model,
    missing,
    save,
    takeInWords,
  };
}
type IntakeState = ReturnType<typeof useIntake>;

/** Takes a unit in at the door, by keyboard alone. */
export function IntakeForm(props: Props) {
  const s = useIntake(props);
  const { control, register, setValue, dialog, setDialog, f, model, save } = s;

  return (
    <Box
      component="form"
      data-form={FORM}
      autoComplete="off"
      onSubmit={save(false)}
      noValidate
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,1fr) minmax(0,1.15fr)" },
        columnGap: 4,
        rowGap: 2,
        maxWidth: 1240,
      }}
    >
      <NextTag {...s} />

      <Box sx={{ display: "grid", gap: 1.7, alignContent: "start" }}>
        <ModelAndRevision {...s} />
        {model && model.revisions.length > 1 && (
          <Typography variant="body2" color="text.secondary">
            {model.revisions.map((r) => `${r.name}: ${r.outside}`).join("  ·  ")}
          </Typography>
        )}
        <SourceChoice {...s} />
        <SingleOrigin {...s} />
        <LotOrigin {...s} />
        <CustomerOrigin {...s} />
        <TextField
          label={f.source === "customer" ? say("theCustomerSWords") : say("theSellerSWords")}
          multiline
          minRows={2}
          {...register("claim")}
          slotProps={slots("claim", f.claim)}
          helperText={say("keptAsTheyAreApartFrom")}
        />
        <PromisedAndParcel {...s} />
        <CameWithIt {...s} />
      </Box>

      <Box sx={{ display: "grid", gap: 1.5, alignContent: "start" }}>
        <ConditionFields
          control={control}
          register={register}
          profile={model}
          revision={f.revision || null}
          swollen={f.swollen}
          liquid={f.liquid}
          history={f.history}
        />
      </Box>

      <TakeInButtons {...s} />
      <LotDialog
        open={dialog === "lot"}
        onClose={() => setDialog(null)}
        onAdded={(id) => setValue("lotId", id)}
      />
      <CustomerDialog
        open={dialog === "customer"}
        onClose={() => setDialog(null)}
        onAdded={(id) => setValue("customerId", id)}
      />
    </Box>
  );
}

function NextTag({ nextTag, restored, startAnew, taken }: IntakeState) {
  return (
    <Box sx={{ gridColumn: "1 / -1", display: "flex", alignItems: "baseline", gap: 2 }}>
      <Typography component="h1" sx={{ fontSize: "2.2rem", fontWeight: 800, lineHeight: 1 }}>
        {nextTag}
      </Typography>
      <Typography color="text.secondary">{say("theNextTag")}</Typography>
      {restored && (
        <Typography component="div" color="text.secondary" role="status">
          {say("asYouLeftIt")}{" "}
          <Button size="small" onClick={startAnew}>
            {say("startAnew")}
          </Button>
        </Typography>
      )}
      {taken && (
        <Alert severity="success" sx={{ ml: "auto", py: 0 }}>
          {say("takenIsTakenIn", { taken })}
        </Alert>
      )}
    </Box>
  );
}

function ModelAndRevision({ control, models, f, setValue, register, model }: IntakeState) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.5 }}>
      <Controller
        control={control}
        name="model"
        rules={{ validate: (m, all) => m !== null || modelProblem(all.modelText, models) }}
        render={({ field, fieldState }) => (
          <ModelField
            models={models}
            value={field.value}
            text={f.modelText}
            onText={(text) => setValue("modelText", text, { shouldDirty: true })}
            onPick={(m) => {
              if (m?.id === field.value?.id) return;
              field.onChange(m);
              setValue("revision", ofModel(m).revision);
              setValue("accessories", ofModel(m).accessories);
              setValue("marks", []);
            }}
            onLeave={field.onBlur}
            problem={
              fieldState.error?.message ??
              (fieldState.isTouched && !field.value && f.modelText.trim()
                ? modelProblem(f.modelText, models)
                : null)
            }
            inputRef={field.ref}
          />
        )}
      />
      <NativeSelect label={say("revision")} {...register("revision")} disabled={!model} value={f.revision}>
        <option value="">{say("notKnownYet")}</option>
        {model?.revisions.map((r) => (
          <option key={r.id} value={r.id}>
            {r.name}
          </option>
        ))}
      </NativeSelect>
    </Box>
  );
}

function SourceChoice({ control }: IntakeState) {
  return (
    <Controller
      control={control}
      name="source"
      render={({ field }) => (
        <ToggleButtonGroup
          exclusive
          value={field.value}
          onChange={(_e, v: IntakeFields["source"] | null) => v && field.onChange(v)}
          aria-label={say("source")}
          fullWidth
        >
          <ToggleButton value="single">{say("boughtSingle")}</ToggleButton>
          <ToggleButton value="lot">{say("fromALot")}</ToggleButton>
          <ToggleButton value="customer">{say("customerS")}</ToggleButton>
        </ToggleButtonGroup>
      )}
    />
  );
}

function SingleOrigin({ f, register, shop, errors }: IntakeState) {
  return (
    f.source === "single" && (
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr 1fr", sm: "2fr 1fr 1fr" }, gap: 1.5 }}>
        <TextField
          label={say("seller")}
          {...register("seller")}
          slotProps={slots("origin.seller", f.seller)}
          sx={{ gridColumn: { xs: "1 / -1", sm: "auto" } }}
        />
        <TextField
          label={say("priceCurrency", { currency: shop.currency })}
          {...register("price", { validate: must("origin.priceMinor") })}
          error={Boolean(errors.price)}
          helperText={errors.price?.message}
          slotProps={slots("origin.priceMinor", f.price)}
        />
        <TextField
          label={say("carriage")}
          {...register("carriage", { validate: fits("origin.carriageMinor") })}
          error={Boolean(errors.carriage)}
          helperText={errors.carriage?.message ?? say("emptyIsNone")}
          slotProps={slots("origin.carriageMinor", f.carriage)}
        />
      </Box>
    )
  );
}

function LotOrigin({ f, register, errors, lots, setDialog }: IntakeState) {
  return (
    f.source === "lot" && (
      <Box sx={{ display: "flex", gap: 1 }}>
        <NativeSelect
          label={say("lot")}
          {...register("lotId", { required: say("whichLot") })}
          value={f.lotId}
          error={Boolean(errors.lotId)}
          helperText={errors.lotId?.message}
        >
          <option value="">{say("choose")}</option>
          {lots.map((l) => (
            <option key={l.id} value={l.id}>{`${l.code}, ${l.seller}`}</option>
          ))}
        </NativeSelect>
        <Button onClick={() => setDialog("lot")}>{say("newLot")}</Button>
      </Box>
    )
  );
}

function CustomerOrigin({ f, register, errors, customers, setDialog }: IntakeState) {
  return (
    f.source === "customer" && (
      <Box sx={{ display: "flex", gap: 1 }}>
        <NativeSelect
          label={say("customer")}
          {...register("customerId", { required: say("whoseIsIt") })}
          value={f.customerId}
          error={Boolean(errors.customerId)}
          helperText={errors.customerId?.message}
        >
          <option value="">{say("choose")}</option>
          {customers.map((c) => (
            <option key={c.id} value={c.id}>
              {c.name}
            </option>
          ))}
        </NativeSelect>
        <Button onClick={() => setDialog("customer")}>{say("newCustomer")}</Button>
      </Box>
    )
  );
}

function PromisedAndParcel({ f, shop, register, errors }: IntakeState) {
  return f.source === "customer" ? (
    <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.5 }}>
      <TextField
        label={say("theyPayAtMostCurrency", { currency: shop.currency })}
        {...register("costLimit", { validate: fits("intake.costLimitMinor") })}
        error={Boolean(errors.costLimit)}
        helperText={errors.costLimit?.message ?? say("emptyWhenTheyNamedNone")}
        slotProps={slots("intake.costLimitMinor", f.costLimit)}
      />
      <NativeSelect label={say("usedFor")} {...register("use")} value={f.use}>
        <option value="unknown">{say("notAsked")}</option>
        <option value="play">{say("casualPlay")}</option>
        <option value="precise">{say("preciseAiming")}</option>
        <option value="own-testing">{say("ownTesting")}</option>
      </NativeSelect>
    </Box>
  ) : (
    <Box sx={{ display: "grid", gridTemplateColumns: "1fr 2fr", gap: 1.5 }}>
      <NativeSelect label={say("parcel")} {...register("parcel")} value={f.parcel}>
        <option value="not-noted">{say("notNoted")}</option>
        <option value="sound">{say("wellPacked")}</option>
        <option value="poor">{say("poorlyPacked")}</option>
        <option value="damaged">{say("damaged")}</option>
      </NativeSelect>
      <TextField
        label={say("notAsPromised")}
        {...register("differs")}
        slotProps={slots("intake.differs", f.differs)}
      />
    </Box>
  );
}

function CameWithIt({ model, control, missing, shop }: IntakeState) {
  return (
    model &&
    model.accessories.length > 0 && (
      <Box>
        <Typography variant="h3" component="h2">
          {say("cameWithIt")}
        </Typography>
        <Controller
          control={control}
          name="accessories"
          render={({ field }) => (
            <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 2 }}>
              {model.accessories.map((a) => (
                <FormControlLabel
                  key={a.id}
                  control={
                    <Checkbox
                      checked={field.value.includes(a.id)}
                      onChange={(e) =>
                        field.onChange(
                          e.target.checked ? [...field.value, a.id] : field.value.filter((x) => x !== a.id),
                        )
                      }
                    />
                  }
                  label={a.name}
                />
              ))}
            </Box>
          )}
        />
        <Typography
          color={missing.length ? "caution.main" : "text.secondary"}
          sx={{ fontWeight: missing.length ? 700 : 400 }}
        >
          {missing.length
            ? say("missingMissingTogetherMissing2", {
                missing: missing.map((a) => `${a.name} ${money(a.costMinor, shop)}`).join(", "),
                missing2: money(addUp(missing.map((a) => a.costMinor)), shop),
              })
            : say("nothingIsMissing")}
        </Typography>
      </Box>
    )
  );
}

function TakeInButtons({ takeIn, takeInWords, save, freeTrays, f }: IntakeState) {
  return (
    <Box sx={{ gridColumn: "1 / -1", display: "flex", gap: 1.5, alignItems: "center", flexWrap: "wrap" }}>
      <Button type="submit" variant="contained" size="large" disabled={takeIn.running}>
        {takeInWords()}
      </Button>
      <Button size="large" onClick={save(true)} disabled={takeIn.running}>
        {say("takeInThenAnother")}
      </Button>
      <Typography color="text.secondary">
        {freeTrays === 0 && !f.swollen && <b>{say("allNineTraysAreTakenIt")} </b>}
        {say("photographsFollowOnTheUnitS")}
      </Typography>
      <Box sx={{ flexBasis: "100%" }}>
        <Problem problem={takeIn.problem} />
      </Box>
    </Box>
  );
}
