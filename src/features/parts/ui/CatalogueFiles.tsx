"use client";

import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { CSV_KINDS, type CsvKind } from "@/contract/parts";
import { readCatalogue, writeCatalogue } from "@/core/parts/catalogue";
import { type RowEffect, readOffersCsv, readPartsCsv, readStockCsv } from "@/core/parts/csv";
import { digitsOf } from "@/core/money/money";
import { currencyOfFigures } from "@/text/format";
import { EFFECT_WORDS, rowAbout, rowWords } from "@/features/parts/words/text";
import { say } from "@/features/parts/words/words";
import { foundWords } from "@/text/findings";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Figure, Table } from "@/ui/kit/Table";
import { codeWords } from "@/words/codes";
import type { PartsProps } from "./props";
import { Block, Row } from "@/ui/kit/layout";

/** What Files knows and does; the components below only show it. */
function useFiles({ view, canLead }: PartsProps) {
  const save = useDeed("catalogue.save");
  const load = useDeed("stock.import");
  const [why, setWhy] = useState("");
  const [dry, setDry] = useState<{ kind: CsvKind; text: string; rows: RowEffect[]; good: boolean } | null>(
    null,
  );
  const exported = () => {
    const url = URL.createObjectURL(new Blob([writeCatalogue(view.catalogue)], { type: "application/json" }));
    Object.assign(document.createElement("a"), { href: url, download: "catalogue.json" }).click();
    URL.revokeObjectURL(url);
  };
  const take = async (file: File | undefined) => {
    if (!file) return;
    const text = await file.text();
    const digits = digitsOf(currencyOfFigures());
    setDry(null);
    setWhy("");
    if (file.name.endsWith(".json")) {
      const read = readCatalogue(text);
      if (read.ok) await save.run({ version: view.version, catalogue: read.value });
      else setWhy(foundWords(read.problem));
      return;
    }
    const head = text.split(/\r?\n/, 1)[0] ?? "";
    const kindOf = (): CsvKind => {
      if (head.includes("batch")) return "stock";
      if (head.includes("packs_from")) return "offers";
      return "parts";
    };
    const kind = kindOf();
    if (kind === "stock") {
      const now = view.stock
        .filter((s) => s.status !== "disposed")
        .map((s) => ({
          batch: s.code,
          part: s.part,
          supplier: s.supplier,
          bin: s.bin,
          onHand: s.onHand,
          valueMinor: s.valueMinor,
        }));
      const read = readStockCsv(text, view.catalogue, now, digits);
      setDry({ kind, text, rows: read.rows, good: read.changes !== null });
    } else {
      const read =
        kind === "parts" ? readPartsCsv(text, view.catalogue) : readOffersCsv(text, view.catalogue, digits);
      setDry({ kind, text, rows: read.rows, good: read.catalogue !== null });
    }
  };
  const apply = async () => {
    if (!dry) return;
    const done = await load.run({ kind: dry.kind, text: dry.text, version: view.version });
    if (done?.ok) setDry(null);
  };
  const does = dry?.rows.filter((r) => r.effect !== "same") ?? [];
  const whatTheFileDoes = (good: boolean) => {
    if (!good) return say("theFileHasErrorsNothingIs");
    if (does.length === 0) return say("theFileChangesNothing");
    return say("theFileWouldChangeDoesRow", { does: does.length });
  };
  return { view, canLead, save, load, why, dry, setDry, exported, take, apply, does, whatTheFileDoes };
}

type FilesState = ReturnType<typeof useFiles>;

export function Files(props: PartsProps) {
  const s = useFiles(props);
  const { save, load, why } = s;

  return (
    <Block after={1.5}>
      <FileKeys {...s} />
      {why && <Alert severity="error">{say("nothingWasChangedWhy", { why })}</Alert>}
      <Problem problem={save.problem ?? load.problem} />
      <DryRun {...s} />
    </Block>
  );
}

function FileKeys({ view, exported, canLead, take }: FilesState) {
  return (
    <Row gap={1.5} at="center">
      <span>
        <Figure big>{view.catalogue.parts.length}</Figure>{" "}
        {say("partsOffersOffers", { offers: view.catalogue.offers.length })}
      </span>
      <Button variant="outlined" onClick={exported}>
        {say("export")}
      </Button>
      {CSV_KINDS.map((k) => (
        <a key={k} href={`/api/parts-csv?kind=${k}`}>
          {say("kAsCSV", { k: codeWords(k) })}
        </a>
      ))}
      {canLead && (
        <Button variant="outlined" component="label">
          {say("import")}
          <input
            type="file"
            accept=".json,.csv,application/json,text/csv"
            hidden
            aria-label={say("importACatalogueOffersOrStock")}
            onChange={(e) => {
              void take(e.target.files?.[0]);
              e.target.value = "";
            }}
          />
        </Button>
      )}
    </Row>
  );
}

function DryRun({ dry, whatTheFileDoes, does, load, apply, setDry }: FilesState) {
  return (
    dry && (
      <Block component="section" aria-label={say("whatTheFileWouldDo")} around={1.5}>
        <Typography component="h2" variant="h2">
          {whatTheFileDoes(dry.good)}
        </Typography>
        {does.length > 0 && (
          <Table label={say("rows")} heads={[say("row"), say("about"), say("effect"), say("what")]}>
            {does.slice(0, 200).map((r) => (
              <tr key={`${r.row} ${r.about.join(" ")}`}>
                <td>{r.row}</td>
                <td>{rowAbout(r)}</td>
                <td>{EFFECT_WORDS[r.effect]}</td>
                <td>{rowWords(r)}</td>
              </tr>
            ))}
          </Table>
        )}
        <Row gap={1} before={1} oneLine>
          {dry.good && does.length > 0 && (
            <Button variant="contained" disabled={load.running} onClick={apply}>
              {say("doIt")}
            </Button>
          )}
          <Button onClick={() => setDry(null)}>{say("putItAway")}</Button>
        </Row>
      </Block>
    )
  );
}
