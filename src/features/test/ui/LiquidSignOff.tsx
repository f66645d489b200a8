"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { UnitView } from "@/features/units/view";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { say } from "@/features/test/words/words";
import { Notice } from "@/ui/kit/layout";

const STEPS = [
  ["opened", say("openedWithoutAnyPower")],
  ["unplugged", say("cellUnpluggedByItsPlugNot")],
  ["inspected", say("inspectedBoardsPlugsAndContacts")],
  ["dry", say("dryAllThrough")],
] as const;

/** A unit that took liquid is not powered until these four stand. */
export function LiquidSignOff({ view, canWork }: { view: UnitView; canWork: boolean }) {
  const deed = useDeed("unit.clear-liquid");
  const [ticked, setTicked] = useState<string[]>([]);
  return (
    <Box sx={{ maxWidth: 680 }}>
      <Notice severity="warning" after={2}>
        {say("theTestIsSkippedThisUnit")}
      </Notice>
      <Typography component="h2" variant="h2">
        {say("beforeAnyPower")}
      </Typography>
      <Box sx={{ display: "grid", my: 1 }}>
        {STEPS.map(([id, words]) => (
          <FormControlLabel
            key={id}
            disabled={!canWork}
            control={
              <Checkbox
                checked={ticked.includes(id)}
                onChange={(e) =>
                  setTicked(e.target.checked ? [...ticked, id] : ticked.filter((t) => t !== id))
                }
              />
            }
            label={words}
          />
        ))}
      </Box>
      {canWork && (
        <Button
          variant="contained"
          size="large"
          disabled={ticked.length < STEPS.length || deed.running}
          onClick={() =>
            void deed.run({
              unitId: view.unit.id,
              version: view.unit.version,
              opened: true,
              unplugged: true,
              inspected: true,
              dry: true,
            })
          }
        >
          {say("signOffAsDry")}
        </Button>
      )}
      <Problem problem={deed.problem} />
    </Box>
  );
}
