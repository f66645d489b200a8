import Box from "@mui/material/Box";
import type { ReactNode } from "react";
import { FIGURES } from "@/ui/figures";
import { SIZE } from "@/ui/tokens";
import { Words } from "@/ui/kit/layout";

/** A station's page: the plan on the left (a third), the work on the right. */
export function Station({ plan, children }: { plan: ReactNode; children: ReactNode }) {
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(300px, 1fr) minmax(0, 2fr)" },
        gap: 3,
      }}
    >
      <Box sx={{ alignSelf: "start", position: { md: "sticky" }, top: 12 }}>{plan}</Box>
      <Box sx={{ minWidth: 0 }}>{children}</Box>
    </Box>
  );
}

/** The plan in its frame, with the height that a station gives it. */
export function PlanFrame({ children, height = 330 }: { children: ReactNode; height?: number | string }) {
  return (
    <Box
      sx={{
        height: { xs: 260, md: height },
        minHeight: 230,
        bgcolor: "background.paper",
        border: 1,
        borderColor: "divider",
        borderRadius: 1,
        p: 0.5,
      }}
    >
      {children}
    </Box>
  );
}

/** A measured figure: the largest thing where it stands, its label and limit small below. */
export function BigFigure({
  value,
  label,
  detail,
  colour,
}: {
  value: ReactNode;
  label: ReactNode;
  detail?: ReactNode;
  colour?: string;
}) {
  return (
    <Box sx={{ minWidth: 0 }}>
      <Box
        sx={{
          fontFamily: FIGURES,
          fontSize: SIZE.figure,
          fontWeight: 700,
          lineHeight: 1.1,
          letterSpacing: "-0.03em",
          color: colour,
        }}
      >
        {value}
      </Box>
      <Box sx={{ fontWeight: 600, fontSize: SIZE.body, display: "flex", gap: 0.7, alignItems: "center" }}>
        {label}
      </Box>
      {detail && (
        <Words size="small" quiet>
          {detail}
        </Words>
      )}
    </Box>
  );
}
