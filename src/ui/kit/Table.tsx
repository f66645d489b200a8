import Box from "@mui/material/Box";
import type { ReactNode } from "react";

import { FIGURES } from "@/ui/figures";
import { SIZE } from "@/ui/tokens";

/** A plain table that scrolls sideways on a narrow page. */
export function Table({
  heads,
  children,
  label,
  minWidth = 560,
}: {
  heads: string[];
  children: ReactNode;
  label: string;
  minWidth?: number;
}) {
  return (
    <Box sx={{ overflowX: "auto" }} tabIndex={0} role="region" aria-label={label}>
      <Box
        component="table"
        sx={{
          borderCollapse: "collapse",
          width: "100%",
          minWidth,
          "& td, & th": {
            py: 0.6,
            pr: 2,
            textAlign: "left",
            borderTop: 1,
            borderColor: "divider",
            verticalAlign: "top",
          },
          "& th": { borderTop: 0, color: "text.secondary", fontWeight: 600, fontSize: SIZE.small },
        }}
      >
        <thead>
          <tr>
            {heads.map((h) => (
              <th key={h}>{h}</th>
            ))}
          </tr>
        </thead>
        <tbody>{children}</tbody>
      </Box>
    </Box>
  );
}

export function Figure({ children, big = false }: { children: ReactNode; big?: boolean }) {
  return (
    <Box
      component="span"
      sx={{ fontFamily: FIGURES, fontWeight: 700, fontSize: big ? SIZE.figure : SIZE.body, lineHeight: 1.1 }}
    >
      {children}
    </Box>
  );
}
