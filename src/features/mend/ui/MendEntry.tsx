"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import { CAUSE_WORDS } from "@/features/case/words/text";
import { say } from "@/features/mend/words/words";
import type { MendView, UnitView } from "@/features/units/view";
import { day, dayAndTime } from "@/text/format";
import { placeWords } from "@/text/names";
import { Problem } from "@/ui/deed/Problem";
import { Form } from "@/ui/fields/Form";
import { FIGURES } from "@/ui/figures";
import { TypedField } from "@/ui/form/TypedField";
import { useDeedForm } from "@/ui/form/useDeedForm";
import { SIZE } from "@/ui/tokens";
import { Block, Row, Words } from "@/ui/kit/layout";

function EditEntry({ mend, onDone }: { mend: MendView; onDone: () => void }) {
  const form = useDeedForm("mend.edit", {
    start: { what: mend.what, part: mend.part, minutes: String(mend.minutes), remark: mend.remark },
    rest: () => ({ mendId: mend.id, version: mend.version }),
    onDone,
  });
  return (
    <Form
      noValidate
      onSend={form.send}
      sx={{
        display: "grid",
        gap: 1,
        gridTemplateColumns: { sm: "2fr 1fr 0.6fr" },
        py: 1.5,
        borderTop: 1,
        borderColor: "divider",
      }}
    >
      <TypedField form={form} name="what" label={say("whatWasDone")} autoFocus />
      <TypedField form={form} name="part" label={say("partUsed")} />
      <TypedField form={form} name="minutes" label={say("minutes")} />
      <TypedField form={form} name="remark" label={say("remark")} sx={{ gridColumn: "1 / -1" }} />
      <Row gap={1} full oneLine>
        <Button type="submit" variant="contained" disabled={form.running}>
          {say("save")}
        </Button>
        <Button onClick={onDone}>{say("cancel")}</Button>
      </Row>
      <Block full>
        <Problem problem={form.problem} />
      </Block>
    </Form>
  );
}

export function Entry({ mend, view, canEdit }: { mend: MendView; view: UnitView; canEdit: boolean }) {
  const [editing, setEditing] = useState(false);
  const fault = view.faults.find((f) => f.id === mend.faultId);
  const after = view.recordings.find((r) => r.id === mend.afterRecordingId);
  if (editing) return <EditEntry mend={mend} onDone={() => setEditing(false)} />;
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: "84px minmax(0,1fr) auto",
        gap: 2,
        py: 1.2,
        borderTop: 1,
        borderColor: "divider",
        alignItems: "start",
      }}
    >
      <Box>
        <Box
          sx={{
            fontFamily: FIGURES,
            fontSize: SIZE.head,
            fontWeight: 700,
            lineHeight: 1,
          }}
        >
          {mend.minutes}
        </Box>
        <Words size="fine" quiet>
          {say("minutes2")}
        </Words>
      </Box>
      <Box>
        <Words strong>{mend.what}</Words>
        <Words size="small" quiet>
          {fault && say("faultNumberPlace", { number: fault.number, place: placeWords(fault.place) })}
          {mend.part && say("partPart", { part: mend.part })}
          {mend.remark && `${mend.remark}. `}
          {fault && fault.cause !== "not-known" && say("causeCause", { cause: CAUSE_WORDS[fault.cause] })}
          {mend.provisional &&
            say("goodForNowFallsBackOn2", {
              fallback: mend.provisional.fallback,
              reviewOn: day(mend.provisional.reviewOn, view.settings),
            })}
          {mend.opened ? say("open") : say("closed")}
          {mend.by}, {dayAndTime(mend.at, view.settings)}
          {after
            ? say("afterThePurposeOfStartedAt", {
                purpose: after.purpose === "full" ? say("fullTest") : say("quickLook"),
                startedAt: dayAndTime(after.startedAt, view.settings),
              })
            : say("beforeAnyTest")}
        </Words>
      </Box>
      {canEdit && (
        <Button size="small" onClick={() => setEditing(true)}>
          {say("edit")}
        </Button>
      )}
    </Box>
  );
}
