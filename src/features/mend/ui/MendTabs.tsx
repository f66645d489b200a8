"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Link from "next/link";
import { usePathname } from "next/navigation";
import { say } from "@/features/mend/words/words";

const TABS = [
  ["", say("workAndLog")],
  ["/map", say("fastenerMap")],
  ["/solder", say("solder")],
  ["/calibrate", say("calibrate")],
  ["/notes", say("notes")],
] as const;

/** The pages of the Mend station. */
export function MendTabs({ tag }: { tag: string }) {
  const path = usePathname();
  const base = `/units/${tag}/mend`;
  return (
    <Box component="nav" aria-label={say("mend")} sx={{ display: "flex", gap: 0.5, flexWrap: "wrap", mb: 2 }}>
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
