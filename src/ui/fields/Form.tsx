import Box, { type BoxProps } from "@mui/material/Box";

/** A form of a page: Enter in a field or its button sends it, and the page stays where it is. */
export function Form({
  onSend,
  ...rest
}: Omit<BoxProps<"form">, "component" | "onSubmit"> & { onSend: () => unknown }) {
  return (
    <Box
      component="form"
      onSubmit={(e) => {
        e.preventDefault();
        onSend();
      }}
      {...rest}
    />
  );
}
