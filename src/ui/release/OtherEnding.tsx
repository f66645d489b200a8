"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { parseAmount } from "@/core/money/money";
import type { Ending } from "@/core/record/standing";
import type { UnitView } from "@/service/views";
import { ENDING_NAMES } from "@/text/words";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { say } from "@/words/release";

const OTHER: Exclude<Ending, "released">[] = ["returned-unmended", "sold-as-found", "donor", "scrap"];

/** Closed honestly in another way than released. */
export function OtherEnding({ view }: { view: UnitView }) {
  const deed = useDeed("unit.end");
  const [kind, setKind] = useState<(typeof OTHER)[number] | null>(null);
  const [known, setKnown] = useState("");
  const [price, setPrice] = useState("");
  const sold = price.trim() === "" ? null : parseAmount(price);
  const badPrice = price.trim() !== "" && sold === null;
  const choices = view.unit.swollen ? (["scrap"] as const) : OTHER;
  return (
    <Box component="section" aria-label={say("anotherEnding")} sx={{ mt: 3 }}>
      <Typography component="h3" variant="h2" sx={{ mb: 1 }}>
        {say("anotherEnding")}
      </Typography>
      <ToggleButtonGroup exclusive value={kind} onChange={(_e, k: typeof kind) => setKind(k)} sx={{ flexWrap: "wrap" }}>
        {choices.map((k) => (
          <ToggleButton key={k} value={k}>
            {view.unit.swollen ? say("handedOverAsScrap") : ENDING_NAMES[k]}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      {kind && (
        <Form
          onSend={() => {
            if (!badPrice) void deed.run({ unitId: view.unit.id, version: view.unit.version, kind, known, priceMinor: sold });
          }}
          sx={{ display: "grid", gap: 1.5, mt: 1.5, maxWidth: 720 }}
        >
          <TextField
            label={say("whatIsKnownFoundRuledOut")}
            required
            multiline
            minRows={2}
            value={known}
            onChange={(e) => setKnown(e.target.value)}
            autoFocus
          />
          {(kind === "sold-as-found" || kind === "donor") && (
            <TextField
              label={
                kind === "donor"
                  ? say("whatItsPartsBroughtSoFar", { currency: view.settings.currency })
                  : say("priceCurrency", { currency: view.settings.currency })
              }
              value={price}
              onChange={(e) => setPrice(e.target.value)}
              error={badPrice}
              helperText={badPrice ? say("anAmountSuchAs1250") : undefined}
              sx={{ maxWidth: 300 }}
            />
          )}
          <Box>
            <Button type="submit" variant="contained" disabled={deed.running}>
              {say("closeAsKind", { kind: ENDING_NAMES[kind] })}
            </Button>
          </Box>
          <Problem problem={deed.problem} />
        </Form>
      )}
    </Box>
  );
}
