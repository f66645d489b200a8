"use client";

import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Button from "@mui/material/Button";
import { useState } from "react";

import { isCovered } from "@/core/prove/cover";
import type { ReleaseView } from "@/features/release/view";
import type { UnitView } from "@/features/units/view";
import { Problem } from "@/ui/deed/Problem";
import { Form } from "@/ui/fields/Form";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { TypedField } from "@/ui/form/TypedField";
import { useDeedForm } from "@/ui/form/useDeedForm";
import { say } from "@/features/release/words/words";
import { Row, Text } from "@/ui/kit/layout";

/**
 * A unit comes back: for what, and to which mend and part it points. It changes the odds of that route at
 * once.
 */
export function CameBack({ view, release, today }: { view: UnitView; release: ReleaseView; today: string }) {
  const [open, setOpen] = useState(false);
  const [mendId, setMendId] = useState("");
  const [fittedId, setFittedId] = useState("");
  const [broken, setBroken] = useState(false);
  const form = useDeedForm("unit.came-back", {
    start: { words: "", sealRead: "" },
    rest: () => ({
      unitId: view.unit.id,
      version: view.unit.version,
      mendId: mendId || null,
      fittedId: fittedId || null,
      sealBroken: broken,
    }),
  });
  if (!open)
    return (
      <Button variant="outlined" onClick={() => setOpen(true)}>
        {say("itCameBack")}
      </Button>
    );
  const covered = release.after ? isCovered(release.after.covers, today, fittedId || null) : null;
  const coverWords = () => {
    if (covered === null) return say("notHandedOverOnRecordNobody");
    if (covered) return say("withinTheWarranty");
    return say("outOfWarranty");
  };
  return (
    <Form
      aria-label={say("itCameBack")}
      noValidate
      onSend={form.send}
      sx={{ display: "grid", gap: 1.2, maxWidth: 620, my: 1 }}
    >
      <Text strong>{coverWords()}</Text>
      <TypedField form={form} name="words" label={say("whatTheySayIsWrong")} autoFocus />
      {release.stated?.seal && (
        <Row gap={1} at="center">
          {!broken && (
            <TypedField
              form={form}
              name="sealRead"
              label={say("numberOnOurSeal")}
              helperText={say("coverRestsOnTheSeal")}
            />
          )}
          <FormControlLabel
            control={<Checkbox checked={broken} onChange={(e) => setBroken(e.target.checked)} />}
            label={say("sealBrokenOrGone")}
          />
        </Row>
      )}
      <NativeSelect
        label={say("whichMendItPointsTo")}
        value={mendId}
        onChange={(e) => setMendId(e.target.value)}
        helperText={say("thatFaultOpensAgainAndThe")}
      >
        <option value="">{say("noneOfThem")}</option>
        {view.mends.map((m) => (
          <option key={m.id} value={m.id}>{`${m.number}. ${m.what} (${m.by})`}</option>
        ))}
      </NativeSelect>
      {release.parts.length > 0 && (
        <NativeSelect
          label={say("whichFittedPartItPointsTo")}
          value={fittedId}
          onChange={(e) => setFittedId(e.target.value)}
          helperText={say("itsBatchAndSupplierLearnFrom")}
        >
          <option value="">{say("noneOfThem")}</option>
          {release.parts.map((p) => (
            <option key={p.id} value={p.id}>{`${p.name}, ${p.place}`}</option>
          ))}
        </NativeSelect>
      )}
      <Box>
        <Button type="submit" variant="contained" disabled={form.running}>
          {say("takeItBackIn")}
        </Button>
      </Box>
      <Problem problem={form.problem} />
    </Form>
  );
}
