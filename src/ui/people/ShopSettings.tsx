"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import type { Limits } from "@/core/grade/limits";
import { measureName } from "@/text/measures";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";

const WORDS: [keyof Settings & ("shopName" | "town" | "currency" | "locale" | "timeZone"), string][] = [
  ["shopName", "Shop"],
  ["town", "Town"],
  ["currency", "Currency"],
  ["locale", "Locale"],
  ["timeZone", "Time zone"],
];
const NUMBERS: [keyof Settings & ("warrantyDays" | "labelWidthMm" | "labelHeightMm"), string][] = [
  ["warrantyDays", "Warranty, days"],
  ["labelWidthMm", "Label width, mm"],
  ["labelHeightMm", "Label height, mm"],
];

type Texts = Record<string, string>;
const limitTexts = (l: Limits): Texts =>
  Object.fromEntries(
    (["stick", "trigger"] as const).flatMap((kind) =>
      Object.entries(l[kind]).flatMap(([m, ladder]) =>
        (["A", "B", "C"] as const).map((g) => [`${kind}.${m}.${g}`, String(Math.round(ladder[g] * 10_000) / 100)]),
      ),
    ),
  );

/** The shop's own names, money, floor and limits; for leads. Limits are typed in percent of travel. */
export function ShopSettings({ settings, version }: { settings: Settings; version: number }) {
  const deed = useDeed("settings.save");
  const [v, setV] = useState(settings);
  const [numbers, setNumbers] = useState<Texts>(Object.fromEntries(NUMBERS.map(([k]) => [k, String(settings[k])])));
  const [limits, setLimits] = useState(limitTexts(settings.limits));
  const [saved, setSaved] = useState(false);
  const bad = [...Object.entries(numbers), ...Object.entries(limits)].find(([, t]) => !/^\d{1,4}([.,]\d{1,2})?$/.test(t.trim()));
  const number = (t: string) => Number(t.replace(",", "."));

  const save = async () => {
    if (bad) return;
    const kindLimits = (kind: "stick" | "trigger") =>
      Object.fromEntries(
        Object.keys(settings.limits[kind]).map((m) => [
          m,
          Object.fromEntries(
            (["A", "B", "C"] as const).map((g) => [g, Math.round(number(limits[`${kind}.${m}.${g}`]!) * 100) / 10_000]),
          ),
        ]),
      );
    const next = {
      ...v,
      ...(Object.fromEntries(NUMBERS.map(([k]) => [k, number(numbers[k]!)])) as Pick<
        Settings,
        "warrantyDays" | "labelWidthMm" | "labelHeightMm"
      >),
      limits: { stick: kindLimits("stick"), trigger: kindLimits("trigger") } as Limits,
    };
    const done = await deed.run({ version, settings: next });
    setSaved(done?.ok === true);
  };

  return (
    <Box
      component="form"
      onSubmit={(e) => {
        e.preventDefault();
        void save();
      }}
      sx={{ maxWidth: 900, display: "grid", gap: 2 }}
    >
      <Typography component="h1" variant="h1">
        Shop and limits
      </Typography>
      <Box sx={{ display: "grid", gridTemplateColumns: { sm: "repeat(3, 1fr)" }, gap: 1.5 }}>
        {WORDS.map(([k, label]) => (
          <TextField
            key={k}
            label={label}
            required={k !== "town"}
            value={v[k]}
            onChange={(e) => setV({ ...v, [k]: e.target.value })}
          />
        ))}
        <TextField
          select
          label="Lowest grade to release"
          value={v.floor}
          onChange={(e) => setV({ ...v, floor: e.target.value as Settings["floor"] })}
        >
          {["A", "B", "C"].map((g) => (
            <MenuItem key={g} value={g}>
              {g}
            </MenuItem>
          ))}
        </TextField>
        {NUMBERS.map(([k, label]) => (
          <TextField key={k} label={label} value={numbers[k]} onChange={(e) => setNumbers({ ...numbers, [k]: e.target.value })} />
        ))}
      </Box>
      <Typography component="h2" variant="h2">
        Limits of the house, percent of travel
      </Typography>
      <Box sx={{ display: "grid", gridTemplateColumns: "minmax(150px, 1fr) repeat(3, 110px)", gap: 1, alignItems: "center" }}>
        <span />
        {["A", "B", "C"].map((g) => (
          <b key={g}>grade {g}</b>
        ))}
        {(["stick", "trigger"] as const).flatMap((kind) =>
          Object.keys(settings.limits[kind]).flatMap((m) => [
            <span key={`${kind}.${m}`}>
              {kind}: {measureName(m)}
              {["reachMin", "fullPull"].includes(m) ? ", at least" : ""}
            </span>,
            ...["A", "B", "C"].map((g) => {
              const key = `${kind}.${m}.${g}`;
              return (
                <TextField
                  key={key}
                  value={limits[key]}
                  onChange={(e) => setLimits({ ...limits, [key]: e.target.value })}
                  slotProps={{ htmlInput: { "aria-label": `${kind} ${measureName(m)} grade ${g}`, inputMode: "decimal" } }}
                />
              );
            }),
          ]),
        )}
      </Box>
      <Typography color="text.secondary">Tests already stored keep the grade that they were given.</Typography>
      {bad && <Alert severity="error">{`"${bad[1]}" is no number: use digits, with at most two decimals.`}</Alert>}
      <Problem problem={deed.problem} />
      {saved && <Alert severity="success">Saved.</Alert>}
      <Box>
        <Button type="submit" variant="contained" size="large" disabled={deed.running}>
          Save
        </Button>
      </Box>
    </Box>
  );
}
