"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Link from "next/link";
import { usePathname } from "next/navigation";

const TABS = [
  ["", "Work and log"],
  ["/map", "Fastener map"],
  ["/solder", "Solder"],
  ["/calibrate", "Calibrate"],
  ["/notes", "Notes"],
] as const;

/** The pages of the Mend station. */
export function MendTabs({ tag }: { tag: string }) {
  const path = usePathname();
  const base = `/units/${tag}/mend`;
  return (
    <Box component="nav" aria-label="Mend" sx={{ display: "flex", gap: 0.5, flexWrap: "wrap", mb: 2 }}>
      {TABS.map(([end, name]) => (
        <Button
          key={end}
          component={Link}
          href={base + end}
          size="small"
          variant={path === base + end ? "contained" : "text"}
          aria-current={path === base + end ? "page" : undefined}
        >
          {name}
        </Button>
      ))}
    </Box>
  );
}
