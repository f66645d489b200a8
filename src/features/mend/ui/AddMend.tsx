"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import { useSearchParams } from "next/navigation";
import { useState } from "react";

import { type MarkKey, isMark } from "@/contract/intake";
import { CAUSES, type Cause } from "@/contract/mend";
import { placeAt } from "@/core/profile/profile";
import { CAUSE_WORDS } from "@/features/case/words/text";
import { say } from "@/features/mend/words/words";
import type { UnitParts as Parts } from "@/features/parts/needs";
import type { UnitView } from "@/features/units/view";
import { money, typedAmount } from "@/text/format";
import { placeWords } from "@/text/names";
import { Problem } from "@/ui/deed/Problem";
import { DateField, isDay } from "@/ui/fields/DateField";
import { Form } from "@/ui/fields/Form";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { BoundField } from "@/ui/form/BoundField";
import { TypedField } from "@/ui/form/TypedField";
import { useDeedForm } from "@/ui/form/useDeedForm";
import { codeWords } from "@/words/codes";
import type { MendRoute } from "./route";
import { Block, Row } from "@/ui/kit/layout";

const pieceKey = (s: Parts["shelf"][number]): string => `${s.batchId} ${s.slot}`;

type AddMendProps = { view: UnitView; routes: MendRoute[]; parts: Parts };

type Chosen = {
  faultId: string;
  route: string;
  cause: Cause;
  shelf: Parts["shelf"][number] | null;
  opened: boolean;
  settles: boolean;
  fallback: string;
  reviewOn: string;
  marksGone: MarkKey[];
};
const NOTHING_CHOSEN: Chosen = {
  faultId: "",
  route: "",
  cause: "not-known",
  shelf: null,
  opened: true,
  settles: true,
  fallback: "",
  reviewOn: "",
  marksGone: [],
};

/** What AddMend knows and does; the components below only show it. */
function useAddMend({ view, routes, parts }: AddMendProps) {
  const asked = useSearchParams().get("fault");
  const open = view.faults.filter((f) => f.status === "open");
  const [chosen, setChosen] = useState<Chosen>({
    ...NOTHING_CHOSEN,
    faultId: open.find((f) => f.id === asked)?.id ?? open[0]?.id ?? "",
  });
  const choose = (change: Partial<Chosen>) => setChosen((had) => ({ ...had, ...change }));
  const { faultId, route, cause, shelf, opened, settles, fallback, reviewOn, marksGone } = chosen;
  const [noDay, setNoDay] = useState(false);
  const form = useDeedForm("mend.add", {
    start: {
      what: "",
      part: "",
      minutes: String(view.minutesNow),
      remark: "",
      partMinor: typedAmount(0),
      partGift: "",
    },
    rest: () => ({
      unitId: view.unit.id,
      faultId: faultId || null,
      opened,
      settlesFault: settles && faultId !== "",
      route: route || null,
      cause,
      fromStock: shelf && { batchId: shelf.batchId, slot: shelf.slot },
      marksGone,
      provisional: fallback.trim() && isDay(reviewOn) ? { fallback, reviewOn } : null,
    }),
    onDone: () => {
      form.again({ minutes: "0" });
      setChosen(NOTHING_CHOSEN);
    },
  });
  const marks = view.unit.intake.marks.filter((m) => m.gone === null);
  const place = view.faults.find((f) => f.id === faultId)?.place;
  const onShelf = parts.shelf.filter(
    (s) => place && view.profile.slots?.find((x) => x.id === s.slot)?.serves.includes(place),
  );
  const offered = routes.filter((r) => place && r.places.includes(place));
  /** A route says what is done by it; which part really went in, only who did it knows. */
  const follow = (id: string) => {
    const followed = offered.find((r) => r.id === id);
    choose({ route: id });
    if (followed && !form.now("what")) form.set("what", followed.name);
  };
  const taken = offered.find((r) => r.id === route);
  /** What the route usually takes is offered, and written down only when a hand takes it. */
  const takeUsual = () => {
    form.set("part", taken!.part);
    form.set("partMinor", typedAmount(taken!.partMinor));
  };
  const send = () => {
    const lacksDay = fallback.trim() !== "" && !isDay(reviewOn);
    setNoDay(lacksDay);
    if (!lacksDay) form.send();
  };
  return {
    ...chosen,
    choose,
    view,
    open,
    noDay,
    form,
    marks,
    onShelf,
    offered,
    follow,
    taken,
    takeUsual,
    send,
  };
}

type AddMendState = ReturnType<typeof useAddMend>;

export function AddMend(props: AddMendProps) {
  const s = useAddMend(props);
  const { view, open, faultId, choose, fallback, reviewOn, noDay, form, send } = s;

  return (
    <Form
      noValidate
      onSend={send}
      sx={{ display: "grid", gap: 1.5, gridTemplateColumns: { xs: "1fr", sm: "1.7fr 1.7fr 0.8fr" } }}
    >
      {view.mends.length === 0 && (
        <Alert severity="warning" sx={{ gridColumn: "1 / -1" }}>
          {say("beforeOpeningUnplugThePower")}
        </Alert>
      )}
      <TypedField form={form} name="what" label={say("whatWasDone")} />
      <NativeSelect
        label={say("toWhichFault")}
        value={faultId}
        onChange={(e) => choose({ faultId: e.target.value })}
      >
        <option value="">{say("noNamedFault")}</option>
        {open.map((f) => (
          <option key={f.id} value={f.id}>
            {`${f.number}. ${placeWords(f.place)}: ${f.kind}`}
          </option>
        ))}
      </NativeSelect>
      <TypedField form={form} name="minutes" label={say("minutes")} helperText={say("countedWhileOpen")} />
      <RouteOfMend {...s} />
      <PartOfMend {...s} />
      <TypedField
        form={form}
        name="partMinor"
        label={say("itsCostCurrency", { currency: view.settings.currency })}
      />
      <PieceOfMend {...s} />
      <TypedField form={form} name="remark" label={say("remark")} sx={{ gridColumn: { sm: "1 / 3" } }} />
      <TypedField
        form={form}
        name="partGift"
        label={say("aGiftFrom")}
        helperText={say("countsForTheJobCostsNo")}
      />
      <CauseOfFault {...s} />
      <BoundField
        deed="mend.add"
        name="provisional.fallback"
        label={say("goodForNowFallsBackOn")}
        value={fallback}
        onChange={(words) => choose({ fallback: words })}
      />
      <DateField
        label={say("lookAgainOn")}
        shop={view.settings}
        value={reviewOn}
        onChange={(day) => choose({ reviewOn: day })}
        error={noDay && !isDay(reviewOn)}
        helperText={noDay && !isDay(reviewOn) ? say("nameTheDay") : undefined}
      />
      <MarksGone {...s} />
      <LogMend {...s} />
      <Block full>
        <Problem problem={form.problem} />
      </Block>
    </Form>
  );
}

function RouteOfMend({ route, follow, faultId, offered }: AddMendState) {
  return (
    <NativeSelect
      label={say("byWhichRoute")}
      value={route}
      onChange={(e) => follow(e.target.value)}
      helperText={faultId ? say("itsOddsLearnFromTheRetest") : say("chooseAFaultFirst")}
    >
      <option value="">{say("noneOfTheCatalogue")}</option>
      {offered.map((r) => (
        <option key={r.id} value={r.id}>
          {r.name}
        </option>
      ))}
    </NativeSelect>
  );
}

function PartOfMend({ form, taken, view, takeUsual }: AddMendState) {
  return (
    <TypedField
      form={form}
      name="part"
      label={say("partUsed")}
      helperText={
        taken?.part ? (
          <>
            {say("usualHerePartPartMinor", {
              part: taken.part,
              partMinor: money(taken.partMinor, view.settings),
            })}{" "}
            <Button size="small" onClick={takeUsual} sx={{ py: 0, minHeight: 0 }}>
              {say("itWasThis")}
            </Button>
          </>
        ) : undefined
      }
    />
  );
}

function PieceOfMend({ onShelf, shelf, choose }: AddMendState) {
  return (
    onShelf.length > 0 && (
      <NativeSelect
        label={say("pieceFromTheShelf")}
        value={shelf === null ? "" : pieceKey(shelf)}
        onChange={(e) => choose({ shelf: onShelf.find((s) => pieceKey(s) === e.target.value) ?? null })}
        sx={{ gridColumn: "1 / -1" }}
        helperText={shelf ? say("itsNameAndCostAreThe") : say("noneIsTakenOff")}
      >
        <option value="">{say("none")}</option>
        {onShelf.map((s) => (
          <option key={pieceKey(s)} value={pieceKey(s)}>
            {`${s.batch}, ${s.name}${s.mine ? say("putAsideForIt") : ""}`}
          </option>
        ))}
      </NativeSelect>
    )
  );
}

function CauseOfFault({ cause, choose, faultId }: AddMendState) {
  return (
    <NativeSelect
      label={say("whyTheFaultCame")}
      value={cause}
      onChange={(e) => choose({ cause: e.target.value as Cause })}
      disabled={!faultId}
    >
      {CAUSES.map((c) => (
        <option key={c} value={c}>
          {CAUSE_WORDS[c]}
        </option>
      ))}
    </NativeSelect>
  );
}

function MarksGone({ marks, marksGone, choose, view }: AddMendState) {
  return (
    marks.length > 0 && (
      <Box
        role="group"
        aria-label={say("marksThatWentWithIt")}
        sx={{ gridColumn: "1 / -1", display: "flex", flexWrap: "wrap", columnGap: 2, alignItems: "center" }}
      >
        <span>{say("wentWithItOfTheMarks")}</span>
        {marks.map(({ kind, x, y, face }) => {
          const on = marksGone.some((m) => isMark(m, { kind, x, y, face }));
          return (
            <FormControlLabel
              key={`${kind} ${x} ${y}`}
              control={
                <Checkbox
                  checked={on}
                  onChange={() =>
                    choose({
                      marksGone: on
                        ? marksGone.filter((m) => !isMark(m, { kind, x, y, face }))
                        : [...marksGone, { kind, x, y, face }],
                    })
                  }
                />
              }
              label={`${codeWords(kind)}, ${placeAt(view.profile, { x, y, face })}`}
            />
          );
        })}
      </Box>
    )
  );
}

function LogMend({ form, opened, faultId, settles, choose }: AddMendState) {
  return (
    <Row gap={2} full at="center">
      <Button type="submit" variant="contained" size="large" disabled={form.running}>
        {say("logIt")}
      </Button>
      <FormControlLabel
        control={<Checkbox checked={opened} onChange={(e) => choose({ opened: e.target.checked })} />}
        label={say("theUnitWasOpen")}
      />
      {faultId && (
        <FormControlLabel
          control={<Checkbox checked={settles} onChange={(e) => choose({ settles: e.target.checked })} />}
          label={say("theRetestIsGoodThisMends")}
        />
      )}
    </Row>
  );
}
