"use client";

import Button from "@mui/material/Button";
import Link from "next/link";

import type { NextRungs, Proposed } from "@/features/mend/proposal";
import type { OrderView } from "@/features/mend/view";
import { say } from "@/features/mend/words/words";
import { placeWords } from "@/text/names";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Notice, Row, Text, Words } from "@/ui/kit/layout";
import { thenWords } from "./OrderForm";

/** As many as an order may hold. */
const MOST_CHECKS = 8;

type Props = { tag: string; order: OrderView; rungs: NextRungs; canWork: boolean };

/** Where a retest failed, or a check spoke: what all that is known now says comes next, one press from being in the order. */
export function NextRung({ tag, order, rungs, canWork }: Props) {
  // what was put in already and is not done yet needs no second offer
  const isHeld = (p: Proposed) =>
    order.body.targets.some(
      (t) => t.faultId === p.faultId && order.line.some((s) => s.key === `mend:${t.key}` && !s.done),
    );
  const failed = rungs.next.filter((p) => !isHeld(p));
  return (
    <>
      {failed.map((p) => (
        <Notice key={p.faultId} severity="warning" role="note" after={1.5}>
          <Text strong>{say("theRetestFailedAt", { place: placeWords(p.place) })}</Text>
          {p.route === null ? (
            <Words>
              {say("noFurtherRungPays")} <Link href={`/units/${tag}/decide`}>{say("decideAnew")}</Link>
            </Words>
          ) : (
            <Offered {...{ tag, order, rungs, canWork }} rung={p} inPlaceOf={null} />
          )}
        </Notice>
      ))}
      {rungs.instead.map(({ key, rung }) => (
        <Notice key={`instead ${key}`} severity="info" role="note" after={1.5}>
          <Text strong>{say("whatWasSeenSpeaksFor", { place: placeWords(rung.place) })}</Text>
          <Offered {...{ tag, order, rungs, canWork, rung }} inPlaceOf={key} />
        </Notice>
      ))}
    </>
  );
}

function Offered({
  order,
  rungs,
  canWork,
  rung,
  inPlaceOf,
}: Props & { rung: Proposed; inPlaceOf: number | null }) {
  const change = useDeed("work.change");
  const put = () => {
    const { faultId, what, slot, route, then } = rung;
    const held = order.body.targets.flatMap((t) =>
      t.key === inPlaceOf
        ? []
        : {
            faultId: t.faultId as typeof faultId,
            what: t.what,
            slot: t.slot,
            route: t.route,
            then: t.then ?? [],
          },
    );
    return change.run({
      orderId: order.id,
      version: order.version,
      cleaningLevel: order.body.cleaningLevel,
      calibrate: order.body.calibrate,
      // an order holds so many checks: the oldest, which are answered, make room
      checks: [...(order.body.checks ?? []), ...rungs.looks.map((l) => l.id)].slice(-MOST_CHECKS),
      targets: [
        ...held,
        { faultId, what: `${what}: ${placeWords(rung.place)}`.slice(0, 120), slot, route, then },
      ],
    });
  };
  return (
    <>
      <Words>
        {say("nextRungIs", { route: rung.what, works: Math.round((rung.works ?? 0) * 100) })}{" "}
        {thenWords(rung.then, rungs.names)}
      </Words>
      {rungs.looks.length > 0 && (
        <Words>{say("beforeItLookAt", { looks: rungs.looks.map((l) => l.name).join("; ") })}</Words>
      )}
      {canWork && (
        <Row gap={1} before={1}>
          <Button variant="contained" disabled={change.running} onClick={() => void put()}>
            {inPlaceOf === null ? say("putItIntoTheOrder") : say("takeItInstead")}
          </Button>
        </Row>
      )}
      <Problem problem={change.problem} />
    </>
  );
}
