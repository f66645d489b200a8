"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import { useState } from "react";

import type { Ending } from "@/core/record/standing";
import type { UnitView } from "@/features/units/view";
import { ENDING_NAMES } from "@/features/case/words/text";
import { Problem } from "@/ui/deed/Problem";
import { Form } from "@/ui/fields/Form";
import { TypedField } from "@/ui/form/TypedField";
import { useDeedForm } from "@/ui/form/useDeedForm";
import { say } from "@/features/release/words/words";
import { Block, Text } from "@/ui/kit/layout";

const OTHER: Exclude<Ending, "released">[] = ["returned-unmended", "sold-as-found", "donor", "scrap"];

/** Closed honestly in another way than released. */
export function OtherEnding({ view }: { view: UnitView }) {
  const [kind, setKind] = useState<(typeof OTHER)[number] | null>(null);
  const form = useDeedForm("unit.end", {
    start: { known: "", priceMinor: "" },
    rest: () => ({ unitId: view.unit.id, version: view.unit.version, kind: kind! }),
  });
  const choices = view.unit.swollen ? (["scrap"] as const) : OTHER;
  return (
    <Block component="section" aria-label={say("anotherEnding")} before={3}>
      <Text component="h3" variant="h2" after={1}>
        {say("anotherEnding")}
      </Text>
      <ToggleButtonGroup
        exclusive
        value={kind}
        onChange={(_e, k: typeof kind) => setKind(k)}
        sx={{ flexWrap: "wrap" }}
      >
        {choices.map((k) => (
          <ToggleButton key={k} value={k}>
            {view.unit.swollen ? say("handedOverAsScrap") : ENDING_NAMES[k]}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      {kind && (
        <Form noValidate onSend={form.send} sx={{ display: "grid", gap: 1.5, mt: 1.5, maxWidth: 720 }}>
          <TypedField
            form={form}
            name="known"
            label={say("whatIsKnownFoundRuledOut")}
            multiline
            minRows={2}
            autoFocus
          />
          {(kind === "sold-as-found" || kind === "donor") && (
            <TypedField
              form={form}
              name="priceMinor"
              label={
                kind === "donor"
                  ? say("whatItsPartsBroughtSoFar", { currency: view.settings.currency })
                  : say("priceCurrency", { currency: view.settings.currency })
              }
              sx={{ maxWidth: 300 }}
            />
          )}
          <Box>
            <Button type="submit" variant="contained" disabled={form.running}>
              {say("closeAsKind", { kind: ENDING_NAMES[kind] })}
            </Button>
          </Box>
          <Problem problem={form.problem} />
        </Form>
      )}
    </Block>
  );
}
