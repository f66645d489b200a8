"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { isCovered } from "@/core/prove/cover";
import type { ReleaseView } from "@/service/release-view";
import type { UnitView } from "@/service/views";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { say } from "@/words/release";

/** A unit comes back: for what, and to which mend and part it points. It changes the odds of that route at once. */
export function CameBack({ view, release, today }: { view: UnitView; release: ReleaseView; today: string }) {
  const deed = useDeed("unit.came-back");
  const [open, setOpen] = useState(false);
  const [words, setWords] = useState("");
  const [mendId, setMendId] = useState("");
  const [fittedId, setFittedId] = useState("");
  if (!open)
    return (
      <Button variant="outlined" onClick={() => setOpen(true)}>
        {say("itCameBack")}
      </Button>
    );
  const covered = release.after ? isCovered(release.after.covers, today, fittedId || null) : null;
  return (
    <Form
      aria-label={say("itCameBack")}
      onSend={() =>
        void deed.run({
          unitId: view.unit.id,
          version: view.unit.version,
          mendId: mendId || null,
          fittedId: fittedId || null,
          words,
        })
      }
      sx={{ display: "grid", gap: 1.2, maxWidth: 620, my: 1 }}
    >
      <Typography sx={{ fontWeight: 700 }}>
        {covered === null ? say("notHandedOverOnRecordNobody") : covered ? say("withinTheWarranty") : say("outOfWarranty")}
      </Typography>
      <TextField label={say("whatTheySayIsWrong")} value={words} onChange={(e) => setWords(e.target.value)} required autoFocus />
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
        <Button type="submit" variant="contained" disabled={!words.trim() || deed.running}>
          {say("takeItBackIn")}
        </Button>
      </Box>
      <Problem problem={deed.problem} />
    </Form>
  );
}
