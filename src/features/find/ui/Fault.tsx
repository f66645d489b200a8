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
import { NativeSelect } from "@/ui/fields/NativeSelect";
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
  const join = useDeed("fault.join");
  const part = useDeed("symptom.part");
  const others = view.faults.filter((f) => f.status === "open" && f.id !== fault.id);
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
    join,
    part,
    others,
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
  const { fault, settle, join, part, word, state } = s;

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
      <Symptoms {...s} />
      <FaultKeys {...s} />
      <WhyAsked {...s} />
      <Problem problem={settle.problem ?? join.problem ?? part.problem} />
    </Box>
  );
}

/** What else this cause shows itself by; one cure settles them all. */
function Symptoms({ fault, canWork, part }: FaultState) {
  if (fault.symptoms.length === 0) return null;
  return (
    <Box component="ul" aria-label={say("shownAlsoBy")} sx={{ my: 0.5, pl: 3 }}>
      {fault.symptoms.map((s) => (
        <li key={s.id}>
          {s.place === fault.place ? "" : `${placeWords(s.place)}: `}
          {/* the words of a measure begin with its name */}
          {s.words.startsWith(s.kind) ? "" : s.kind}
          {s.words && <Words component="span" quiet>{` ${s.words}`}</Words>}{" "}
          {canWork && fault.status === "open" && (
            <Button size="small" disabled={part.running} onClick={() => void part.run({ symptomId: s.id })}>
              {say("hasItsOwnCause")}
            </Button>
          )}
        </li>
      ))}
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

function FaultKeys({ canWork, fault, view, byHand, setAsking, role, set, others, join }: FaultState) {
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
            <SameCause fault={fault} others={others} join={join} />
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

const FEW = 3;
/** Another open fault that has the same cause: a button each while they are few. */
function SameCause({ fault, others, join }: Pick<FaultState, "fault" | "others" | "join">) {
  const under = (underId: string) => void join.run({ faultId: fault.id, version: fault.version, underId });
  if (others.length <= FEW)
    return others.map((o) => (
      <Button key={o.id} size="small" disabled={join.running} onClick={() => under(o.id)}>
        {say("sameCauseAsNumber", { number: o.number })}
      </Button>
    ));
  return (
    <NativeSelect
      label={say("sameCauseAs")}
      value=""
      disabled={join.running}
      onChange={(e) => under(e.target.value)}
      sx={{ minWidth: 220 }}
    >
      <option value="" />
      {others.map((o) => (
        <option key={o.id} value={o.id}>
          {say("faultNumberPlaceKind", { number: o.number, place: placeWords(o.place), kind: o.kind })}
        </option>
      ))}
    </NativeSelect>
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
