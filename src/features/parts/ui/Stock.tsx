"use client";

import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import type { GridColDef, GridRowParams } from "@mui/x-data-grid";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";

import type { StockLine } from "@/features/parts/view";
import { money } from "@/text/format";
import { BATCH_STATUS_WORDS, CLASS_WORDS } from "@/features/parts/words/text";
import { Problem } from "@/ui/deed/Problem";
import { Form } from "@/ui/fields/Form";
import { TypedField } from "@/ui/form/TypedField";
import { useDeedForm } from "@/ui/form/useDeedForm";
import { useKeys } from "@/ui/kit/keys";
import { Handle } from "./Handle";
import type { PartsProps } from "./props";
import { Figure } from "@/ui/kit/Table";
import { RowGrid } from "@/ui/fields/RowGrid";
import { codeWords } from "@/words/codes";
import { say } from "@/features/parts/words/words";
import { Block, Column, Notice, Row, Words } from "@/ui/kit/layout";

/** What Stock knows and does; the components below only show it. */
function useStock({ view, shop, canWork }: PartsProps) {
  const router = useRouter();
  const [picked, setPicked] = useState<string | null>(null);
  const [adding, setAdding] = useState(false);
  const line = view.stock.find((s) => s.id === picked) ?? null;
  const open = view.stock.filter((s) => s.status === "open");
  const waiting = view.stock.filter((s) => s.status === "waiting");
  const low = [...new Set(open.filter((s) => s.low).map((s) => s.name))];
  useKeys({ n: () => canWork && setAdding(true) });
  const columns: GridColDef<StockLine>[] = [
    {
      field: "code",
      headerName: say("batch"),
      width: 95,
      renderCell: ({ row }) => <Link href={`/parts/${row.code}`}>{row.code}</Link>,
    },
    {
      field: "name",
      headerName: say("what"),
      flex: 1.6,
      minWidth: 220,
      // odds and ends are looked for by what they are good for
      valueGetter: (_v, s) => (s.uses ? `${s.name}: ${s.uses}` : s.name),
    },
    { field: "bin", headerName: say("bin"), width: 75 },
    {
      field: "onHand",
      headerName: say("there"),
      width: 105,
      renderCell: ({ row }) => (
        <Figure>{row.unit === "piece" ? row.onHand : `${row.onHand} ${row.unit}`}</Figure>
      ),
    },
    {
      field: "reserved",
      headerName: say("putAside"),
      width: 90,
      valueFormatter: (v: number) => (v === 0 ? "" : v),
    },
    {
      field: "valueMinor",
      headerName: say("costOfIt"),
      width: 100,
      valueFormatter: (v: number) => money(v, shop),
    },
    {
      field: "status",
      headerName: say("state"),
      width: 135,
      valueFormatter: (v: string) => BATCH_STATUS_WORDS[v],
    },
    { field: "supplier", headerName: say("from"), flex: 1, minWidth: 130 },
    {
      field: "cls",
      headerName: say("kind"),
      width: 120,
      valueFormatter: (v: StockLine["cls"]) => CLASS_WORDS[v as keyof typeof CLASS_WORDS],
    },
  ];
  return { view, shop, canWork, router, setPicked, adding, setAdding, line, open, waiting, low, columns };
}
type StockState = ReturnType<typeof useStock>;

/**
 * The shelf by batch, with what just became possible; taking one out and putting it somewhere else without
 * leaving the list.
 */
export function Stock(props: PartsProps) {
  const s = useStock(props);
  const { view, canWork, router, setPicked, adding, setAdding, line, low, columns } = s;

  return (
    <Box>
      <StockHead {...s} />
      {view.wakes.map((w) => (
        <Notice key={`${w.tag} ${w.slot}`} severity="info" role="status" after={1}>
          <Link href={`/units/${w.tag}/decide`}>{w.tag}</Link>{" "}
          {say("waitedForItsSlotPartIs", {
            slot: w.slot,
            part: w.part,
            from: w.from === "stock" ? say("onTheShelf") : say("goodInDonorFrom", { from: w.from }),
          })}
        </Notice>
      ))}
      {low.length > 0 && (
        <Notice severity="warning" role="status" after={1}>
          {say("runningOutLow", { low: low.join(", ") })}
        </Notice>
      )}
      {adding && canWork && (
        <Receive view={view} onDone={(code) => (setAdding(false), router.push(`/parts/${code}`))} />
      )}
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0,1fr)", md: line ? "minmax(0,1fr) 300px" : "minmax(0,1fr)" },
          gap: 2,
        }}
      >
        <RowGrid
          rows={view.stock}
          columns={columns}
          showToolbar
          onRowClick={({ row }: GridRowParams<StockLine>) => setPicked(row.id)}
          onCellKeyDown={({ row }, e) => {
            if (e.key === "Enter") setPicked((row as StockLine).id);
          }}
          initialState={{
            pagination: { paginationModel: { pageSize: 25 } },
          }}
          pageSizeOptions={[25, 50, 100]}
          sx={{ height: 470 }}
          aria-label={say("batches")}
        />
        <BatchPanel {...s} />
      </Box>
      <Row gap={2} before={1.5}>
        <a href="/api/parts-csv?kind=stock">{say("shelfAsCSV")}</a>
        <span>{say("scanABatchSLabelTo")}</span>
      </Row>
    </Box>
  );
}

function StockHead({ open, shop, waiting, canWork, setAdding, adding }: StockState) {
  return (
    <Row gap={3} after={1.5} at="baseline">
      <span>
        <Figure big>
          {money(
            open.reduce((s, l) => s + l.valueMinor, 0),
            shop,
          )}
        </Figure>{" "}
        {say("onTheShelfInOpenBatches", { open: open.length })}
      </span>
      {waiting.length > 0 && (
        <span>
          <Figure big>{waiting.length}</Figure> {say("toBeMeasured2")}{" "}
          {waiting.map((w, i) => (
            <span key={w.id}>
              {i > 0 && ", "}
              <Link href={`/parts/${w.code}`}>{w.code}</Link>
            </span>
          ))}
        </span>
      )}
      <Box sx={{ flex: 1 }} />
      {canWork && (
        <Button variant="contained" onClick={() => setAdding(!adding)} aria-expanded={adding}>
          {say("receiveN")}
        </Button>
      )}
    </Row>
  );
}

function BatchPanel({ line, shop, canWork }: StockState) {
  return (
    line && (
      <Column component="aside" aria-label={say("batchLine", { line: line.code })} gap={1}>
        <Typography component="h2" variant="h2">
          <Link href={`/parts/${line.code}`}>{line.code}</Link>
        </Typography>
        <Box>{line.name}</Box>
        {line.uses && <Words quiet>{say("goodForUses", { uses: line.uses })}</Words>}
        <Box>
          <Figure big>{line.onHand}</Figure>{" "}
          {say("unitReservedPutAsideOnHand", {
            unit: line.unit === "piece" ? say("there2") : line.unit,
            reserved: line.reserved,
            onHand:
              line.onHand > 0
                ? say("valueMinorEach", {
                    valueMinor: money(Math.round(line.valueMinor / line.onHand), shop),
                  })
                : say("noneLeft"),
          })}
        </Box>
        {canWork && <Handle key={`${line.id} ${line.version}`} batch={line} />}
        <Button
          component="a"
          href={`/labels/pdf?kind=batch&codes=${line.code}`}
          target="_blank"
          variant="outlined"
        >
          {say("label")}
        </Button>
      </Column>
    )
  );
}

function Receive({ view, onDone }: { view: PartsProps["view"]; onDone: (code: string) => void }) {
  const [part, setPart] = useState<string | null>(null);
  const [supplier, setSupplier] = useState("");
  const form = useDeedForm("stock.receive", {
    start: { pieces: "", costMinor: "", bin: "" },
    rest: () => ({ part: part ?? "", supplier }),
    onDone: ({ code }) => onDone(code),
  });
  const offers = view.catalogue.offers.filter((o) => o.part === part);
  const entry = view.catalogue.parts.find((p) => p.code === part);
  const offer = offers.find((o) => o.supplier === supplier);
  return (
    <Form
      aria-label={say("receiveABatch")}
      noValidate
      onSend={form.send}
      sx={{
        display: "grid",
        gap: 1.5,
        gridTemplateColumns: {
          xs: "minmax(0,1fr)",
          sm: "minmax(0,2fr) minmax(0,1.3fr) 110px 165px 110px auto",
        },
        alignItems: "start",
        mb: 2,
      }}
    >
      <Autocomplete
        options={view.catalogue.parts.map((p) => p.code)}
        getOptionLabel={(c) => `${c}  ${view.catalogue.parts.find((p) => p.code === c)?.name ?? ""}`}
        value={part}
        onChange={(_e, v) => {
          setPart(v);
          setSupplier(view.catalogue.offers.find((o) => o.part === v)?.supplier ?? "");
        }}
        renderInput={(params) => (
          <TextField
            {...params}
            label={say("part2")}
            autoFocus
            helperText={
              entry?.traits.side && entry.traits.side !== "either"
                ? say("thisIsTheSideOneCompare", { side: codeWords(entry.traits.side) })
                : undefined
            }
          />
        )}
      />
      <TextField select label={say("from")} value={supplier} onChange={(e) => setSupplier(e.target.value)}>
        <MenuItem value="">{say("foundOrNotKnown")}</MenuItem>
        {view.catalogue.suppliers.map((s) => (
          <MenuItem key={s.id} value={s.id}>
            {s.name}
          </MenuItem>
        ))}
      </TextField>
      <TypedField
        form={form}
        name="pieces"
        label={entry && entry.unit !== "piece" ? entry.unit : say("pieces")}
        helperText={offer && offer.pack > 1 ? say("packsOfPack", { pack: offer.pack }) : undefined}
      />
      <TypedField form={form} name="costMinor" label={say("costWithCarriage")} />
      <TypedField form={form} name="bin" label={say("bin")} />
      <Button type="submit" variant="contained" size="large" disabled={part === null || form.running}>
        {say("receive")}
      </Button>
      <Block full>
        <Problem problem={form.problem} />
      </Block>
    </Form>
  );
}
