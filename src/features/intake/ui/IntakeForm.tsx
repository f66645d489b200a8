"use client";

import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";

import { say } from "@/features/intake/words/words";
import { ConditionFields } from "./ConditionFields";
import {
  CameWithIt,
  CellsCoverMate,
  CustomerOrigin,
  LotOrigin,
  ModelAndRevision,
  NextTag,
  PromisedAndParcel,
  SingleOrigin,
  SourceChoice,
  TakeInButtons,
} from "./IntakeParts";
import { CustomerDialog, LotDialog } from "./OriginDialogs";
import { FORM, type Props, slots, useIntake } from "./useIntake";
import { Column } from "@/ui/kit/layout";

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

      <Column gap={1.5}>
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
        <CellsCoverMate {...s} />
      </Column>

      <Column gap={1.5}>
        <ConditionFields
          control={control}
          register={register}
          profile={model}
          revision={f.revision || null}
          swollen={f.swollen}
          liquid={f.liquid}
          opened={f.openedBefore}
          hands={f.handsLeft}
          history={f.history}
        />
      </Column>

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
