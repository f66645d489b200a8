"use client";

import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import dynamic from "next/dynamic";

import type { Grade } from "@/core/grade/grade";
import type { Limits } from "@/core/grade/limits";
import type { Plots } from "@/core/plots/plots";
import { type ModelProfile, rulesOf } from "@/core/profile/profile";
import type { Analysis } from "@/core/analyse/analyse";
import { figuresOf, measureName } from "@/text/measures";
import { FIGURES } from "@/ui/figures";
import { StateMark, stateOfGrade } from "@/ui/state/StateMark";
import { say } from "@/features/test/words/words";
import { figure } from "@/text/format";
import { SIZE } from "@/ui/tokens";
import { Block } from "@/ui/kit/layout";
import type { Healthy } from "@/features/test/readings";
import { evidenceOf, type StickView } from "./Evidence";

const Charts = {
  Edge: dynamic(() => import("@/ui/charts/charts").then((m) => m.EdgePlot), { ssr: false }),
};

export type Side = { analysis: Analysis; plots: Plots };
type Props = {
  title: string;
  name: string;
  id: string;
  profile: ModelProfile;
  house: Limits;
  before: Side | null;
  after: Side;
  healthy: Healthy;
  heads?: readonly [string, string];
};

/** What one control did in two recordings, side by side, each as it was; a stick's middle beneath its travel. */
function SideBySide({
  id,
  sides,
  limits,
  healthy,
}: {
  id: string;
  sides: { head: string; side: Side }[];
  limits: Limits;
  healthy: Healthy;
}) {
  const views: readonly (StickView | undefined)[] =
    sides[0]?.side.analysis.controls[id]?.kind === "stick" ? ["travel", "middle"] : [undefined];
  return views.map((view) => (
    <Box
      key={view ?? "all"}
      sx={{
        mb: 2,
        display: "grid",
        gap: 2,
        gridTemplateColumns: "repeat(auto-fit, minmax(240px, 340px))",
      }}
    >
      {sides.map(({ head, side }) => {
        const result = side.analysis.controls[id];
        const drawn =
          result && evidenceOf({ id, result, plots: side.plots, limits, healthy, ...(view ? { view } : {}) });
        return (
          drawn && (
            <figure key={head} style={{ margin: 0 }}>
              {drawn}
              <figcaption>{head}</figcaption>
            </figure>
          )
        );
      })}
    </Box>
  ));
}

/** Two recordings of one control laid over each other: the figures and their change, and the plots. */
export function Compare({
  title,
  name,
  id,
  profile,
  house,
  before,
  after,
  healthy,
  heads = [say("before"), say("after")],
}: Props) {
  const limits = rulesOf(profile, house).limitsFor(id);
  const now = after.analysis.controls[id];
  const was = before?.analysis.controls[id];
  if (!now) return <Typography>{say("nameNotTested", { name })}</Typography>;
  const then = was ? figuresOf(was, limits) : [];
  return (
    <Box
      component="section"
      aria-label={title}
      sx={{ bgcolor: "background.paper", border: 1, borderColor: "divider", borderRadius: 1, p: 2, mt: 1 }}
    >
      <Typography
        component="h3"
        sx={{
          fontSize: SIZE.title,
          fontWeight: 700,
          mb: 1,
          "&::first-letter": { textTransform: "uppercase" },
        }}
      >
        {name}
      </Typography>
      <SideBySide
        id={id}
        sides={[
          ...(was && before ? [{ head: heads[0], side: before }] : []),
          { head: heads[1], side: after },
        ]}
        limits={limits}
        healthy={healthy}
      />
      <Box sx={{ overflowX: "auto" }}>
        <Box
          component="table"
          sx={{
            width: "100%",
            borderCollapse: "collapse",
            "& td, & th": { py: 0.6, pr: 2, borderBottom: 1, borderColor: "divider", textAlign: "left" },
            "& th": { fontWeight: 600, color: "text.secondary", fontSize: SIZE.small },
          }}
        >
          <thead>
            <tr>
              <th>{say("measure")}</th>
              <th>{heads[0]}</th>
              <th>{heads[1]}</th>
              <th>{say("change")}</th>
              <th>{say("gradeA")}</th>
            </tr>
          </thead>
          <tbody>
            {figuresOf(now, limits).map((f) => {
              const b = then.find((x) => x.measure === f.measure);
              return (
                <tr key={f.measure}>
                  <td>{measureName(f.measure)}</td>
                  <Figure grade={b?.grade ?? null}>{b?.value ?? say("noEarlierTest")}</Figure>
                  <Figure grade={f.grade} big>
                    {f.value}
                  </Figure>
                  <td>{change(b?.value, f.value)}</td>
                  <td>{f.limit}</td>
                </tr>
              );
            })}
          </tbody>
        </Box>
      </Box>
      {now.kind === "stick" && now.profile && (
        <Block before={2}>
          <Charts.Edge
            profile={now.profile}
            before={was?.kind === "stick" ? was.profile : null}
            limits={limits.stick}
          />
          {was?.kind === "stick" && (
            <Typography variant="body2" color="text.secondary">
              {say("dottedHeads", { heads: heads[0].toLowerCase() })}
            </Typography>
          )}
        </Block>
      )}
    </Box>
  );
}

function Figure({ grade, big, children }: { grade: Grade | null; big?: boolean; children: React.ReactNode }) {
  return (
    <td>
      <Box
        sx={{
          display: "flex",
          gap: 0.8,
          alignItems: "center",
          fontFamily: FIGURES,
          fontWeight: 700,
          fontSize: big ? SIZE.title : SIZE.body,
        }}
      >
        {grade && <StateMark state={stateOfGrade(grade)} size={16} />}
        {children}
      </Box>
    </td>
  );
}

/** The change between two figures in the same unit; words when one of them is no number. */
function change(before: string | undefined, after: string): string {
  const b = /^(-?[\d.]+)( %)?$/.exec(before ?? "");
  const a = /^(-?[\d.]+)( %)?$/.exec(after);
  if (!a || !b) return before === after ? say("same") : "";
  const d = Number(a[1]) - Number(b[1]);
  if (d === 0) return say("same");
  return `${d > 0 ? "+" : "−"}${figure(Math.abs(d), a[2] ? 1 : 0)}${a[2] ? say("points") : ""}`;
}
