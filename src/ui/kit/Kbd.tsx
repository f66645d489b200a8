import Box from "@mui/material/Box";

/** A key as it stands on the keyboard. */
export function Kbd({ children }: { children: string }) {
  return (
    <Box
      component="kbd"
      sx={{
        fontFamily: "inherit",
        fontSize: "0.8em",
        fontWeight: 700,
        border: 1,
        borderColor: "divider",
        borderRadius: 1,
        px: 0.7,
        py: 0.1,
        bgcolor: "background.default",
        color: "text.secondary",
      }}
    >
      {children}
    </Box>
  );
}
