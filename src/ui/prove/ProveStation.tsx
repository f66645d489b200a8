"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import dynamic from "next/dynamic";
import Link from "next/link";
import { useState } from "react";

import type { Grade } from "@/core/grade/grade";
import { controlsOf, functionsOf, placeName, rulesOf } from "@/core/profile/profile";
import type { Analysis } from "@/core/signal/analyse";
import type { UnitView } from "@/service/views";
import { dayAndTime } from "@/text/format";
import { figuresOf, GRADE_WORDS, measureName } from "@/text/measures";
import { blockText, placeWords, TESTER_NAMES } from "@/text/words";
import { PlanView } from "@/ui/plan/PlanView";
import { stateColour, StateMark, stateOfGrade } from "@/ui/state/StateMark";
import { Functions } from "@/ui/test/Functions";
import { PlanFrame, Station } from "@/ui/unit/Station";
import { FIGURES } from "@/ui/figures";

const EdgePlot = dynamic(() => import("@/ui/charts/charts").then((m) => m.EdgePlot), { ssr: false });

type Proof = { id: string; analysis: Analysis; startedAt: string; grade: Grade; source: string; by: string };

/** Everything again, closed and complete: before and after side by side, and what still blocks the release. */
export function ProveStation({
  view,
  before,
  proof,
  canWork,
}: {
  view: UnitView;
  before: Proof | null;
  proof: Proof | null;
  canWork: boolean;
}) {
  const { unit, profile, blocks } = view;
  const controls = controlsOf(profile, unit.revision);
  const earlier = before && before.id !== proof?.id ? before : null;
  const gradeOf = (p: Proof | null, id: string): Grade => p?.analysis.controls[id]?.grade ?? "untested";
  const changed = controls.find((c) => earlier && gradeOf(earlier, c.id) !== gradeOf(proof, c.id));
  const [picked, setPicked] = useState<string | null>(null);
  const selected = controls.find((c) => c.id === picked) ?? changed ?? controls[0]!;
  const names = new Map([...controls, ...functionsOf(profile, unit.revision)].map((x) => [x.id, placeName(x)]));
  const open = canWork && unit.ending === null && !unit.swollen && (!unit.liquid || unit.liquid_cleared !== null);
  return (
    <Station
      plan={
        <>
          <PlanFrame>
            <PlanView
              profile={profile}
              revision={unit.revision}
              states={Object.fromEntries(controls.map((c) => [c.id, stateOfGrade(gradeOf(proof, c.id))]))}
              selected={selected.id}
              onPick={setPicked}
            />
          </PlanFrame>
          <Functions view={view} canWork={open} />
        </>
      }
    >
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 2, flexWrap: "wrap" }}>
        <Typography
          component="h2"
          sx={{
            fontSize: "2.4rem",
            fontWeight: 800,
            lineHeight: 1.1,
            color: proof ? stateColour(stateOfGrade(proof.grade)) : undefined,
          }}
        >
          {unit.ending
            ? `Closed: ${unit.ending.replaceAll("-", " ")}`
            : proof
              ? `Proof: ${GRADE_WORDS[proof.grade]}`
              : "Not proven"}
        </Typography>
        {proof && (
          <Typography color="text.secondary">
            {dayAndTime(proof.startedAt, view.settings)}, {proof.by}, {TESTER_NAMES[proof.source]}
          </Typography>
        )}
      </Box>
      {!proof && (
        <Typography sx={{ my: 1 }}>
          {view.mends.length
            ? "A full test later than the last mend proves the unit. Earlier tests do not count."
            : "The first full test is the proof as long as nothing is opened or mended."}
        </Typography>
      )}
      {open && (
        <Button
          component={Link}
          href={`/units/${unit.tag}/test/run?kind=full`}
          variant={proof ? "outlined" : "contained"}
          size="large"
          sx={{ my: 1 }}
        >
          {proof ? "Full test again" : "Full test now"}
        </Button>
      )}
      {unit.ending === null && (
        <Box component="section" aria-label="What blocks the release" sx={{ my: 1.5 }}>
          {blocks.length === 0 ? (
            <Alert
              severity="success"
              action={
                <Button component={Link} href={`/units/${unit.tag}/release`} color="inherit">
                  Go to release
                </Button>
              }
            >
              Nothing blocks the release.
            </Alert>
          ) : (
            <>
              <Typography component="h3" variant="h2">
                {blocks.length} {blocks.length === 1 ? "thing blocks" : "things block"} the release
              </Typography>
              <Box component="ul" sx={{ m: 0, pl: 2.5, columns: { sm: blocks.length > 6 ? 2 : 1 } }}>
                {blocks.map((b, i) => (
                  <li key={i}>{blockText(b, (id) => names.get(id) ?? placeWords(id))}</li>
                ))}
              </Box>
            </>
          )}
        </Box>
      )}
      {proof && <Compare view={view} id={selected.id} name={placeName(selected)} before={earlier} proof={proof} />}
    </Station>
  );
}

function Compare({
  view,
  id,
  name,
  before,
  proof,
}: {
  view: UnitView;
  id: string;
  name: string;
  before: Proof | null;
  proof: Proof;
}) {
  const limits = rulesOf(view.profile, view.settings.limits).limitsFor(id);
  const now = proof.analysis.controls[id];
  const was = before?.analysis.controls[id];
  if (!now) return <Typography>{name}: not tested.</Typography>;
  const then = was ? figuresOf(was, limits) : [];
  return (
    <Box
      component="section"
      aria-label={`Before and after, ${name}`}
      sx={{ bgcolor: "background.paper", border: 1, borderColor: "divider", borderRadius: 1, p: 2, mt: 1 }}
    >
      <Typography component="h3" sx={{ fontSize: "1.3rem", fontWeight: 700, mb: 1, textTransform: "capitalize" }}>
        {name}
      </Typography>
      <Box
        component="table"
        sx={{
          width: "100%",
          borderCollapse: "collapse",
          "& td, & th": { py: 0.6, pr: 2, borderBottom: 1, borderColor: "divider", textAlign: "left" },
          "& th": { fontWeight: 600, color: "text.secondary", fontSize: "0.85rem" },
        }}
      >
        <thead>
          <tr>
            <th>Measure</th>
            <th>Before</th>
            <th>After</th>
            <th>Change</th>
            <th>Grade A</th>
          </tr>
        </thead>
        <tbody>
          {figuresOf(now, limits).map((f) => {
            const b = then.find((x) => x.measure === f.measure);
            return (
              <tr key={f.measure}>
                <td>{measureName(f.measure)}</td>
                <Figure grade={b?.grade ?? null}>{b?.value ?? "no earlier test"}</Figure>
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
      {now.kind === "stick" && now.profile && (
        <Box sx={{ mt: 2 }}>
          <EdgePlot profile={now.profile} before={was?.kind === "stick" ? was.profile : null} limits={limits.stick} />
          <Typography variant="body2" color="text.secondary">
            The edge over the angle{was?.kind === "stick" && was.profile ? "; dotted: before" : ""}. The band is grade A.
          </Typography>
        </Box>
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
          fontSize: big ? "1.25rem" : "1rem",
        }}
      >
        {grade && <StateMark state={stateOfGrade(grade)} size={12} />}
        {children}
      </Box>
    </td>
  );
}

/** The change between two figures in the same unit; words when one of them is no number. */
function change(before: string | undefined, after: string): string {
  const b = /^(-?[\d.]+)( %)?$/.exec(before ?? "");
  const a = /^(-?[\d.]+)( %)?$/.exec(after);
  if (!a || !b) return before === after ? "same" : "";
  const d = Number(a[1]) - Number(b[1]);
  if (d === 0) return "same";
  return `${d > 0 ? "+" : "−"}${Math.abs(d).toFixed(a[2] ? 1 : 0)}${a[2] ? " points" : ""}`;
}
