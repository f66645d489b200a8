import { DataGrid, type DataGridProps, type GridValidRowModel } from "@mui/x-data-grid";

import { say } from "@/words/kit";

/** The grid's own words, of which a page shows these. */
const WORDS: NonNullable<DataGridProps["localeText"]> = {
  noRowsLabel: say("noRows"),
  noResultsOverlayLabel: say("nothingMatches"),
  toolbarColumns: say("columns"),
  toolbarFilters: say("filters"),
  toolbarFiltersLabel: say("showFilters"),
  toolbarExport: say("export"),
  toolbarExportLabel: say("export"),
  toolbarExportCSV: say("downloadAsCsv"),
  toolbarExportPrint: say("print"),
  toolbarQuickFilterPlaceholder: say("searchHere"),
  toolbarQuickFilterLabel: say("search"),
  toolbarQuickFilterDeleteIconLabel: say("clear"),
  columnHeaderSortIconLabel: say("sort"),
  footerRowSelected: (count) => say("countRowsSelected", { count }),
  paginationRowsPerPage: say("rowsPerPage"),
  paginationDisplayedRows: ({ from, to, count }) =>
    count === -1 ? say("fromToAndMore", { from, to }) : say("fromToOfCount", { from, to, count }),
  paginationItemAriaLabel: (type) =>
    ({ first: say("firstPage"), last: say("lastPage"), next: say("nextPage"), previous: say("pageBefore") })[
      type
    ],
};

/** Rows as high as their words and headings that wrap, so that nothing is cut off. */
const WHOLE = {
  bgcolor: "background.paper",
  "--DataGrid-rowBorderColor": "var(--mui-palette-divider)",
  "& .MuiDataGrid-cell": {
    display: "flex",
    alignItems: "center",
    lineHeight: 1.25,
    py: 0.9,
    whiteSpace: "normal",
    overflowWrap: "anywhere",
  },
  "& .MuiDataGrid-columnHeaderTitle": { whiteSpace: "normal", lineHeight: 1.15, overflowWrap: "anywhere" },
} as const;

export function RowGrid<R extends GridValidRowModel>({ sx, localeText, ...props }: DataGridProps<R>) {
  return (
    <DataGrid
      disableColumnMenu
      getRowHeight={() => "auto"}
      localeText={{ ...WORDS, ...localeText }}
      sx={[WHOLE, ...(Array.isArray(sx) ? (sx as object[]) : [(sx ?? {}) as object])]}
      {...props}
    />
  );
}
