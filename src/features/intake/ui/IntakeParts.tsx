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
import { Controller } from "react-hook-form";

import { CELLS, COVERS } from "@/contract/intake";
import { addUp } from "@/core/money/money";
import { say } from "@/features/intake/words/words";
import { money } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { MateFields, mateProblem } from "./MateFields";
import { ModelField, modelProblem } from "./ModelField";
import type { IntakeFields } from "./fields";
import { type IntakeState, fits, must, ofModel, slots } from "./useIntake";
import { codeWords } from "@/words/codes";
import { SIZE } from "@/ui/tokens";
import { Row } from "@/ui/kit/layout";

export function NextTag({ nextTag, restored, startAnew, taken }: IntakeState) {
  return (
    <Row gap={2} full oneLine at="baseline">
      <Typography component="h1" sx={{ fontSize: SIZE.big, fontWeight: 800, lineHeight: 1 }}>
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
    </Row>
  );
}

export function ModelAndRevision({ control, models, f, setValue, register, model }: IntakeState) {
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

export function SourceChoice({ control }: IntakeState) {
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

export function SingleOrigin({ f, register, shop, errors }: IntakeState) {
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

export function LotOrigin({ f, register, errors, lots, setDialog }: IntakeState) {
  return (
    f.source === "lot" && (
      <Row gap={1} oneLine>
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
        <TextField
          label={say("howManyEqual")}
          {...register("count", { validate: must("origin.count") })}
          error={Boolean(errors.count)}
          helperText={errors.count?.message}
          slotProps={slots("origin.count", f.count)}
          sx={{ width: 150, flexShrink: 0 }}
        />
        <Button onClick={() => setDialog("lot")}>{say("newLot")}</Button>
      </Row>
    )
  );
}

export function CustomerOrigin({ f, register, errors, customers, setDialog }: IntakeState) {
  return (
    f.source === "customer" && (
      <Row gap={1} oneLine>
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
      </Row>
    )
  );
}

export function PromisedAndParcel({ f, shop, register, errors }: IntakeState) {
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

/** What asks for more below the row of choices when it is chosen. */
const BELOW = { gridColumn: "1 / -1" };

/** In one row: cells or pack, the maker's cover and what it belongs with; what each asks for more stands below. */
export function CellsCoverMate({ f, register, control, model }: IntakeState) {
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "1fr", sm: "repeat(3, minmax(0, 1fr))" },
        gridAutoFlow: "dense",
        gap: 1.5,
      }}
    >
      <NativeSelect label={say("cellsOrPack")} {...register("cells")} value={f.cells}>
        {CELLS.map((c) => (
          <option key={c} value={c}>
            {codeWords(c)}
          </option>
        ))}
      </NativeSelect>
      {f.cells === "taken-out" && (
        <TextField
          label={say("whereTheyLie")}
          {...register("cellsAt", { validate: fits("intake.cellsAt") })}
          slotProps={slots("intake.cellsAt", f.cellsAt)}
          sx={BELOW}
        />
      )}
      <NativeSelect label={say("makersCover")} {...register("makersCover")} value={f.makersCover}>
        {COVERS.map((c) => (
          <option key={c} value={c}>
            {codeWords(c)}
          </option>
        ))}
      </NativeSelect>
      {f.makersCover === "runs" && (
        <TextField
          type="date"
          label={say("itsLastDay")}
          {...register("coverUntil")}
          slotProps={{ inputLabel: { shrink: true } }}
          sx={BELOW}
        />
      )}
      <Controller
        control={control}
        name="mate"
        rules={{ validate: (m: IntakeFields["mate"]) => mateProblem(m) ?? true }}
        render={({ field }) => <MateFields profile={model} mate={field.value} onChange={field.onChange} />}
      />
    </Box>
  );
}

export function CameWithIt({ model, control, missing, shop }: IntakeState) {
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

export function TakeInButtons({ takeIn, takeInWords, save, freeTrays, f }: IntakeState) {
  return (
    <Row gap={1.5} full at="center">
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
    </Row>
  );
}
