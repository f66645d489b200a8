"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";

import { sendFile } from "@/browser/long-work";
import type { Drift } from "@/core/bench/drift";
import { placeName } from "@/core/profile/profile";
import type { Healthy, ReferenceSheet } from "@/features/test/readings";
import type { Again, StoredRecording } from "@/features/test/recordings";
import type { UnitView } from "@/features/units/view";
import { dayAndTime } from "@/text/format";
import { failsAtOnce } from "@/core/grade/surprise";
import { worstFirst } from "@/core/grade/grade";
import { GRADE_WORDS, measureName, percent, reasonText } from "@/text/measures";
import { browserWords, personName } from "@/text/names";
import { TESTER_NAMES } from "@/features/case/words/text";
import { LongWork, useLongWork } from "@/ui/deed/LongWork";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { MarkedPlan } from "@/ui/plan/MarkedPlan";
import { Result } from "@/features/test/ui/result/Result";
import { StateMark, stateOfGrade } from "@/ui/state/StateMark";
import { PlanFrame, Station } from "@/features/units/ui/unit/Station";
import { AtTheDoor } from "./AtTheDoor";
import { Functions } from "./Functions";
import { LiquidSignOff } from "./LiquidSignOff";
import { codeWords } from "@/words/codes";
import { say } from "@/features/test/words/words";
import { BoundField } from "@/ui/form/BoundField";
import type { Id } from "@/core/base/ids";
import { Block, Notice, Row, Text, Words } from "@/ui/kit/layout";

type Recording = Omit<StoredRecording, "startedAt"> & { startedAt: string };

/** What was measured of this unit, and the way to measure again. */
export function TestStation({
  view,
  recording,
  sheet,
  healthy,
  drift,
  again,
  canWork,
  canLead,
}: {
  view: UnitView;
  recording: Recording | null;
  sheet: ReferenceSheet | null;
  healthy: Healthy;
  drift: Drift | null;
  again: Again | null;
  canWork: boolean;
  canLead: boolean;
}) {
  const { unit, profile } = view;
  const wet = unit.liquid && !unit.liquid_cleared;
  const open = unit.ending === null && !unit.swollen;
  if (unit.swollen) return <Alert severity="error">{say("lockedThisUnitIsInQuarantine")}</Alert>;
  if (wet) return <LiquidSignOff view={view} canWork={canWork} />;
  const actions = canWork && open && <Actions view={view} first={view.recordings.length === 0} />;
  const functions = <Functions view={view} canWork={canWork && open} />;
  if (!recording)
    return (
      <Station
        plan={
          <PlanFrame>
            <MarkedPlan
              profile={profile}
              revision={unit.revision}
              states={Object.fromEntries(profile.controls.map((c) => [c.id, "untested" as const]))}
              marks={unit.intake.marks.filter((m) => m.gone === null)}
            />
          </PlanFrame>
        }
      >
        <Text component="h2" size="figure" after={1} strong>
          {say("notTested2")}
        </Text>
        {actions}
        <AtTheDoor view={view} />
        {functions}
      </Station>
    );
  return (
    <Result
      key={recording.id}
      unitId={unit.id}
      tag={unit.tag}
      profile={profile}
      revision={unit.revision}
      house={view.settings.limits}
      recording={recording}
      faults={view.faults}
      canName={canWork && open}
      healthy={healthy}
      sheet={sheet && { of: sheet, shop: view.settings }}
      spotBase={canWork && open ? `/units/${unit.tag}/test` : null}
      foundWhen={view.mends.length > 0 && recording.id === view.proofId ? "proof" : "test"}
      head={
        <>
          {actions}
          {unit.referenceSince && <Reference view={view} drift={drift} canWork={canWork && open} />}
          {again && <ByTodaysMeasures again={again} />}
          <FailsAtOnce view={view} recording={recording} />
          <NotMadeHere view={view} recordingId={recording.id} canLead={canLead && open} />
        </>
      }
      foot={
        <>
          <Text variant="body2" color="text.secondary" after={0.5}>
            {PURPOSE_WORDS[recording.purpose]}, {dayAndTime(recording.startedAt, view.settings)},{" "}
            {recording.by}, {testerWords(recording)}.{" "}
            <a href={`/api/recordings/${recording.id}`} download>
              {say("exportAsCSV")}
            </a>
            {" · "}
            <Link href={`/units/${unit.tag}/test/compare`}>{say("compare")}</Link>
          </Text>
          {!unit.referenceSince && <Reference view={view} drift={drift} canWork={canWork && open} />}
        </>
      }
      aside={
        <>
          <Recordings view={view} shown={recording.id} />
          {functions}
        </>
      }
    />
  );
}

/** So much fails at once that the tester is in doubt, until another one saw the same. */
function FailsAtOnce({ view, recording }: { view: UnitView; recording: Recording }) {
  const many =
    recording.purpose === "full"
      ? failsAtOnce(Object.values(recording.analysis.controls).map((c) => c.grade))
      : null;
  if (!many) return null;
  const own = view.recordings.find((r) => r.id === recording.id)?.tester;
  const other = view.recordings.some((r) => r.purpose === "full" && r.grade === "fail" && r.tester !== own);
  return other ? (
    <Notice severity="info" role="note" after={1}>
      {say("anotherTesterAgrees")}
    </Notice>
  ) : (
    <Notice severity="warning" role="note" after={1}>
      {say("manyFail", many)}
    </Notice>
  );
}

/** Why a full test that stands here proves nothing, and what a lead can do about it. */
/** An old recording keeps its grade; what today's measures see in it stands beside. */
function ByTodaysMeasures({ again }: { again: Again }) {
  if (again.differs.length === 0)
    return (
      <Text variant="body2" color="text.secondary" after={1}>
        {say("todaysMeasuresSayTheSame")}
      </Text>
    );
  return (
    <Notice severity={again.grade === "fail" ? "warning" : "info"} role="note" after={2}>
      {say("todaysMeasuresDiffer", { grade: GRADE_WORDS[again.grade] })}
      {again.differs.map((d) => (
        <Words key={d.control} before={0.5}>
          {say("controlWasNow", {
            control: placeName({ id: d.control }),
            was: GRADE_WORDS[d.was],
            now: GRADE_WORDS[d.now],
          })}
          {worstFirst(d.reasons)
            .slice(0, 2)
            .map((r) => ` ${reasonText(r)}.`)}
        </Words>
      ))}
    </Notice>
  );
}

function NotMadeHere({
  view,
  recordingId,
  canLead,
}: {
  view: UnitView;
  recordingId: Id<"recording">;
  canLead: boolean;
}) {
  const take = useDeed("recording.take-as-proof");
  const [why, setWhy] = useState("");
  const line = view.recordings.find((r) => r.id === recordingId);
  if (!line || line.purpose !== "full") return null;
  if (line.taken)
    return (
      <Notice severity="info" role="note" after={1.5}>
        {say("notMadeHereByTookIt", { by: personName(line.taken.by), why: line.taken.why })}
      </Notice>
    );
  if (line.proves) return null;
  return (
    <Notice severity="warning" role="note" after={1.5}>
      {line.repeated ? say("theSameRecordingWasHereBefore") : say("thisWasNotMeasuredHereIt")}
      {canLead && !line.repeated && (
        <Form
          onSend={() => void take.run({ recordingId, why })}
          sx={{ display: "flex", gap: 1, mt: 1, flexWrap: "wrap" }}
        >
          <BoundField
            deed="recording.take-as-proof"
            name="why"
            label={say("whyItMayProveTheUnit")}
            value={why}
            onChange={setWhy}
          />
          <Button
            type="submit"
            variant="outlined"
            color="inherit"
            disabled={why.trim() === "" || take.running}
          >
            {say("takeItAsTheProof")}
          </Button>
        </Form>
      )}
      <Problem problem={take.problem} />
    </Notice>
  );
}

const PURPOSE_WORDS = { full: say("fullTest"), quick: say("quickLook"), spot: say("spotTest") } as const;

/** What it was measured with, as far as it is known; what is not known leaves no mark. */
function testerWords({ source, tester }: Pick<Recording, "source" | "tester">): string {
  const details = [
    tester.label,
    tester.link && say("byLink", { link: codeWords(tester.link) }),
    tester.slot === undefined ? "" : say("slotSlot", { slot: tester.slot + 1 }),
    tester.version && say("birdcageVersion", { version: tester.version }),
  ].filter(Boolean);
  const name = `${TESTER_NAMES[source]}${details.length ? ` (${details.join(", ")})` : ""}`;
  return [name, browserWords(tester.host)].filter(Boolean).join(", ");
}

/** A known-good unit that others are held against: making one, and whether the bench has drifted since. */
function Reference({ view, drift, canWork }: { view: UnitView; drift: Drift | null; canWork: boolean }) {
  const { unit } = view;
  const set = useDeed("unit.set-reference");
  const toggle = (on: boolean) => void set.run({ unitId: unit.id, version: unit.version, on });
  if (!unit.referenceSince)
    return canWork && view.proofId && view.nextAction !== "mend" && view.nextAction !== "name-faults" ? (
      <Block after={1}>
        <Button size="small" onClick={() => toggle(true)} disabled={set.running}>
          {say("keepAsAReferenceUnit")}
        </Button>
        <Problem problem={set.problem} />
      </Block>
    ) : null;
  return (
    <Notice
      severity={drift?.verdict === "drifted" ? "warning" : "info"}
      after={1.5}
      action={
        canWork && (
          <Button color="inherit" size="small" onClick={() => toggle(false)} disabled={set.running}>
            {say("end")}
          </Button>
        )
      }
    >
      <b>{say("referenceUnit")}</b>{" "}
      {say("sinceReferenceSince", { referenceSince: dayAndTime(unit.referenceSince, view.settings) })}{" "}
      {drift && driftText(drift)}
      <Problem problem={set.problem} />
    </Notice>
  );
}

function driftText(d: Drift): string {
  if (d.verdict === "measured-once") return say("measuredOnceTestItAgainAfter");
  const l = d.largest;
  const largest = l
    ? say("largestChangePlaceNameMeasure", {
        placeName: placeName({ id: l.control }),
        measure: measureName(l.measure),
        change: percent(l.change),
        allowed: percent(l.allowed),
        earlier: d.earlier,
      })
    : "";
  return (d.verdict === "steady" ? say("theBenchHasNotDrifted") : say("theBenchHasDriftedCheckIt")) + largest;
}

function Actions({ view, first }: { view: UnitView; first: boolean }) {
  const base = `/units/${view.unit.tag}/test/run`;
  return (
    <Row gap={1} after={1} at="center">
      <Button
        component={Link}
        href={`${base}?kind=full`}
        variant={first || view.proofId === null ? "contained" : "outlined"}
        size="large"
      >
        {say("fullTest")}
      </Button>
      <Button component={Link} href={`${base}?kind=quick`} variant="outlined" size="large">
        {say("quickLook")}
      </Button>
      <Button component={Link} href={`/units/${view.unit.tag}/test/bench`} variant="outlined" size="large">
        {say("stepByStep")}
      </Button>
      <ImportRecording unitId={view.unit.id} tag={view.unit.tag} />
    </Row>
  );
}

/**
 * A file is a reading with a source: it is kept with the time at which it was made, and proves nothing by
 * itself.
 */
function ImportRecording({ unitId, tag }: { unitId: Id<"unit">; tag: string }) {
  const router = useRouter();
  const work = useLongWork();
  const [asked, setAsked] = useState<File | null>(null);
  async function take(file: File, sure: boolean) {
    setAsked(null);
    const id = crypto.randomUUID();
    const head = {
      id,
      unitId,
      purpose: "full",
      source: "import",
      tester: { label: file.name.slice(0, 200), host: say("importedFile") },
      sure,
      startedAgoMs: Math.min(MOST_AGO_MS, Math.max(0, Date.now() - file.lastModified)),
    };
    const headers = { "x-recording": encodeURIComponent(JSON.stringify(head)) };
    const reply = await work.run(say("packingTheFile"), async (signal, tell) => {
      const zipped = await new Response(
        file.stream().pipeThrough(new CompressionStream("gzip"), { signal }),
      ).blob();
      return sendFile("/api/recordings", zipped, headers, signal, (share) =>
        tell(
          share < 1
            ? { words: say("sendingTheFile"), share }
            : { words: say("measuringTheRecording"), share: null },
        ),
      );
    });
    if (reply?.ok) {
      router.push(`/units/${tag}/test?r=${id}`);
      router.refresh();
    } else if (reply?.problem.code === "other-controller") setAsked(file);
  }
  return (
    <>
      <Button component="label" disabled={work.running}>
        {say("importARecording")}
        <input
          type="file"
          accept=".csv,text/csv"
          hidden
          disabled={work.running}
          aria-label={say("importARecording")}
          onChange={(e) => {
            const file = e.target.files?.[0];
            e.target.value = "";
            if (file) void take(file, false);
          }}
        />
      </Button>
      <Box sx={{ flexBasis: "100%", "&:empty": { display: "none" } }}>
        <LongWork work={work} />
        {asked && (
          <Button variant="outlined" disabled={work.running} onClick={() => void take(asked, true)}>
            {say("itIsOfThisUnitImport")}
          </Button>
        )}
      </Box>
    </>
  );
}

const MOST_AGO_MS = 9 * 365 * 24 * 3600_000;

function Recordings({ view, shown }: { view: UnitView; shown: string }) {
  if (view.recordings.length < 2) return null;
  return (
    <Block component="nav" aria-label={say("recordings")} before={2}>
      <Typography component="h2" variant="h3">
        {say("recordings")}
      </Typography>
      {view.recordings.map((r) => (
        <Box
          key={r.id}
          component={Link}
          href={`/units/${view.unit.tag}/test?r=${r.id}`}
          aria-current={r.id === shown ? "true" : undefined}
          sx={{
            display: "flex",
            gap: 1,
            alignItems: "center",
            py: 0.6,
            color: "text.primary",
            textDecoration: "none",
            fontWeight: r.id === shown ? 700 : 400,
            borderBottom: 1,
            borderColor: "divider",
          }}
        >
          <StateMark state={stateOfGrade(r.grade)} size={16} />
          {PURPOSE_WORDS[r.purpose]}
          {r.spot && ` ${r.spot.controls.map((id) => placeName({ id })).join(", ")}`}
          {r.spot && r.spot.force !== "normal" && ` (${r.spot.force})`},{" "}
          {dayAndTime(r.startedAt, view.settings)}
          {r.id === view.proofId && (
            <Box component="span" sx={{ ml: "auto", fontWeight: 700 }}>
              {say("countsAsProof")}
            </Box>
          )}
        </Box>
      ))}
    </Block>
  );
}
