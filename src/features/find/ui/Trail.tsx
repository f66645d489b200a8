"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import { TRY_ACTIONS, TRY_OUTCOMES, type TryAction } from "@/core/diagnosis/tries";
import type { Wiring } from "@/core/profile/wiring";
import type { FragmentView, TryView } from "@/features/find/view";
import { ACTION_WORDS, CURE_WORDS, TRY_WORDS } from "@/features/find/words/text";
import { say } from "@/features/find/words/words";
import { dayAndTime } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { Refusals } from "@/ui/deed/Refusals";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { BoundField } from "@/ui/form/BoundField";
import { type Common, PartSelect, partName } from "./Observations";
import { Notice, Row, Words } from "@/ui/kit/layout";

/** Each try: suspect, what was expected, the one action, the retest and what it showed. */
export function Tries({ unitId, find, wiring, shop, canWork, picked }: Common & { picked: string | null }) {
  const add = useDeed("try.add");
  const [suspect, setSuspect] = useState<string | null>(null);
  const [action, setAction] = useState<TryAction>("clean");
  const [expects, setExpects] = useState("");
  const at = suspect ?? picked ?? find.causes[0]?.node ?? "";
  const failed = find.tries.filter(
    (t) => (t.outcome === "same" || t.outcome === "worse") && t.suspect === at && t.action === action,
  );
  const newer = find.observations.some((o) => failed.every((t) => o.at > t.at));
  return (
    <Box component="section" aria-label={say("tries")}>
      {find.untested > 1 && (
        <Notice severity="warning" role="alert" after={1}>
          {say("untestedChangesAreNotTested", { untested: find.untested })}
        </Notice>
      )}
      {find.tries.map((t) => (
        <OneTry key={t.id} t={t} wiring={wiring} shop={shop} canWork={canWork} />
      ))}
      {find.tries.length === 0 && <Typography color="text.secondary">{say("nothingWasTriedYet")}</Typography>}
      {canWork && (
        <Form
          sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 1.5, alignItems: "center" }}
          onSend={() => {
            if (!at || !expects.trim()) return;
            setExpects("");
            void add
              .run({
                unitId,
                suspect: at,
                action,
                expects,
                what: say("actionTheWiring", { action: ACTION_WORDS[action], wiring: partName(wiring, at) }),
              })
              .then((done) => done?.ok === false && setExpects((now) => now || expects));
          }}
        >
          <PartSelect wiring={wiring} label={say("suspect")} value={at} onChange={setSuspect} />
          <NativeSelect
            label={say("theOneAction")}
            value={action}
            onChange={(e) => setAction(e.target.value as TryAction)}
          >
            {TRY_ACTIONS.map((a) => (
              <option key={a} value={a}>
                {ACTION_WORDS[a]}
              </option>
            ))}
          </NativeSelect>
          <BoundField
            deed="try.add"
            name="expects"
            label={say("whatIsExpected")}
            value={expects}
            onChange={setExpects}
            sx={{ minWidth: 220 }}
          />
          <Button type="submit" variant="outlined" disabled={!at || !expects.trim()}>
            {say("logTheTry")}
          </Button>
        </Form>
      )}
      {failed.length > 0 && !newer && (
        <Notice severity="warning" role="note" before={1}>
          {say("thisTreatmentOfTheWiringFailed", { wiring: partName(wiring, at), number: failed[0]!.number })}
        </Notice>
      )}
      <Refusals refusals={add.refusals} />
    </Box>
  );
}

function OneTry({
  t,
  wiring,
  shop,
  canWork,
}: {
  t: TryView;
  wiring: Wiring;
  shop: Settings;
  canWork: boolean;
}) {
  const settle = useDeed("try.settle");
  return (
    <Box sx={{ py: 0.8, borderBottom: 1, borderColor: "divider" }}>
      <b>
        {say("numberActionTheWiring", {
          number: t.number,
          action: ACTION_WORDS[t.action as TryAction],
          wiring: partName(wiring, t.suspect),
        })}
      </b>
      {say("expectingExpectsOutcome", {
        expects: t.expects,
        outcome: t.outcome ? TRY_WORDS[t.outcome] : say("notRetestedYet"),
      })}
      {t.cure !== "none" && <b> ({CURE_WORDS[t.cure]})</b>}
      {t.share !== null && t.share < 1 && (
        <b>
          {" "}
          {t.share === 0
            ? say("creditTakenBack")
            : say("sharesTheCure", { share: Math.round(t.share * 100) })}
        </b>
      )}
      {t.secondTestDue &&
        say("secondTestFromSecondTestDue", { secondTestDue: dayAndTime(t.secondTestDue, shop) })}
      <Words component="span" quiet>
        {" "}
        {t.by}, {dayAndTime(t.at, shop)}
      </Words>
      {canWork && (
        <Row gap={0.5} before={0.5}>
          {t.outcome === null &&
            TRY_OUTCOMES.map((o) => (
              <Button
                key={o}
                size="small"
                variant="outlined"
                onClick={() => void settle.run({ tryId: t.id, version: t.version, outcome: o, undone: null })}
              >
                {TRY_WORDS[o]}
              </Button>
            ))}
          {t.outcome === "cured" && t.undone === null && (
            <>
              <Button
                size="small"
                variant="outlined"
                onClick={() =>
                  void settle.run({ tryId: t.id, version: t.version, outcome: "cured", undone: "came-back" })
                }
              >
                {say("undoneItCameBack")}
              </Button>
              <Button
                size="small"
                variant="outlined"
                onClick={() =>
                  void settle.run({
                    tryId: t.id,
                    version: t.version,
                    outcome: "cured",
                    undone: "stayed-away",
                  })
                }
              >
                {say("undoneItStayedAway")}
              </Button>
            </>
          )}
        </Row>
      )}
      <Problem problem={settle.problem} />
    </Box>
  );
}

/** Loose pieces: each numbered, with the place, and matched to a part or open. */
export function Fragments({ unitId, find, wiring, canWork }: Common) {
  const add = useDeed("fragment.add");
  const [what, setWhat] = useState("");
  const [foundAt, setFoundAt] = useState("");
  return (
    <Box component="section" aria-label={say("loosePieces")}>
      {find.fragments.map((f) => (
        <OneFragment key={f.id} f={f} wiring={wiring} canWork={canWork} />
      ))}
      {find.fragments.length === 0 && (
        <Typography color="text.secondary">{say("noLoosePieceWasFound")}</Typography>
      )}
      {canWork && (
        <Form
          sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 1.5 }}
          onSend={() => {
            if (!what.trim() || !foundAt.trim()) return;
            setWhat("");
            setFoundAt("");
            void add.run({ unitId, what, foundAt }).then((done) => {
              if (done === null || done.ok) return;
              setWhat((now) => now || what);
              setFoundAt((now) => now || foundAt);
            });
          }}
        >
          <BoundField
            deed="fragment.add"
            name="what"
            label={say("piece")}
            value={what}
            onChange={setWhat}
            sx={{ minWidth: 220 }}
          />
          <BoundField
            deed="fragment.add"
            name="foundAt"
            label={say("foundAt")}
            value={foundAt}
            onChange={setFoundAt}
          />
          <Button type="submit" variant="outlined" disabled={!what.trim() || !foundAt.trim()}>
            {say("numberIt")}
          </Button>
        </Form>
      )}
      <Refusals refusals={add.refusals} />
    </Box>
  );
}

function OneFragment({ f, wiring, canWork }: { f: FragmentView; wiring: Wiring; canWork: boolean }) {
  const match = useDeed("fragment.match");
  const [explained, setExplained] = useState("");
  const [from, setFrom] = useState("");
  const open = f.matchedTo === null && f.explained === "";
  return (
    <Box sx={{ py: 0.8, borderBottom: 1, borderColor: "divider" }}>
      <b>
        {f.number}. {f.what}
      </b>
      {say("foundAtFoundAtExplained", {
        foundAt: f.foundAt,
        explained: f.matchedTo
          ? say("fromTheWiring", { wiring: partName(wiring, f.matchedTo) })
          : f.explained || say("fitsNothingSoFarAnotherBreak"),
      })}
      {open && canWork && (
        <Row gap={1} before={1}>
          <PartSelect wiring={wiring} label={say("itIsFrom")} value={from} onChange={setFrom} />
          <Button
            variant="outlined"
            disabled={!from}
            onClick={() =>
              void match.run({ fragmentId: f.id, version: f.version, matchedTo: from, explained: "" })
            }
          >
            {say("matchIt")}
          </Button>
          <BoundField
            deed="fragment.match"
            name="explained"
            label={say("orExplainIt")}
            value={explained}
            onChange={setExplained}
          />
          <Button
            variant="outlined"
            disabled={!explained.trim()}
            onClick={() =>
              void match.run({ fragmentId: f.id, version: f.version, matchedTo: null, explained })
            }
          >
            {say("explained")}
          </Button>
        </Row>
      )}
      <Problem problem={match.problem} />
    </Box>
  );
}
