"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { say } from "@/features/people/words/words";
import { BoundField } from "@/ui/form/BoundField";

type Named = Pick<Settings, "shopName" | "town" | "currency" | "locale" | "timeZone">;
const FIELDS: [keyof Named, string, string][] = [
  ["shopName", say("whatTheShopIsCalled"), say("standsOnEveryCertificateLabel")],
  ["town", say("town"), say("besideTheName")],
  ["currency", say("currency"), say("threeCapitalLettersAllAmounts")],
  ["locale", say("languageAndCountry"), say("howDatesAndAmountsAreWritten")],
  ["timeZone", say("timeZone"), say("suchAsEuropeDublin")],
];

/** Before anything else a new workshop says who it is: nothing may go out under another's name. */
export function FirstStart({ settings, version }: { settings: Settings; version: number }) {
  const deed = useDeed("settings.save");
  const [v, setV] = useState<Named>(settings);
  const ready = v.shopName.trim() !== "" && v.town.trim() !== "";
  return (
    <Form
      aria-label={say("theShop")}
      onSend={() => {
        if (ready) void deed.run({ version, settings: { ...settings, ...v } });
      }}
      sx={{ display: "grid", gap: 2, maxWidth: 480 }}
    >
      <Typography component="h1" variant="h1">
        {say("firstTheShop")}
      </Typography>
      {FIELDS.map(([key, label, help], i) => (
        <BoundField
          key={key}
          deed="settings.save"
          name={`settings.${key}`}
          label={label}
          helperText={help}
          value={v[key]}
          onChange={(text) => setV({ ...v, [key]: text })}
          autoFocus={i === 0}
          required={key === "shopName" || key === "town"}
        />
      ))}
      <Box>
        <Button type="submit" variant="contained" size="large" disabled={!ready || deed.running}>
          {say("goOnToTheBench")}
        </Button>
      </Box>
      <Problem problem={deed.problem} />
      <Typography color="text.secondary">{say("allOfItAndLimitsRates")}</Typography>
    </Form>
  );
}
