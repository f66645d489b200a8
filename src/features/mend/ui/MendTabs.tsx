"use client";

import Button from "@mui/material/Button";
import Link from "next/link";
import { usePathname } from "next/navigation";
import { say } from "@/features/mend/words/words";
import { Row } from "@/ui/kit/layout";

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
    <Row component="nav" aria-label={say("mend")} gap={0.5} after={2}>
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
    </Row>
  );
}
