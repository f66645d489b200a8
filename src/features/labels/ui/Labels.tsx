"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useRouter } from "next/navigation";
import { useState } from "react";

import {
  type LabelPrinter,
  type PrintResult,
  SimulatedLabelPrinter,
  SystemPrinter,
} from "@/browser/label-printer";
import type { Settings } from "@/contract/deeds";
import { LABEL_KINDS, type LabelKind, layoutSheet } from "@/core/labels/layout";
import type { LabelChoice } from "@/features/labels/view";
import { Form } from "@/ui/fields/Form";
import { TabLinks } from "@/ui/fields/TabLinks";
import { say } from "@/features/labels/words/words";
import { BoundField } from "@/ui/form/BoundField";
import { Notice, Row, Text } from "@/ui/kit/layout";

const KIND_NAMES: Record<LabelKind, string> = {
  unit: say("units"),
  tray: say("trays"),
  part: say("parts"),
  batch: say("batches"),
  donor: say("donors"),
  piece: say("boardsAndPieces"),
};
const ROLL = 12;

type LabelsProps = {
  kind: LabelKind;
  choices: LabelChoice[];
  picked: string[];
  q: string;
  shop: Settings;
};

/** What Labels knows and does; the components below only show it. */
function useLabels({ kind, choices, picked: first, q, shop }: LabelsProps) {
  const router = useRouter();
  const [picked, setPicked] = useState(() => new Set(first));
  const [filter, setFilter] = useState(q);
  const [size, setSize] = useState({ w: String(shop.labelWidthMm), h: String(shop.labelHeightMm) });
  const [strip, setStrip] = useState<string[]>([]);
  const [left, setLeft] = useState(ROLL);
  const [result, setResult] = useState<PrintResult | null>(null);
  const [printer] = useState(
    () =>
      new SimulatedLabelPrinter(ROLL, (picture, remaining) => {
        const url = URL.createObjectURL(picture);
        setStrip((s) => [url, ...s].slice(0, 30));
        setLeft(remaining);
      }),
  );
  const [w, h] = [Number(size.w), Number(size.h)];
  const valid = w >= 15 && w <= 120 && h >= 10 && h <= 120;
  const codes = [...picked];
  const address = (of: readonly string[], sheet: boolean) =>
    `kind=${kind}&codes=${of.join(",")}&w=${size.w}&h=${size.h}${sheet ? "&sheet=1" : ""}`;
  const blob = async (url: string) => {
    const response = await fetch(url);
    if (!response.ok) throw new Error(String(response.status));
    return response.blob();
  };
  const print = async (on: LabelPrinter) =>
    setResult(
      await on.print({
        count: codes.length,
        raster: (i) => blob(`/labels/raster?${address([codes[i]!], false)}`),
        pdf: () => blob(`/labels/pdf?${address(codes, false)}`),
      }),
    );
  const system = new SystemPrinter();
  const ready = valid && codes.length > 0;
  return {
    kind,
    choices,
    router,
    picked,
    setPicked,
    filter,
    setFilter,
    size,
    setSize,
    strip,
    left,
    setLeft,
    result,
    setResult,
    printer,
    w,
    h,
    valid,
    codes,
    address,
    print,
    system,
    ready,
  };
}
type LabelsState = ReturnType<typeof useLabels>;

/** Labels to choose, one by one or on a sheet, for a label printer or as PDF. */
export function Labels(props: LabelsProps) {
  const s = useLabels(props);
  const { left, result, codes } = s;

  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,1fr) 340px" },
        gap: 3,
      }}
    >
      <LabelChoices {...s} />
      <Box component="section" aria-label={say("print")}>
        <Text component="h2" size="figure" after={1} strong>
          {codes.length} {codes.length === 1 ? say("label") : say("labels2")}
        </Text>
        <LabelSize {...s} />
        <PrintButtons {...s} />
        <PrinterSays {...s} />
        {result?.ok && (
          <Text role="status" before={1.5}>
            {say("printedPrinted", { printed: result.printed })}
          </Text>
        )}
        <Text color="text.secondary" before={1}>
          {say("leftLeftOnTheSimulatedRoll", { left })}
        </Text>
        <Printed {...s} />
      </Box>
    </Box>
  );
}

function LabelChoices({ kind, router, filter, setFilter, choices, picked, setPicked }: LabelsState) {
  return (
    <Box>
      <Row gap={3} after={1.5} at="center">
        <Typography component="h1" variant="h1">
          {say("labels")}
        </Typography>
        <TabLinks
          label={say("labels")}
          current={kind}
          tabs={LABEL_KINDS.map((k) => ({ id: k, name: KIND_NAMES[k], href: `/labels?kind=${k}` }))}
        />
      </Row>
      <Form
        onSend={() => router.replace(`/labels?kind=${kind}&q=${encodeURIComponent(filter.trim())}`)}
        sx={{ mb: 1 }}
      >
        <TextField
          label={say("findByTagOrCodeEnter")}
          value={filter}
          onChange={(e) => setFilter(e.target.value)}
          size="small"
          sx={{ width: 280 }}
        />
      </Form>
      {choices.length === 0 && (
        <Typography color="text.secondary">{say("thereIsNothingOfThisKind")}</Typography>
      )}
      <Box
        role="group"
        aria-label={KIND_NAMES[kind]}
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0,1fr)", sm: "1fr 1fr" },
          maxHeight: 460,
          overflowY: "auto",
          "& label": {
            display: "flex",
            gap: 1.5,
            alignItems: "center",
            minHeight: 40,
            px: 0.5,
            cursor: "pointer",
          },
          "& input": {
            width: 20,
            height: 20,
            flexShrink: 0,
            accentColor: "var(--mui-palette-primary-main)",
          },
          "& i": { color: "text.secondary", fontStyle: "normal" },
        }}
      >
        {choices.map((c) => (
          // plain elements: there are hundreds
          <label key={c.code}>
            <input
              type="checkbox"
              checked={picked.has(c.code)}
              onChange={(e) => {
                const next = new Set(picked);
                if (e.target.checked) next.add(c.code);
                else next.delete(c.code);
                setPicked(next);
              }}
            />
            <span>
              <b>{c.title}</b> {c.line} <i>{c.note}</i>
            </span>
          </label>
        ))}
      </Box>
    </Box>
  );
}

function LabelSize({ size, setSize }: LabelsState) {
  return (
    <Row gap={1} after={1.5} oneLine>
      {(["w", "h"] as const).map((k) => (
        <BoundField
          key={k}
          deed="settings.save"
          name={k === "w" ? "settings.labelWidthMm" : "settings.labelHeightMm"}
          label={k === "w" ? say("widthMm") : say("heightMm")}
          value={size[k]}
          onChange={(text) => setSize({ ...size, [k]: text })}
        />
      ))}
    </Row>
  );
}

function PrintButtons({ ready, print, printer, system, address, codes, valid, w, h }: LabelsState) {
  return (
    <Box sx={{ display: "grid", gap: 1 }}>
      <Button
        variant="contained"
        size="large"
        disabled={!ready}
        onClick={() => void print(printer)}
        sx={{ whiteSpace: "normal" }}
      >
        {say("printOnThePrinter", { printer: printer.name })}
      </Button>
      <Button variant="outlined" disabled={!ready} onClick={() => void print(system)}>
        {say("printOnSystem", { system: system.name })}
      </Button>
      <Button
        component="a"
        variant="outlined"
        disabled={!ready}
        href={`/labels/pdf?${address(codes, false)}`}
        target="_blank"
      >
        {say("oneAPagePDF")}
      </Button>
      <Button
        component="a"
        variant="outlined"
        disabled={!ready}
        href={`/labels/pdf?${address(codes, true)}`}
        target="_blank"
      >
        {say("onSheetsOfA4ValidPDF", {
          valid: valid
            ? say("perPageASheet", { perPage: layoutSheet({ widthMm: w, heightMm: h }, 1).perPage })
            : "",
        })}
      </Button>
    </Box>
  );
}

function PrinterSays({ result, printer, setLeft, setResult }: LabelsState) {
  return (
    result &&
    !result.ok && (
      <Notice
        severity="error"
        before={1.5}
        action={
          result.why === "no-labels" ? (
            <Button
              color="inherit"
              onClick={() => {
                printer.newRoll(ROLL);
                setLeft(ROLL);
                setResult(null);
              }}
            >
              {say("newRoll")}
            </Button>
          ) : undefined
        }
      >
        {result.why === "no-labels"
          ? say("outOfLabelsAfterPrintedPut", { printed: result.printed })
          : say("thePrinterDidNotAnswerAfter", { printed: result.printed })}
      </Notice>
    )
  );
}

function Printed({ strip }: LabelsState) {
  return (
    <Box sx={{ display: "grid", gap: 1, mt: 1 }}>
      {strip.map((url, i) => (
        // eslint-disable-next-line @next/next/no-img-element -- a picture of this page's own making
        <img
          key={url}
          src={url}
          alt={say("printedLabelStrip", { strip: strip.length - i })}
          style={{
            width: "100%",
            imageRendering: "pixelated",
            border: "1px solid var(--mui-palette-divider)",
          }}
        />
      ))}
    </Box>
  );
}
