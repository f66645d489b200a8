"use client";

import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { GridColDef, GridRowParams } from "@mui/x-data-grid";
import { useRouter } from "next/navigation";

import { type Part, type Use, piecePrice } from "@/core/parts/catalogue";
import { CLASS_WORDS, USE_WORDS } from "@/features/parts/words/text";
import { say } from "@/features/parts/words/words";
import { money } from "@/text/format";
import { RowGrid } from "@/ui/fields/RowGrid";
import { codeWords } from "@/words/codes";
import { Files } from "./CatalogueFiles";
import { PartPanel } from "./CataloguePart";
import type { PartsProps } from "./props";

/**
 * What parts there are, what each is like, and where it goes; read from files with a look at what each row
 * would do.
 */
export function Catalogue(props: PartsProps) {
  const { view, shop, canLead, part } = props;
  const { catalogue } = view;
  const router = useRouter();
  const picked = catalogue.parts.find((p) => p.code === part) ?? null;
  const there = (code: string) =>
    view.stock.filter((s) => s.part === code && s.status === "open").reduce((n, s) => n + s.onHand, 0);
  const pick = (code: string) =>
    router.push(`/parts?tab=catalogue&part=${encodeURIComponent(code)}`, { scroll: false });
  const columns: GridColDef<Part>[] = [
    { field: "code", headerName: say("part2"), width: 125 },
    { field: "name", headerName: say("what"), flex: 1.6, minWidth: 220 },
    {
      field: "class",
      headerName: say("kind"),
      width: 120,
      valueGetter: (_v, p) => (p.kind ? codeWords(p.kind) : CLASS_WORDS[p.class]),
    },
    { field: "use", headerName: say("good2"), width: 140, valueFormatter: (v: Use) => USE_WORDS[v] },
    {
      field: "price",
      headerName: say("aPiece"),
      width: 90,
      valueGetter: (_v, p) => piecePrice(catalogue, p.code)?.minor ?? null,
      valueFormatter: (v: number | null) => (v === null ? "" : money(v, shop)),
    },
    { field: "there", headerName: say("there"), width: 75, valueGetter: (_v, p) => there(p.code) },
  ];
  return (
    <Box>
      <Files {...props} />
      {catalogue.parts.length === 0 ? (
        <Typography color="text.secondary">{say("theCatalogueIsEmptyALead")}</Typography>
      ) : (
        <Box
          sx={{
            display: "grid",
            gridTemplateColumns: {
              xs: "minmax(0,1fr)",
              lg: picked ? "minmax(0,1fr) 420px" : "minmax(0,1fr)",
            },
            gap: 2,
          }}
        >
          <RowGrid
            rows={catalogue.parts}
            getRowId={(p) => p.code}
            columns={columns}
            showToolbar
            onRowClick={({ row }: GridRowParams<Part>) => pick(row.code)}
            onCellKeyDown={({ row }, e) => {
              if (e.key === "Enter") pick((row as Part).code);
            }}
            initialState={{ pagination: { paginationModel: { pageSize: 25 } } }}
            pageSizeOptions={[25, 50, 100]}
            sx={{ height: 500 }}
            aria-label={say("catalogue")}
          />
          {picked && <PartPanel key={picked.code} {...props} picked={picked} canEdit={canLead} />}
        </Box>
      )}
    </Box>
  );
}
