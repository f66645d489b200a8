import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";

import { CAUTIONS, stepTitle } from "@/features/mend/words/text";
import { say } from "@/features/mend/words/words";
import { FIGURES } from "@/ui/figures";
import { SIZE } from "@/ui/tokens";
import { ACTS, ACT_WORDS, keyName } from "./bindings";
import { PHASES, type StepState } from "./useStep";
import { Row, Text } from "@/ui/kit/layout";

/** The top of a step: whose it is, how far the order is, and what to mind first. */

export function StepHead({ unit, at, line, step, order, setKeysOpen, heading, keysOpen }: StepState) {
  return (
    <Row gap={2} at="baseline">
      <Text component="div" size="title" strong>
        <Link href={`/units/${unit.tag}/mend`}>{unit.tag}</Link> {unit.model}
      </Text>
      <Box component="div" sx={{ m: 0, fontFamily: FIGURES, fontWeight: 700, fontSize: SIZE.title }}>
        {at + 1}/{line.length}
      </Box>
      <Typography color="text.secondary">
        {say("phaseAboutMinutesMin", { phase: PHASES[step.phase], minutes: step.minutes })}
        {step.learned.cases > 0 && say("learnedFromCases", { cases: step.learned.cases })}
        {say("minutesLeftMinLeftInAll", { minutesLeft: Math.round(order.minutesLeft) })}
      </Typography>
      <Box sx={{ flex: 1 }} />
      <Button size="small" component={Link} href={`/units/${unit.tag}/mend/map`}>
        {say("fastenerMap")}
      </Button>
      <Button
        size="small"
        onClick={() => {
          setKeysOpen((o) => !o);
          heading.current?.focus({ preventScroll: true }); // the next Enter is about the step
        }}
        aria-expanded={keysOpen}
      >
        {say("keysPedalButtons")}
      </Button>
    </Row>
  );
}

export function StepLine({ line, at }: StepState) {
  return (
    <Box
      component="ol"
      aria-label={say("stepsOfThisWorkOrder")}
      sx={{ display: "flex", gap: "3px", listStyle: "none", p: 0, m: 0 }}
    >
      {line.map((s, i) => {
        const bgcolorOf = () => {
          if (s.done) return "pass.main";
          if (i === at) return "primary.main";
          return "divider";
        };
        return (
          <Box
            component="li"
            key={s.key}
            title={stepTitle(s)}
            aria-current={i === at ? "step" : undefined}
            sx={{
              flex: 1,
              position: "relative",
              height: i === at ? 12 : 8,
              alignSelf: "center",
              borderRadius: 0.5,
              bgcolor: bgcolorOf(),
            }}
          >
            <Box
              component="span"
              sx={{
                position: "absolute",
                width: "1px",
                height: "1px",
                overflow: "hidden",
                clipPath: "inset(50%)",
              }}
            >
              {stepTitle(s)}
              {s.done && say("done")}
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}

export function KeyBindings({ keysOpen, binding, bind, bound, reset }: StepState) {
  return (
    keysOpen && (
      <Box
        sx={{
          display: "flex",
          gap: 1,
          flexWrap: "wrap",
          alignItems: "center",
          p: 1.5,
          border: 1,
          borderColor: "divider",
          borderRadius: 1,
          bgcolor: "background.paper",
        }}
      >
        {ACTS.map((a) => (
          <Button
            key={a}
            size="small"
            variant={binding === a ? "contained" : "outlined"}
            onClick={() => bind(a)}
          >
            {binding === a
              ? say("pressAKeyPedalOrButton")
              : `${ACT_WORDS[a]}: ${keyName(bound.keys[a])}${bound.pad[a] === undefined ? "" : say("buttonA", { a: bound.pad[a]! + 1 })}`}
          </Button>
        ))}
        <Button size="small" onClick={reset}>
          {say("asTheyWere")}
        </Button>
        <span>{say("theScannerTakesTheCodesOn")}</span>
      </Box>
    )
  );
}

export function DelicateNow({ order, step, isCurrent }: StepState) {
  return (
    order.pause === step.key &&
    isCurrent && (
      <Box
        role="note"
        sx={{
          fontSize: SIZE.lead,
          fontWeight: 600,
          borderLeft: 5,
          borderColor: "primary.main",
          pl: 1.2,
        }}
      >
        {say("theMostDelicateStepOfThis")}
      </Box>
    )
  );
}

export function Hazards({ step }: StepState) {
  return step.hazards.map((h) => (
    <Box
      key={h}
      role="note"
      sx={{
        display: "flex",
        gap: 1.2,
        alignItems: "center",
        fontSize: SIZE.lead,
        fontWeight: 600,
        color: "caution.main",
        borderLeft: 5,
        borderColor: "caution.main",
        pl: 1.2,
      }}
    >
      {CAUTIONS[h]}
    </Box>
  ));
}
