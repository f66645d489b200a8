"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Role } from "@/contract/roles";
import { controlsOf, functionsOf, placeName } from "@/core/profile/profile";
import type { Wiring } from "@/core/profile/wiring";
import type { NextView } from "@/features/decide/next";
import type { FindView } from "@/features/find/view";
import { say } from "@/features/find/words/words";
import { PlanFrame, Station } from "@/features/units/ui/unit/Station";
import type { UnitView } from "@/features/units/view";
import { placeWords } from "@/text/names";
import { PlanView } from "@/ui/plan/PlanView";
import type { ShownState } from "@/ui/state/StateMark";
import { BoardView } from "./BoardView";
import { Causes } from "./Causes";
import { Fault, STATUS, SavingFaults } from "./Fault";
import { NameFault } from "./NameFault";
import { SIZE } from "@/ui/tokens";
import { Block, Row, Text } from "@/ui/kit/layout";

type FindStationProps = { view: UnitView; find: FindView | null; next: NextView | null; role: Role };

/** What FindStation knows and does; the components below only show it. */
function useFindStation({ view, find, next, role }: FindStationProps) {
  const { unit, profile } = view;
  const canWork = role !== "viewer" && unit.ending === null && !unit.swollen;
  const [place, setPlace] = useState("");
  const [node, setNode] = useState<string | null>(null);
  const things = [...controlsOf(profile, unit.revision), ...functionsOf(profile, unit.revision)];
  const nameOf = (id: string) => {
    const thing = things.find((t) => t.id === id);
    return thing ? placeName(thing) : placeWords(id);
  };
  // live and dead by what was seen; an open fault shows even where nothing was measured
  const states: Record<string, ShownState> = Object.fromEntries([
    ...(find?.seen ?? []).map((s): [string, ShownState] => [s.id, s.outcome === "works" ? "pass" : "fail"]),
    ...view.faults
      .filter((f) => f.status !== "withdrawn")
      .map((f): [string, ShownState] => [f.place, STATUS[f.status][1]]),
  ]);
  return { view, find, next, role, unit, profile, canWork, place, setPlace, node, setNode, nameOf, states };
}
type FindStationState = ReturnType<typeof useFindStation>;

/** What was claimed and what was found, side by side. */
export function FindStation(props: FindStationProps) {
  const s = useFindStation(props);
  const { view, find, next, unit, profile, canWork, place, setPlace, node, setNode, nameOf, states } = s;

  return (
    <Station
      plan={
        <>
          <PlanFrame>
            <PlanView
              profile={profile}
              revision={unit.revision}
              states={states}
              selected={place || null}
              onPick={canWork ? setPlace : undefined}
              label={say("liveAndDeadByPlacePick")}
            />
          </PlanFrame>
          {find && profile.wiring && (
            <Boards wiring={profile.wiring} find={find} states={states} picked={node} onPick={setNode} />
          )}
        </>
      }
    >
      {find && profile.wiring && (
        <Causes
          unitId={unit.id}
          tag={unit.tag}
          find={find}
          next={next}
          wiring={profile.wiring}
          shop={view.settings}
          nameOf={nameOf}
          picked={node}
          onPick={setNode}
          canWork={canWork}
        />
      )}
      {!profile.wiring && (
        <Text color="text.secondary" after={2}>
          {say("thisModelHasNoWiringIn")}
        </Text>
      )}
      <ClaimedAndFound {...s} />
      {canWork && <NameFault view={view} place={place} onPlace={setPlace} />}
    </Station>
  );
}

function ClaimedAndFound({ unit, view, role, canWork }: FindStationState) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "1fr 1.6fr" }, gap: 3 }}>
      <section>
        <Typography component="h2" variant="h2">
          {say("claimed")}
        </Typography>
        <Typography sx={{ fontSize: SIZE.title, fontStyle: unit.claim ? "italic" : undefined, mt: 0.5 }}>
          {unit.claim ? `“${unit.claim}”` : say("nothingWasClaimed")}
        </Typography>
        {unit.intake.history && <Typography color="text.secondary">{unit.intake.history}</Typography>}
      </section>
      <section>
        <Typography component="h2" variant="h2">
          {say("found")}
        </Typography>
        {view.faults.length === 0 && (
          <Text color="text.secondary" before={0.5}>
            {say("noFaultIsNamedYetOn")} <b>n</b> {say("namesTheFailedMeasureOrName")}
          </Text>
        )}
        {view.faults.map((f) => (
          <Fault key={f.id} fault={f} view={view} role={role} canWork={canWork} />
        ))}
        <SavingFaults view={view} />
      </section>
    </Box>
  );
}

/** The boards, one face at a time: what is live and dead laid over the parts, suspects shaded. */
function Boards({
  wiring,
  find,
  states,
  picked,
  onPick,
}: {
  wiring: Wiring;
  find: FindView;
  states: Record<string, ShownState>;
  picked: string | null;
  onPick: (node: string) => void;
}) {
  const onBoard = (id: string | null) => wiring.nodes.find((n) => n.id === id && n.board);
  const suspect = onBoard(picked) ?? find.causes.map((c) => onBoard(c.node)).find(Boolean);
  const [chosen, setChosen] = useState<{ board: string; face: "top" | "bottom" } | null>(null);
  const board = chosen?.board ?? suspect?.board ?? wiring.boards[0]!.id;
  const face = chosen?.face ?? suspect?.face ?? "top";
  const live = new Map<string, ShownState>();
  const reach = (id: string, state: ShownState) => {
    const n = wiring.nodes.find((x) => x.id === id);
    if (!n) return;
    // a part that something working rests on is live; one that only dead things rest on is dead
    if (live.get(id) !== "pass") live.set(id, state);
    n.needs.forEach((need) => reach(need, state));
  };
  for (const [id, parts] of Object.entries(wiring.serves))
    if (states[id] === "fail") parts.forEach((part) => reach(part, "fail"));
  for (const [id, parts] of Object.entries(wiring.serves))
    if (states[id] === "pass") parts.forEach((part) => reach(part, "pass"));
  return (
    <Block before={1.5}>
      <Row gap={0.5} after={0.5}>
        {wiring.boards.map((b) => (
          <Button
            key={b.id}
            size="small"
            variant={b.id === board ? "contained" : "outlined"}
            aria-pressed={b.id === board}
            onClick={() => setChosen({ board: b.id, face })}
          >
            {b.name}
          </Button>
        ))}
      </Row>
      <PlanFrame height={220}>
        <BoardView
          wiring={wiring}
          board={board}
          face={face}
          states={Object.fromEntries(live)}
          suspicion={Object.fromEntries(find.causes.map((c) => [c.node, c.probability]))}
          readings={Object.fromEntries(find.points.map((p) => [p.id, p.off]))}
          selected={picked}
          onPick={onPick}
          onTurn={() => setChosen({ board, face: face === "top" ? "bottom" : "top" })}
        />
      </PlanFrame>
    </Block>
  );
}
