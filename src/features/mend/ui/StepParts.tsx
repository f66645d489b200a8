import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Link from "next/link";

import type { OrderView } from "@/features/mend/view";
import { toolName } from "@/features/mend/words/text";
import { say } from "@/features/mend/words/words";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { BoundField } from "@/ui/form/BoundField";
import type { StepState } from "./useStep";
import { Row, Text, Words } from "@/ui/kit/layout";

export function ToolsOfStep({ step }: StepState) {
  return (
    <Text color="text.secondary" size="body">
      {[
        step.tools.length > 0 && say("toolsTools", { tools: step.tools.map(toolName).join(", ") }),
        step.phase === "apart" && step.step?.hands === 2 && say("aSecondPairOfHandsHelps"),
        step.step?.light && say("lightAndMagnifier"),
        step.step?.noises,
        step.difficulty >= 4 && say("hard2"),
        step.fragility >= 4 && say("fragile2"),
      ]
        .filter(Boolean)
        .join(" ")}
    </Text>
  );
}

export function TipsOfStep({ mine }: StepState) {
  return (
    mine.length > 0 && (
      <Box
        sx={{ borderLeft: 4, borderColor: "primary.main", pl: 1.5 }}
        role="note"
        aria-label={say("fromEarlierJobs")}
      >
        {mine.map((t) => (
          <div key={t.id}>
            {t.words}{" "}
            <Words component="span" quiet>
              ({t.state === "confirmed" ? say("confirmedHere") : say("notConfirmed")}
              {t.source && say("fromSource", { source: t.source })}, {t.by})
            </Words>
          </div>
        ))}
      </Box>
    )
  );
}

export function PieceFromShelf({ target, shelf, piece, setPiece }: StepState) {
  return (
    target &&
    shelf.some((s) => s.slot === target.slot) && (
      <NativeSelect
        label={say("pieceFromTheShelf")}
        value={piece}
        onChange={(e) => setPiece(e.target.value)}
        sx={{ maxWidth: 520 }}
      >
        <option value="">{say("none")}</option>
        {shelf
          .filter((s) => s.slot === target.slot)
          .map((s) => (
            <option key={s.batchId} value={s.batchId}>
              {s.batch}, {s.name}
            </option>
          ))}
      </NativeSelect>
    )
  );
}

export function PartByHand({
  target,
  step,
  piece,
  canWork,
  part,
  setPart,
  currency,
  cost,
  setCost,
}: StepState) {
  return (
    target &&
    !step.done &&
    piece === "" &&
    canWork && (
      <Box sx={{ display: "flex", gap: 1, maxWidth: 520 }}>
        <BoundField
          deed="work.do"
          name="part"
          label={say("partUsedNotFromTheShelf")}
          value={part}
          onChange={setPart}
        />
        <BoundField
          deed="work.do"
          name="partMinor"
          label={say("itsCostCurrency", { currency })}
          value={cost}
          onChange={setCost}
          sx={{ width: 160 }}
        />
      </Box>
    )
  );
}

export function GateTests({ step, unit, why, setWhy }: StepState) {
  return (
    step.phase === "gate" && (
      <Row gap={1} at="center">
        <Button
          component={Link}
          href={`/units/${unit.tag}/test/run?kind=${step.key === "gate:open" ? "quick" : "full"}&for=work`}
          variant="outlined"
          size="large"
        >
          {step.key === "gate:open" ? say("quickLookNow") : say("runTheFullTest")}
        </Button>
        {step.key === "gate:open" && (
          <BoundField
            deed="work.do"
            name="event.why"
            label={say("orWhyItIsNotTested")}
            value={why}
            onChange={setWhy}
            sx={{ width: 320 }}
          />
        )}
      </Row>
    )
  );
}

const MOST_EARLIER = 3;

/** Photographs of this step: of this unit, and the newest of earlier ones of its model. */
export function PicturesOfStep({ photos }: StepState) {
  const own = photos.filter((p) => !p.earlier);
  const earlier = photos.filter((p) => p.earlier).slice(0, MOST_EARLIER);
  const shown = (list: StepState["photos"]) =>
    list.map((p) => (
      // eslint-disable-next-line @next/next/no-img-element -- served by our own route, small already
      <img
        key={p.id}
        src={`/api/photos/${p.id}?small=1`}
        alt={p.caption}
        height={92}
        style={{ borderRadius: 6 }}
      />
    ));
  return (
    photos.length > 0 && (
      <Row gap={1} at="end" aria-label={say("picturesOfThisStep")}>
        {shown(own)}
        {earlier.length > 0 && (
          <Words size="small" quiet>
            {say("ofEarlierUnits")}
          </Words>
        )}
        {shown(earlier)}
      </Row>
    )
  );
}

/** The revision is often known only once the shell is open; the branch follows it. */
export function WhichInside({ order }: { order: OrderView }) {
  const set = useDeed("work.revision");
  return (
    <Row role="group" aria-label={say("whichRevisionIsItInside")} gap={1} at="center">
      <b>{say("whichIsItInside")}</b>
      {order.revisions.map((r) => (
        <Button
          key={r.id}
          variant="outlined"
          disabled={set.running}
          onClick={() => void set.run({ orderId: order.id, revision: r.id })}
        >
          {r.name}: {r.inside}
        </Button>
      ))}
      <Problem problem={set.problem} />
    </Row>
  );
}
