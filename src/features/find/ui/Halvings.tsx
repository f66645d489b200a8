"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { STATE_PAIRS, type StatePair } from "@/core/diagnosis/halving";
import type { HalvingView } from "@/features/find/view";
import { PAIR_WORDS, differenceText } from "@/features/find/words/text";
import { say } from "@/features/find/words/words";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { BoundField } from "@/ui/form/BoundField";
import type { Wiring } from "@/core/profile/wiring";
import { type Common, partName, PartSelect } from "./Observations";
import { Block, Row, Text, Words } from "@/ui/kit/layout";

/** It works in one state and fails in the other: what differs, halved step by step. */
export function Halvings({ unitId, find, wiring, canWork }: Common) {
  const start = useDeed("halving.start");
  const [pair, setPair] = useState<StatePair>("open-closed");
  const running = find.halvings.some((h) => !h.closed);
  return (
    <Box component="section" aria-label={say("worksHereFailsThere")}>
      {find.halvings.map((h) => (
        <OneHalving key={h.id} h={h} wiring={wiring} canWork={canWork} />
      ))}
      {canWork && !running && (
        <Row gap={1} before={1}>
          <TextField
            select
            label={say("itWorksAndFails")}
            value={pair}
            onChange={(e) => setPair(e.target.value as StatePair)}
            sx={{ minWidth: 240 }}
          >
            {STATE_PAIRS.map((p) => (
              <MenuItem key={p} value={p}>
                {say("worksPFailsP2", { p: PAIR_WORDS[p][0], p2: PAIR_WORDS[p][1] })}
              </MenuItem>
            ))}
          </TextField>
          <Button
            variant="outlined"
            onClick={() => void start.run({ unitId, pair })}
            disabled={start.running}
          >
            {say("listWhatDiffers")}
          </Button>
        </Row>
      )}
      <Problem problem={start.problem} />
    </Box>
  );
}

/** The list is never whole: a lead, a screw or a shell half that a hand moved too. */
function AddItem({ h, wiring }: { h: HalvingView; wiring: Wiring }) {
  const add = useDeed("halving.add-item");
  const [node, setNode] = useState("");
  const [words, setWords] = useState("");
  const what = node ? partName(wiring, node) : words.trim();
  const send = async () => {
    if (what === "") return;
    const done = await add.run({ halvingId: h.id, version: h.version, what, node: node || null });
    if (done?.ok) {
      setNode("");
      setWords("");
    }
  };
  return (
    <Form onSend={() => void send()} aria-label={say("addWhatAHandMoved")}>
      <Words quiet>{say("addWhatAHandMoved")}</Words>
      <Row gap={1} after={1} at="center">
        <PartSelect
          wiring={wiring}
          label={say("partThatMoved")}
          value={node}
          onChange={setNode}
          empty={say("orInWords")}
        />
        {node === "" && (
          <BoundField
            deed="halving.add-item"
            name="what"
            label={say("whatItIs")}
            value={words}
            onChange={setWords}
          />
        )}
        <Button type="submit" variant="outlined" disabled={what === "" || add.running}>
          {say("addToTheList")}
        </Button>
      </Row>
      <Problem problem={add.problem} />
    </Form>
  );
}

function OneHalving({ h, wiring, canWork }: { h: HalvingView; wiring: Wiring; canWork: boolean }) {
  const step = useDeed("halving.step");
  const name = (id: string) =>
    differenceText(h.items.find((x) => x.id === id) ?? { id, what: id, node: null });
  const [works, fails] = PAIR_WORDS[h.pair];
  const tell = (result: "works" | "fails" | "give-up") =>
    void step.run({ halvingId: h.id, version: h.version, result });
  return (
    <Block after={1.5}>
      <Text strong>
        {say("worksWorksFailsFailsItemsThings", {
          works,
          fails,
          items: h.items.length,
          steps: h.steps.length,
        })}
      </Text>
      {h.now.state === "found" && (
        <Alert role="status" severity="success">
          {say("itComesDownToItem", { item: name(h.now.item) })}
        </Alert>
      )}
      {h.now.state === "contradiction" && (
        <Alert severity="warning">{say("theResultsContradictEachOther")}</Alert>
      )}
      {h.now.state === "ask" && !h.closed && canWork && <AddItem h={h} wiring={wiring} />}
      {h.now.state === "ask" && !h.closed && (
        <Box sx={{ p: 1.5, border: 1, borderColor: "primary.main", borderRadius: 1, mt: 0.5 }}>
          <Words size="lead" strong>
            {say("bringOnlyTheseIntoTheState", { fails })}
          </Words>
          <ul style={{ margin: "4px 0" }}>
            {h.now.switch.map((id) => (
              <li key={id}>{name(id)}</li>
            ))}
          </ul>
          <Words after={1} quiet figures>
            {say("leftLeftAtMostStepsLeftMore", { left: h.now.left.length, stepsLeft: h.now.stepsLeft })}
          </Words>
          {canWork && (
            <Row gap={1} oneLine>
              <Button variant="contained" onClick={() => tell("fails")} disabled={step.running}>
                {say("itFails")}
              </Button>
              <Button variant="contained" onClick={() => tell("works")} disabled={step.running}>
                {say("itWorks")}
              </Button>
              <Button onClick={() => tell("give-up")} disabled={step.running}>
                {say("giveUp")}
              </Button>
            </Row>
          )}
        </Box>
      )}
      <Problem problem={step.problem} />
    </Block>
  );
}
