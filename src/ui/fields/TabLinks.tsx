import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Link from "next/link";

/** The pages of one place as links in a row; the current one is underlined. */
export function TabLinks({
  label,
  tabs,
  current,
}: {
  label: string;
  tabs: readonly { id: string; name: string; href: string }[];
  current: string;
}) {
  return (
    <Box
      component="nav"
      aria-label={label}
      sx={{ display: "flex", gap: 0.5, overflowX: "auto", maxWidth: "100%" }}
    >
      {tabs.map(({ id, name, href }) => (
        <Button
          key={id}
          component={Link}
          href={href}
          color="inherit"
          aria-current={current === id ? "page" : undefined}
          sx={{
            borderRadius: 0,
            borderBottom: 3,
            borderColor: current === id ? "primary.main" : "transparent",
            whiteSpace: "nowrap",
            flexShrink: 0,
          }}
        >
          {name}
        </Button>
      ))}
    </Box>
  );
}
