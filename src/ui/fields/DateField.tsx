import TextField, { type TextFieldProps } from "@mui/material/TextField";

import type { Settings } from "@/contract/deeds";
import { day } from "@/text/format";

const DAY = /^\d{4}-\d{2}-\d{2}$/;

/** A day, YYYY-MM-DD. The browser writes it in its own way, so the shop's way stands under it and nobody reads it wrong. */
export function DateField({
  shown,
  shop,
  helperText,
  slotProps,
  ...rest
}: Omit<TextFieldProps, "type"> & { shown: string; shop: Pick<Settings, "locale" | "timeZone" | "currency"> }) {
  const said = DAY.test(shown) ? day(`${shown}T12:00:00Z`, { ...shop, timeZone: "UTC" }) : "";
  return (
    <TextField type="date" {...rest} helperText={helperText ?? said} slotProps={{ ...slotProps, inputLabel: { shrink: true } }} />
  );
}
