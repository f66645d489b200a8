"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Link from "next/link";
import { useState } from "react";

import type { Role } from "@/contract/roles";
import { say } from "@/features/find/words/words";
import type { FaultView, UnitView } from "@/features/units/view";
import { dayAndTime } from "@/text/format";
import { placeWords } from "@/text/names";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { BoundField } from "@/ui/form/BoundField";
import { type ShownState, StateMark } from "@/ui/state/StateMark";
import { codeWords } from "@/words/codes";
import { Row, Words } from "@/ui/kit/layout";

export const FOUND: Record<FaultView["foundWhen"], string> = {
  intake: say("atIntake"),
  test: say("onTheClosedTest"),
  opened: say("afterOpening"),
  proof: say("onTheProof"),
};

export const STATUS: Record<FaultView["status"], [string, ShownState]> = {
  open: [codeWords("open"), "fail"],
  mended: [codeWords("mended"), "pass"],
  accepted: [say("acceptedAsALimit"), "caution"],
  withdrawn: [codeWords("withdrawn"), "not-fitted"],
};

type FaultProps = {
  fault: FaultView;
  view: UnitView;
  role: Role;
  canWork: boolean;
};

/** What Fault knows and does; the components below only show it. */
function useFault({ fault, view, role, canWork }: FaultProps) {
  const settle = useDeed("fault.settle");
  const [why, setWhy] = useState("");
  const [asking, setAsking] = useState<"accepted" | "withdrawn" | "mended" | null>(null);
  // no test speaks of what was judged by hand: the hand that judged it says that it is cured, once something
  // was done
  const byHand = fault.measure === null && view.mends.some((m) => m.at > fault.at);
  const [word, state] = STATUS[fault.status];
  const set = async (status: FaultView["status"], reason = "") => {
    const done = await settle.run({ faultId: fault.id, version: fault.version, status, why: reason });
    if (done?.ok) setAsking(null);
  };
  const askedWords = () => {
    if (asking === "accepted") return say("accept");
    if (asking === "mended") return say("itIsCured");
    return say("withdraw");
  };
  return {
    fault,
    view,
    role,
    canWork,
    settle,
    why,
    setWhy,
    asking,
    setAsking,
    byHand,
    word,
    state,
    set,
    askedWords,
  };
}

type FaultState = ReturnType<typeof useFault>;

export function Fault(props: FaultProps) {
  const s = useFault(props);
  const { fault, settle, word, state } = s;

  return (
    <Box sx={{ py: 1.2, borderBottom: 1, borderColor: "divider" }}>
      <Row gap={1} oneLine at="center">
        <StateMark state={state} />
        <Words size="lead" strong>
          {fault.number}. {placeWords(fault.place)}: {fault.kind}
        </Words>
        <Box sx={{ ml: "auto", fontWeight: 700 }}>{word}</Box>
      </Row>
      <FaultWords {...s} />
      <FaultKeys {...s} />
      <WhyAsked {...s} />
      <Problem problem={settle.problem} />
    </Box>
  );
}

function FaultWords({ fault, view }: FaultState) {
  return (
    <Words quiet>
      {say("faultFoundFoundWhenClaimedBy", {
        fault: fault.words && `${fault.words}. `,
        foundWhen: FOUND[fault.foundWhen],
        claimed: fault.claimed ? say("asClaimed") : say("notInTheClaim"),
        by: fault.by,
        at: dayAndTime(fault.at, view.settings),
        statusWhy: fault.statusWhy && `. ${fault.statusWhy}`,
      })}
      {fault.recordingId && (
        <>
          {" · "}
          <Link href={`/units/${view.unit.tag}/test?r=${fault.recordingId}`}>{say("evidence")}</Link>
        </>
      )}
    </Words>
  );
}

function FaultKeys({ canWork, fault, view, byHand, setAsking, role, set }: FaultState) {
  return (
    canWork && (
      <Row gap={1} before={0.5}>
        {fault.status === "open" && (
          <>
            <Button size="small" component={Link} href={`/units/${view.unit.tag}/mend?fault=${fault.id}`}>
              {say("mendIt")}
            </Button>
            {byHand && (
              <Button size="small" onClick={() => setAsking("mended")}>
                {say("curedLookedAtAgain")}
              </Button>
            )}
            {role === "lead" && (
              <Button size="small" onClick={() => setAsking("accepted")}>
                {say("acceptAsALimit")}
              </Button>
            )}
            <Button size="small" onClick={() => setAsking("withdrawn")}>
              {say("withdraw")}
            </Button>
          </>
        )}
        {fault.status !== "open" && (
          <Button size="small" onClick={() => void set("open")}>
            {say("openItAgain")}
          </Button>
        )}
      </Row>
    )
  );
}

function WhyAsked({ asking, set, why, setWhy, settle, askedWords }: FaultState) {
  return (
    asking && (
      <Form onSend={() => void set(asking, why)} sx={{ display: "flex", gap: 1, mt: 1 }}>
        <BoundField
          deed="fault.settle"
          name="why"
          label={asking === "mended" ? say("whatShowsIt") : say("why")}
          value={why}
          onChange={setWhy}
          autoFocus
          required
        />
        <Button type="submit" variant="contained" disabled={settle.running}>
          {askedWords()}
        </Button>
      </Form>
    )
  );
}

/** Faults that were named and are on their way. */
export function SavingFaults({ view }: { view: UnitView }) {
  const { pending } = useDeed("fault.add");
  return pending
    .filter(
      (p) => p.unitId === view.unit.id && !view.faults.some((f) => f.place === p.place && f.kind === p.kind),
    )
    .map((p) => (
      <Box
        key={`${p.place} ${p.kind}`}
        sx={{ py: 1.2, borderBottom: 1, borderColor: "divider", fontWeight: 700 }}
      >
        {placeWords(p.place)}: {p.kind}
        <Box component="span" sx={{ color: "text.secondary", fontWeight: 400 }}>
          {say("saving")}
        </Box>
      </Box>
    ));
}
