"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import type { Id } from "@/core/base/ids";
import { PLACE_FINDINGS, type PlaceFinding } from "@/core/diagnosis/places";
import type { Wiring } from "@/core/profile/wiring";
import type { FindView, ObservationView } from "@/features/find/view";
import { PLACE_WORDS, outcomeWords, readingWords } from "@/features/find/words/text";
import { say } from "@/features/find/words/words";
import { dayAndTime } from "@/text/format";
import { Refusals } from "@/ui/deed/Refusals";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { StateMark } from "@/ui/state/StateMark";
import { codeWords } from "@/words/codes";

export type Common = { unitId: Id<"unit">; find: FindView; wiring: Wiring; shop: Settings; canWork: boolean };

export const partName = (wiring: Wiring, id: string) =>
  wiring.nodes.find((n) => n.id === id)?.name ?? wiring.points.find((p) => p.id === id)?.name ?? id;

export function PartSelect({
  wiring,
  label,
  value,
  onChange,
  empty,
}: {
  wiring: Wiring;
  label: string;
  value: string;
  onChange: (id: string) => void;
  empty?: string;
}) {
  return (
    <NativeSelect
      label={label}
      value={value}
      onChange={(e) => onChange(e.target.value)}
      sx={{ minWidth: 230 }}
    >
      <option value="">{empty ?? say("pickAPart")}</option>
      {wiring.nodes.map((n) => (
        <option key={n.id} value={n.id}>
          {n.name}
        </option>
      ))}
    </NativeSelect>
  );
}

/** What Observations knows and does; the components below only show it. */
function useObservations({
  unitId,
  find,
  wiring,
  shop,
  canWork,
  picked,
}: Common & { picked: string | null }) {
  const observe = useDeed("find.observe");
  const withdraw = useDeed("find.withdraw");
  const [part, setPart] = useState<string | null>(null);
  const [finding, setFinding] = useState<PlaceFinding>("corrosion-slight");
  const at = part ?? picked ?? "";
  return { unitId, find, wiring, shop, canWork, observe, withdraw, setPart, finding, setFinding, at };
}

type ObservationsState = ReturnType<typeof useObservations>;

/** What was seen at places and by checks, and one more to write down. */
export function Observations(props: Common & { picked: string | null }) {
  const s = useObservations(props);
  const { find, observe, withdraw } = s;

  return (
    <Box component="section" aria-label={say("whatWasSeenInside")}>
      <Observed {...s} />
      <ReadAtBench {...s} />
      {find.observations.length + find.readings.length === 0 && (
        <Typography color="text.secondary">{say("nothingWasSeenInsideYet")}</Typography>
      )}
      <SeenInside {...s} />
      <Refusals refusals={[...observe.refusals, ...withdraw.refusals]} />
    </Box>
  );
}

const LINE = {
  display: "flex",
  gap: 1,
  alignItems: "center",
  borderBottom: 1,
  borderColor: "divider",
  py: 0.4,
};

/** Why something that was seen or read does not count any more. */
function Before({ ended, shop }: { ended: ObservationView["ended"]; shop: Settings }) {
  if (!ended) return null;
  return (
    <Typography component="span" color="text.secondary">
      {" "}
      {say("beforeWork", { how: codeWords(ended.how), day: dayAndTime(ended.at, shop) })}
    </Typography>
  );
}

/** What the bench read of parts here: it is known, also where nobody looked inside. */
function ReadAtBench({ find, shop }: ObservationsState) {
  return find.readings.map((r) => (
    <Box key={r.id} sx={LINE}>
      <StateMark state={r.ended || r.verdict === "doubtful" ? "untested" : r.verdict} size={16} />
      <span>
        {readingWords(r)}. {dayAndTime(r.at, shop)}
        <Before ended={r.ended} shop={shop} />
      </span>
    </Box>
  ));
}
function Observed({ find, wiring, shop, canWork, withdraw }: ObservationsState) {
  const standing = find.observations.filter((o) => !o.ended);
  return [...standing, ...find.observations.filter((o) => o.ended)].map((o) => (
    <Box key={o.id} sx={LINE}>
      <span>
        <b>
          {partName(
            wiring,
            o.target.replace(
              /^(look|probe|measure|compare|swap-twin|swap-donor|reseat|disconnect|flex|cool)\./,
              "",
            ),
          )}
        </b>
        {o.kind === "check" && ` (${codeWords(o.target.split(".")[0]!)})`}:{" "}
        {o.value !== null && `${o.value}, `}
        {o.outcome in PLACE_WORDS ? PLACE_WORDS[o.outcome as PlaceFinding] : outcomeWords(o.outcome)}. {o.by},{" "}
        {dayAndTime(o.at, shop)}
        <Before ended={o.ended} shop={shop} />
      </span>
      {canWork && !o.ended && (
        <Button
          size="small"
          sx={{ ml: "auto", flexShrink: 0 }}
          onClick={() => void withdraw.run({ observationId: o.id })}
        >
          {say("withdraw")}
        </Button>
      )}
    </Box>
  ));
}

function SeenInside({
  canWork,
  at,
  observe,
  unitId,
  finding,
  wiring,
  setPart,
  setFinding,
}: ObservationsState) {
  return (
    canWork && (
      <Form
        sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 1.5 }}
        onSend={() => {
          if (at)
            void observe.run({
              unitId,
              kind: "place",
              target: at,
              outcome: finding,
              value: null,
              note: "",
            });
        }}
      >
        <PartSelect wiring={wiring} label={say("seenAt")} value={at} onChange={setPart} />
        <NativeSelect
          label={say("what")}
          value={finding}
          onChange={(e) => setFinding(e.target.value as PlaceFinding)}
          sx={{ minWidth: 190 }}
        >
          {(Object.keys(PLACE_FINDINGS) as PlaceFinding[]).map((f) => (
            <option key={f} value={f}>
              {PLACE_WORDS[f]}
            </option>
          ))}
        </NativeSelect>
        <Button type="submit" variant="outlined" disabled={!at}>
          {say("writeItDown")}
        </Button>
      </Form>
    )
  );
}
