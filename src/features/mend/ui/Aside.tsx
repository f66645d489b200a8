"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { WAIT_KINDS, type WaitKind } from "@/contract/waits";
import type { WaitView } from "@/features/waits/deeds";
import type { DamageView } from "@/features/prove/damage";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { FIGURES } from "@/ui/figures";
import { clockText, isOver, useNow } from "@/ui/frame/waits";
import { say } from "@/features/mend/words/words";
import { BoundField } from "@/ui/form/BoundField";
import { numberIn } from "@/ui/form/typed";
import type { Id } from "@/core/base/ids";
import { SIZE } from "@/ui/tokens";
import { Block, Row, Text } from "@/ui/kit/layout";

export const WAIT_WORDS: Record<WaitKind, string> = {
  soak: say("soak"),
  dry: say("dry"),
  cure: say("glueCures"),
  charge: say("charge"),
  air: say("closedUpForSmell"),
  other: say("other"),
};
const USUAL: Record<WaitKind, number> = { soak: 15, dry: 60, cure: 120, charge: 90, air: 1440, other: 10 };

/** Timers of one unit: they run on the server, and call out on every screen. */
export function Waits({
  unitId,
  waits,
  canWork,
}: {
  unitId: Id<"unit">;
  waits: WaitView[];
  canWork: boolean;
}) {
  const start = useDeed("wait.start");
  const [kind, setKind] = useState<WaitKind>("soak");
  const [minutes, setMinutes] = useState(String(USUAL.soak));
  const [what, setWhat] = useState("");
  const now = useNow(waits.length > 0);
  const length = numberIn("wait.start", "minutes", minutes);
  return (
    <Box component="section" aria-label={say("timers")}>
      <Text component="h3" variant="h2" after={0.5}>
        {say("timers")}
      </Text>
      {waits.map((w) => (
        <OneWait key={w.id} wait={w} now={now} canWork={canWork} />
      ))}
      {canWork && (
        <Form
          aria-label={say("startATimer")}
          onSend={() =>
            length !== null &&
            void start
              .run({ unitId, kind, what: what.trim() || WAIT_WORDS[kind], minutes: length })
              .then((d) => d?.ok && setWhat(""))
          }
          sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1, mt: 1 }}
        >
          <NativeSelect
            label={say("kind")}
            value={kind}
            onChange={(e) => {
              const next = e.target.value as WaitKind;
              setKind(next);
              setMinutes(String(USUAL[next]));
            }}
          >
            {WAIT_KINDS.map((k) => (
              <option key={k} value={k}>
                {WAIT_WORDS[k]}
              </option>
            ))}
          </NativeSelect>
          <BoundField
            deed="wait.start"
            name="minutes"
            label={say("howLongMin")}
            value={minutes}
            onChange={setMinutes}
          />
          <BoundField
            deed="wait.start"
            name="what"
            label={say("whatWaits")}
            value={what}
            onChange={setWhat}
            sx={{ gridColumn: "1 / -1" }}
          />
          <Button
            type="submit"
            variant="outlined"
            disabled={start.running || length === null}
            sx={{ gridColumn: "1 / -1" }}
          >
            {say("startIt")}
          </Button>
          <Block full>
            <Problem problem={start.problem} />
          </Block>
        </Form>
      )}
    </Box>
  );
}

function OneWait({ wait, now, canWork }: { wait: WaitView; now: number | null; canWork: boolean }) {
  const move = useDeed("wait.move");
  const seen = useDeed("wait.seen");
  const over = isOver(wait, now);
  return (
    <Box sx={{ py: 0.8, borderTop: 1, borderColor: "divider" }}>
      <Row gap={1.5} oneLine at="baseline">
        <Box
          component="span"
          suppressHydrationWarning
          sx={{
            fontFamily: FIGURES,
            fontSize: SIZE.figure,
            fontWeight: 700,
            lineHeight: 1,
            color: over ? "caution.main" : "text.primary",
          }}
        >
          {over ? say("over") : clockText(wait, now)}
        </Box>
        <span>{wait.what}</span>
      </Row>
      {canWork && (
        <Row gap={1} oneLine>
          <Button
            size="small"
            disabled={move.running}
            onClick={() => void move.run({ waitId: wait.id, minutes: 5 })}
          >
            {say("n5MinMore")}
          </Button>
          <Button
            size="small"
            disabled={seen.running}
            onClick={() => void seen.run({ waitId: wait.id, outcome: over ? "" : say("endedEarly") })}
          >
            {over ? say("seen") : say("itIsDone")}
          </Button>
        </Row>
      )}
      <Problem problem={move.problem ?? seen.problem} />
    </Box>
  );
}

/** What was broken on the way, kept apart from the faults that the unit came with. */
export function Damage({
  unitId,
  damage,
  canWork,
}: {
  unitId: Id<"unit">;
  damage: DamageView[];
  canWork: boolean;
}) {
  const add = useDeed("damage.add");
  const [adding, setAdding] = useState(false);
  const [place, setPlace] = useState("");
  const [what, setWhat] = useState("");
  const [clip, setClip] = useState(false);
  const [firm, setFirm] = useState(true);
  return (
    <Block component="section" aria-label={say("damageOnTheWay")} before={2}>
      <Text component="h3" variant="h2" after={0.5}>
        {say("damageOnTheWay")}
      </Text>
      {damage.length === 0 && <Typography color="text.secondary">{say("noneNoted")}</Typography>}
      {damage.map((d) => (
        <OneDamage key={d.id} damage={d} canWork={canWork} />
      ))}
      {canWork &&
        (adding ? (
          <Form
            onSend={() =>
              void add
                .run({ unitId, place, what, clipLost: clip, stillFirm: clip ? firm : null })
                .then((r) => {
                  if (!r?.ok) return;
                  setAdding(false);
                  setPlace("");
                  setWhat("");
                })
            }
            sx={{ display: "grid", gap: 1, mt: 1 }}
          >
            <BoundField
              deed="damage.add"
              name="place"
              label={say("where")}
              value={place}
              onChange={setPlace}
              autoFocus
            />
            <BoundField
              deed="damage.add"
              name="what"
              label={say("whatBroke")}
              value={what}
              onChange={setWhat}
            />
            <FormControlLabel
              control={<Checkbox checked={clip} onChange={(e) => setClip(e.target.checked)} />}
              label={say("aClipWasLost")}
            />
            {clip && (
              <FormControlLabel
                control={<Checkbox checked={firm} onChange={(e) => setFirm(e.target.checked)} />}
                label={say("theShellIsStillFirm")}
              />
            )}
            <Button type="submit" variant="outlined" disabled={add.running || !place.trim() || !what.trim()}>
              {say("noteIt")}
            </Button>
            <Problem problem={add.problem} />
          </Form>
        ) : (
          <Button size="small" onClick={() => setAdding(true)}>
            {say("noteDamage")}
          </Button>
        ))}
    </Block>
  );
}

function OneDamage({ damage: d, canWork }: { damage: DamageView; canWork: boolean }) {
  const mend = useDeed("damage.make-good");
  const [how, setHow] = useState("");
  const [open, setOpen] = useState(false);
  return (
    <Box sx={{ py: 0.6, borderTop: 1, borderColor: "divider" }}>
      <b>{d.place}</b>: {d.what}
      {d.clipLost && (d.stillFirm === false ? say("clipLostShellLoose") : say("clipLost"))}
      {d.madeGood ? say("madeGoodMadeGood", { madeGood: d.madeGood }) : say("aBuyerIsTold")}
      {canWork && !d.madeGood && !open && (
        <Button size="small" onClick={() => setOpen(true)}>
          {say("madeGood")}
        </Button>
      )}
      {open && !d.madeGood && (
        <Row gap={1} oneLine>
          <BoundField deed="damage.make-good" name="how" label={say("how")} value={how} onChange={setHow} />
          <Button
            disabled={how.trim() === "" || mend.running}
            onClick={() => void mend.run({ damageId: d.id, version: d.version, how })}
          >
            {say("save")}
          </Button>
        </Row>
      )}
      <Problem problem={mend.problem} />
    </Box>
  );
}
