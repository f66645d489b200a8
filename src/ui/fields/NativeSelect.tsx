import TextField, { type TextFieldProps } from "@mui/material/TextField";

/** A list to choose from, drawn by the browser itself: options as children, its label always above. */
export function NativeSelect(props: Omit<TextFieldProps, "select" | "slotProps">) {
  return (
    <TextField select slotProps={{ select: { native: true }, inputLabel: { shrink: true } }} {...props} />
  );
}
