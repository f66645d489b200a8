import Alert, { type AlertProps } from "@mui/material/Alert";
import Box, { type BoxProps } from "@mui/material/Box";
import Typography, { type TypographyProps } from "@mui/material/Typography";

import { FIGURES } from "@/ui/figures";
import { SIZE } from "@/ui/tokens";

/** How things stand on a page: in a row, in a column, apart from each other, quiet or strong. */

/** Space comes in these steps of the theme (8 px) and no other. */
export type Space = 0 | 0.5 | 1 | 1.5 | 2 | 3 | 4;

export type Apart = {
  /** space above, below, or both */
  before?: Space;
  after?: Space;
  around?: Space;
};
const margins = ({ before, after, around }: Apart) => ({
  ...(around !== undefined && { my: around }),
  ...(before !== undefined && { mt: before }),
  ...(after !== undefined && { mb: after }),
});

type Plain = Omit<BoxProps, "sx" | "gap" | "color">;

export type RowProps = Plain &
  Apart & {
    gap?: Space;
    at?: "center" | "baseline" | "start" | "end" | "stretch";
    /** everything stays in one line, however narrow */
    oneLine?: boolean;
    /** the ends apart as far as they go */
    spread?: boolean;
    /** over all columns of the grid it stands in */
    full?: boolean;
  };

/** Side by side, going on in the next line where there is no room. */
export const Row = ({ gap = 0, at, oneLine, spread, full, before, after, around, ...rest }: RowProps) => (
  <Box
    {...rest}
    sx={{
      display: "flex",
      gap,
      ...(at && { alignItems: at }),
      ...(!oneLine && { flexWrap: "wrap" }),
      ...(spread && { justifyContent: "space-between" }),
      ...(full && { gridColumn: "1 / -1" }),
      ...margins({ before, after, around }),
    }}
  />
);

export type ColumnProps = Plain & Apart & { gap?: Space; full?: boolean };

/** One under the other, each as wide as there is room. */
export const Column = ({ gap = 0, full, before, after, around, ...rest }: ColumnProps) => (
  <Box
    {...rest}
    sx={{
      display: "grid",
      gap,
      alignContent: "start",
      ...(full && { gridColumn: "1 / -1" }),
      ...margins({ before, after, around }),
    }}
  />
);

/** A block with space about it, or over all columns of the grid it stands in. */
export const Block = ({ before, after, around, full, ...rest }: Plain & Apart & { full?: boolean }) => (
  <Box {...rest} sx={{ ...(full && { gridColumn: "1 / -1" }), ...margins({ before, after, around }) }} />
);

export type WordsProps = Plain &
  Apart & {
    size?: keyof typeof SIZE;
    /** what is beside the point */
    quiet?: boolean;
    strong?: boolean;
    /** digits of one width, so that columns of them line up */
    figures?: boolean;
  };

/** Words of another weight than those around them. */
export const Words = ({ size, quiet, strong, figures, before, after, around, ...rest }: WordsProps) => (
  <Box
    {...rest}
    sx={{
      ...(size && { fontSize: SIZE[size] }),
      ...(quiet && { color: "text.secondary" }),
      ...(strong && { fontWeight: 700 }),
      ...(figures && { fontFamily: FIGURES }),
      ...margins({ before, after, around }),
    }}
  />
);

/** Something to mind, apart from what is around it. */
export const Notice = ({ before, after, around, ...rest }: Omit<AlertProps, "sx"> & Apart) => (
  <Alert {...rest} sx={margins({ before, after, around })} />
);

export type TextProps = Omit<TypographyProps, "sx"> & Pick<WordsProps, "size" | "strong" | "figures"> & Apart;

/** A paragraph or a heading of the theme, of a size of its own or apart from its neighbours. */
export const Text = ({ size, strong, figures, before, after, around, ...rest }: TextProps) => (
  <Typography
    {...rest}
    sx={{
      ...(size && { fontSize: SIZE[size] }),
      ...(strong && { fontWeight: 700 }),
      ...(figures && { fontFamily: FIGURES }),
      ...margins({ before, after, around }),
    }}
  />
);
