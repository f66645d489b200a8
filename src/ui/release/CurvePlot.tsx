import Box from "@mui/material/Box";

/** A stick's edge unrolled over the angle, or a trigger's travel over time: before dashed, now solid. Drawn on the server. */
type Points = readonly (readonly [number, number])[];

export function CurvePlot({ now, before, kind }: { now: Points; before: Points; kind: "stick" | "trigger" }) {
  const all = [...now, ...before];
  const right = kind === "stick" ? 360 : Math.max(1, ...all.map(([x]) => x));
  const low = kind === "stick" ? Math.min(0.75, ...all.map(([, y]) => y)) : -0.04;
  const high = kind === "stick" ? Math.max(1.2, ...all.map(([, y]) => y)) : Math.max(1.06, ...all.map(([, y]) => y));
  const [w, h] = [300, 84];
  const X = (x: number) => (x / right) * w;
  const Y = (y: number) => h - ((y - low) / (high - low)) * h;
  const path = (ps: Points) => ps.map(([x, y], i) => `${i ? "L" : "M"}${X(x).toFixed(1)} ${Y(y).toFixed(1)}`).join("");
  const reach = (ps: Points) => (ps.length ? `${Math.round(Math.max(...ps.map(([, y]) => y)) * 100)} %` : "not measured");
  return (
    <Box sx={{ my: 0.5 }}>
      <svg
        viewBox={`0 0 ${w} ${h}`}
        width="100%"
        role="img"
        aria-label={`${kind === "stick" ? "Edge over the angle" : "Travel over time"}: now up to ${reach(now)}${before.length ? `, before up to ${reach(before)}` : ""}`}
        style={{ display: "block", border: "1px solid var(--mui-palette-divider)", borderRadius: 4 }}
      >
        <line x1="0" x2={w} y1={Y(1)} y2={Y(1)} stroke="var(--mui-palette-divider)" strokeWidth="1" />
        {before.length > 0 && (
          <path d={path(before)} fill="none" stroke="var(--mui-palette-text-secondary)" strokeWidth="1.4" strokeDasharray="4 3" />
        )}
        <path d={path(now)} fill="none" stroke="var(--mui-palette-primary-main)" strokeWidth="2.2" />
      </svg>
      <Box sx={{ fontSize: "0.78rem", color: "text.secondary" }}>
        {kind === "stick" ? "Reach over the angle, from right round to right" : "Travel of a slow pull"}
        {before.length > 0 && "; dashed as it came"}
      </Box>
    </Box>
  );
}
