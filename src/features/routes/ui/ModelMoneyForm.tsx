"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import { FAMILIES, type Family } from "@/core/decide/families";
import type { Route } from "@/core/decide/routes";
import { readAmount } from "@/text/format";
import type { Market } from "@/core/profile/slots";
import type { ModelMoney } from "@/features/routes/deeds";
import { FAMILY_WORDS } from "@/features/decide/words/text";
import { Amount } from "@/features/buying/ui/Amount";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { say } from "@/features/decide/words/words";
import { typedAmount } from "@/text/format";
import { BoundField } from "@/ui/form/BoundField";
import { Block, Row, Text } from "@/ui/kit/layout";

type Line = { key: string; name: string; value: ModelMoney; version: number };
type Props = { models: Line[]; routes: Route[]; shop: Settings; canEdit: boolean };

const PRICES: [keyof Market, string][] = [
  ["newMinor", say("new")],
  ["aMinor", say("mendedGradeA")],
  ["bMinor", say("gradeB")],
  ["cMinor", say("gradeC")],
  ["asFoundMinor", say("withAFaultAsFound")],
];

/** Going prices and standing rules, a model at a time. */
export function ModelMoneyForm({ models, routes, shop, canEdit }: Props) {
  const [key, setKey] = useState(models[0]?.key ?? "");
  const model = models.find((m) => m.key === key);
  return (
    <Block component="section" aria-label={say("pricesAndRules")} before={4}>
      <Text component="h2" variant="h2" after={1}>
        {say("goingPricesAndStandingRules")}
      </Text>
      <TextField
        select
        label={say("model")}
        value={key}
        onChange={(e) => setKey(e.target.value)}
        sx={{ width: 220, mb: 1.5 }}
      >
        {models.map((m) => (
          <MenuItem key={m.key} value={m.key}>
            {m.name}
          </MenuItem>
        ))}
      </TextField>
      {model && (
        <OneModel
          key={`${model.key} ${model.version}`}
          model={model}
          routes={routes}
          shop={shop}
          canEdit={canEdit}
        />
      )}
    </Block>
  );
}

type OneModelProps = {
  model: Line;
  routes: Route[];
  shop: Settings;
  canEdit: boolean;
};

/** What OneModel knows and does; the components below only show it. */
function useOneModel({ model, routes, shop, canEdit }: OneModelProps) {
  const deed = useDeed("model.save-money");
  const [prices, setPrices] = useState(
    Object.fromEntries(PRICES.map(([k]) => [k, typedAmount(model.value.market[k])])),
  );
  const [rules, setRules] = useState(model.value.rules);
  const [saved, setSaved] = useState(false);
  const bad = Object.values(prices).some((t) => readAmount(t) === null) || rules.some((r) => r.route === "");
  const change = (i: number, next: Partial<(typeof rules)[number]>) =>
    setRules(rules.map((r, k) => (k === i ? { ...r, ...next } : r)));
  const save = async () => {
    const market = Object.fromEntries(PRICES.map(([k]) => [k, readAmount(prices[k]!)!])) as Market;
    const done = await deed.run({ key: model.key, version: model.version, market, rules });
    setSaved(done?.ok === true);
  };
  return { routes, shop, canEdit, deed, prices, setPrices, rules, setRules, saved, bad, change, save };
}
type OneModelState = ReturnType<typeof useOneModel>;

function OneModel(props: OneModelProps) {
  const s = useOneModel(props);
  const { deed, rules, bad, save } = s;

  return (
    <Form
      onSend={() => {
        if (!bad) void save();
      }}
      sx={{ display: "grid", gap: 1.5, maxWidth: 1000 }}
    >
      <MarketFields {...s} />
      <RuleFields {...s} />
      {rules.length === 0 && (
        <Typography color="text.secondary">{say("noStandingRuleTheLadderChooses")}</Typography>
      )}
      <SaveMoney {...s} />
      <Problem problem={deed.problem} />
    </Form>
  );
}

function MarketFields({ shop, prices, setPrices }: OneModelState) {
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: "repeat(auto-fill, minmax(min(100%, 230px), 1fr))",
        gap: 1,
      }}
    >
      {PRICES.map(([k, label]) => (
        <Amount
          key={k}
          label={`${label}, ${shop.currency}`}
          value={prices[k]!}
          onChange={(v) => setPrices({ ...prices, [k]: v })}
        />
      ))}
    </Box>
  );
}

function RuleFields({ rules, change, canEdit, routes, setRules }: OneModelState) {
  return rules.map((r, i) => (
    <Box
      key={i}
      sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr 1.4fr 1.4fr auto" }, gap: 1 }}
    >
      <TextField
        select
        label={say("forA")}
        value={r.family}
        onChange={(e) => change(i, { family: e.target.value as Family })}
        disabled={!canEdit}
      >
        {FAMILIES.map((f) => (
          <MenuItem key={f} value={f}>
            {FAMILY_WORDS[f]}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        label={say("whenAlso")}
        value={r.also ?? ""}
        onChange={(e) => change(i, { also: (e.target.value || null) as Family | null })}
        disabled={!canEdit}
      >
        <MenuItem value="">{say("always")}</MenuItem>
        {FAMILIES.map((f) => (
          <MenuItem key={f} value={f}>
            {FAMILY_WORDS[f]}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        label={say("use")}
        value={r.route}
        onChange={(e) => change(i, { route: e.target.value })}
        disabled={!canEdit}
      >
        {routes
          .filter((x) => x.treats.some((t) => t.family === r.family))
          .map((x) => (
            <MenuItem key={x.id} value={x.id}>
              {x.name}
            </MenuItem>
          ))}
      </TextField>
      <BoundField
        deed="model.save-money"
        name="rules.*.why"
        label={say("why")}
        value={r.why}
        onChange={(why) => change(i, { why })}
        disabled={!canEdit}
      />
      {canEdit && (
        <Button color="inherit" onClick={() => setRules(rules.filter((_, k) => k !== i))}>
          {say("remove")}
        </Button>
      )}
    </Box>
  ));
}

function SaveMoney({ canEdit, bad, deed, setRules, rules, saved }: OneModelState) {
  return (
    canEdit && (
      <Row gap={1} oneLine>
        <Button type="submit" variant="contained" disabled={bad || deed.running}>
          {say("save")}
        </Button>
        <Button
          onClick={() => setRules([...rules, { family: "stick-drift", also: null, route: "", why: "" }])}
        >
          {say("addARule")}
        </Button>
        {saved && <Typography sx={{ alignSelf: "center" }}>{say("saved")}</Typography>}
      </Row>
    )
  );
}
