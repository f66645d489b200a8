"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";

import type { Settings } from "@/contract/deeds";
import type { Rates } from "@/core/money/rates";
import { say } from "@/features/people/words/words";
import { measureName } from "@/text/measures";
import { Problem } from "@/ui/deed/Problem";
import { Form } from "@/ui/fields/Form";
import { BoundField } from "@/ui/form/BoundField";
import { codeWords } from "@/words/codes";
import {
  NUMBERS,
  PROVES,
  RATES,
  RISKS,
  SINGLES,
  type ShopSettingsProps,
  type ShopSettingsState,
  TAXES,
  THREE,
  WORDS,
  useShopSettings,
} from "./useShopSettings";

/** The shop's own names, money, floor and limits; for leads. Limits are typed in percent of travel. */
export function ShopSettings(props: ShopSettingsProps) {
  const s = useShopSettings(props);
  const { deed, singles, setSingles, risks, setRisks, saved, bad, save } = s;

  return (
    <Form onSend={save} sx={{ maxWidth: 900, display: "grid", gap: 2, gridTemplateColumns: "minmax(0,1fr)" }}>
      <Typography component="h1" variant="h1">
        {say("shopAndLimits")}
      </Typography>
      <ShopFields {...s} />
      <Typography component="h2" variant="h2">
        {say("moneyAndTime")}
      </Typography>
      <RateFields {...s} />
      <Typography component="h2" variant="h2">
        {say("proofAndWarranty")}
      </Typography>
      <ProofFields {...s} />
      <Typography component="h2" variant="h2">
        {say("whatTheShopDoesNotDo")}
      </Typography>
      <HouseFields {...s} />
      <Typography component="h2" variant="h2">
        {say("incomingBatches")}
      </Typography>
      <Box sx={{ ...THREE, gridTemplateColumns: { xs: "minmax(0,1fr)", sm: "repeat(2, minmax(0,1fr))" } }}>
        {RISKS.map(([k, label]) => (
          <TextField
            key={k}
            label={`${label}, %`}
            value={risks[k]}
            onChange={(e) => setRisks({ ...risks, [k]: e.target.value })}
            slotProps={{ htmlInput: { inputMode: "decimal" } }}
          />
        ))}
      </Box>
      <Typography component="h2" variant="h2">
        {say("limitsOfTheHousePercentOf")}
      </Typography>
      <LimitFields {...s} />
      <Typography component="h2" variant="h2">
        {say("pressesAndTheBench")}
      </Typography>
      <Typography color="text.secondary">{say("theTestOfPressesCanBe")}</Typography>
      <Box sx={THREE}>
        {SINGLES.map(([group, key, label, unit]) => (
          <TextField
            key={key}
            label={unit ? `${label}, ${unit}` : label}
            value={singles[`${group}.${key}`]}
            onChange={(e) => setSingles({ ...singles, [`${group}.${key}`]: e.target.value })}
            slotProps={{ htmlInput: { inputMode: "decimal" } }}
          />
        ))}
      </Box>
      <Typography color="text.secondary">{say("testsAlreadyStoredKeepTheGrade")}</Typography>
      {bad && <Alert severity="error">{say("badIsNoNumberUseDigits", { bad: bad[1] })}</Alert>}
      <Problem problem={deed.problem} />
      {saved && <Alert severity="success">{say("saved")}</Alert>}
      <Box>
        <Button type="submit" variant="contained" size="large" disabled={deed.running}>
          {say("save")}
        </Button>
      </Box>
    </Form>
  );
}

function ShopFields({ v, setV, numbers, setNumbers }: ShopSettingsState) {
  return (
    <Box sx={THREE}>
      {WORDS.map(([k, label]) => (
        <BoundField
          key={k}
          deed="settings.save"
          name={`settings.${k}`}
          label={label}
          required={k !== "town"}
          value={v[k]}
          onChange={(text) => setV({ ...v, [k]: text })}
        />
      ))}
      <TextField
        select
        label={say("lowestGradeToRelease")}
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
        <BoundField
          key={k}
          deed="settings.save"
          name={`settings.${k}`}
          label={label}
          value={numbers[k]!}
          onChange={(text) => setNumbers({ ...numbers, [k]: text })}
        />
      ))}
    </Box>
  );
}

function RateFields({ v, rates, setRates, setV }: ShopSettingsState) {
  return (
    <Box sx={THREE}>
      {RATES.map(([k, label, unit]) => (
        <TextField
          key={k}
          label={unit ? `${label}, ${unit === "money" ? v.currency : codeWords(unit)}` : label}
          value={rates[k]}
          onChange={(e) => setRates({ ...rates, [k]: e.target.value })}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
        />
      ))}
      <TextField
        select
        label={say("tax")}
        value={v.rates.tax}
        onChange={(e) => setV({ ...v, rates: { ...v.rates, tax: e.target.value as Rates["tax"] } })}
      >
        {Object.entries(TAXES).map(([k, words]) => (
          <MenuItem key={k} value={k}>
            {words}
          </MenuItem>
        ))}
      </TextField>
    </Box>
  );
}

function ProofFields({ proves, setProves, v, setV }: ShopSettingsState) {
  return (
    <Box sx={THREE}>
      {PROVES.map(([k, label]) => (
        <TextField
          key={k}
          label={label}
          value={proves[k]}
          onChange={(e) => setProves({ ...proves, [k]: e.target.value })}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
        />
      ))}
      <FormControlLabel
        control={
          <Checkbox
            checked={v.prove.otherHand}
            onChange={(e) => setV({ ...v, prove: { ...v.prove, otherHand: e.target.checked } })}
          />
        }
        label={say("whoMendedDoesNotProve")}
      />
    </Box>
  );
}

/** What no odds outweigh; Decide says where a rule left a route out. */
function HouseFields({ v, setV }: ShopSettingsState) {
  const set = (house: Partial<Settings["house"]>) => setV({ ...v, house: { ...v.house, ...house } });
  return (
    <Box>
      <FormControlLabel
        control={
          <Checkbox
            checked={!v.house.copiesForSale}
            onChange={(e) => set({ copiesForSale: !e.target.checked })}
          />
        }
        label={say("noCopiesInWhatIsSold")}
      />
      <FormControlLabel
        control={
          <Checkbox
            checked={v.house.sensorOnlyOnSound}
            onChange={(e) => set({ sensorOnlyOnSound: e.target.checked })}
          />
        }
        label={say("sensorsOnlyOnSoundSticks")}
      />
      <Typography color="text.secondary">{say("toolsDecideToo")}</Typography>
    </Box>
  );
}

function LimitFields({ settings, limits, setLimits }: ShopSettingsState) {
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: {
          xs: "minmax(0, 1.4fr) repeat(3, minmax(0, 1fr))",
          sm: "minmax(150px, 1fr) repeat(3, 110px)",
        },
        gap: 1,
        alignItems: "center",
      }}
    >
      <span />
      {["A", "B", "C"].map((g) => (
        <b key={g}>{say("gradeG", { g })}</b>
      ))}
      {(["stick", "trigger"] as const).flatMap((kind) =>
        Object.keys(settings.limits[kind]).flatMap((m) => [
          <span key={`${kind}.${m}`}>
            {codeWords(kind)}: {measureName(m)}
            {["reachMin", "fullPull"].includes(m) ? say("atLeast") : ""}
          </span>,
          ...["A", "B", "C"].map((g) => {
            const key = `${kind}.${m}.${g}`;
            return (
              <TextField
                key={key}
                value={limits[key]}
                onChange={(e) => setLimits({ ...limits, [key]: e.target.value })}
                slotProps={{
                  htmlInput: {
                    "aria-label": say("limitOfGrade", {
                      kind: codeWords(kind),
                      measure: measureName(m),
                      grade: g,
                    }),
                    inputMode: "decimal",
                  },
                }}
              />
            );
          }),
        ]),
      )}
    </Box>
  );
}
