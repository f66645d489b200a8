"use client";

import type {} from "@mui/x-date-pickers/themeAugmentation";
import { createTheme } from "@mui/material/styles";

import { SIZE } from "./tokens";

export const FAMILY = "'Atkinson Hyperlegible Next Variable', system-ui, sans-serif";

declare module "@mui/material/styles" {
  interface Palette {
    pass: Palette["primary"];
    caution: Palette["primary"];
    fail: Palette["primary"];
    bench: { edge: string; paper: string; line: string };
  }
  interface PaletteOptions {
    pass?: PaletteOptions["primary"];
    caution?: PaletteOptions["primary"];
    fail?: PaletteOptions["primary"];
    bench?: { edge: string; paper: string; line: string };
  }
}

/** Calm reed surfaces, one signal colour (heather), and states that colour-blind people tell apart. */
export const theme = createTheme({
  cssVariables: { colorSchemeSelector: "data-scheme" },
  colorSchemes: {
    light: {
      palette: {
        primary: { main: "#4b3a86", contrastText: "#ffffff" },
        background: { default: "#f1efe7", paper: "#fbfaf6" },
        text: { primary: "#1c2422", secondary: "#4d5853" },
        divider: "#d5d2c4",
        pass: { main: "#00664b", contrastText: "#ffffff" },
        caution: { main: "#8a5300", contrastText: "#ffffff" },
        fail: { main: "#a8300a", contrastText: "#ffffff" },
        error: { main: "#a8300a" },
        bench: { edge: "#2a3330", paper: "#e6e3d6", line: "#c6c2b1" },
      },
    },
    dark: {
      palette: {
        primary: { main: "#bcaef2", contrastText: "#1b1530" },
        background: { default: "#151a19", paper: "#1e2523" },
        text: { primary: "#edece4", secondary: "#a9b3ae" },
        divider: "#38423e",
        pass: { main: "#4ccda3", contrastText: "#06281d" },
        caution: { main: "#f0b13c", contrastText: "#2c1e00" },
        fail: { main: "#ff8f66", contrastText: "#330d00" },
        error: { main: "#ff8f66" },
        bench: { edge: "#0d1110", paper: "#262e2b", line: "#414c47" },
      },
    },
  },
  typography: {
    fontFamily: FAMILY,
    fontSize: 15,
    h1: { fontSize: SIZE.head, fontWeight: 700, lineHeight: 1.2 },
    h2: { fontSize: SIZE.lead, fontWeight: 700, lineHeight: 1.3 },
    h3: { fontSize: SIZE.body, fontWeight: 700, lineHeight: 1.3 },
    button: { textTransform: "none", fontWeight: 700, fontSize: SIZE.body },
  },
  shape: { borderRadius: 6 },
  components: {
    MuiButton: {
      defaultProps: { disableElevation: true },
      styleOverrides: {
        root: {
          minHeight: 44,
          lineHeight: 1.2,
          whiteSpace: "nowrap",
          "@media (max-width: 700px)": { whiteSpace: "normal" },
        },
      },
    },
    MuiButtonBase: { defaultProps: { disableRipple: true } },
    MuiTextField: { defaultProps: { size: "small", fullWidth: true } },
    // a label stands on its field from the start: it is never cut off by it, nor gone once something is typed
    MuiInputLabel: { defaultProps: { shrink: true } },
    MuiSelect: { defaultProps: { displayEmpty: true } },
    MuiOutlinedInput: { defaultProps: { notched: true } },
    MuiPickersOutlinedInput: { defaultProps: { notched: true } },
    MuiPaper: { defaultProps: { elevation: 0 } },
    MuiTooltip: { defaultProps: { arrow: true } },
    MuiToggleButton: {
      styleOverrides: {
        root: {
          textTransform: "none",
          minHeight: 40,
          color: "var(--mui-palette-text-primary)",
          fontWeight: 600,
        },
      },
    },
    MuiCssBaseline: {
      styleOverrides: {
        "*:focus-visible": {
          outline: "3px solid var(--mui-palette-primary-main) !important",
          outlineOffset: "2px",
        },
        ".MuiInputBase-input:focus-visible": { outline: "none !important" }, // the field around it shows the focus
        a: { color: "inherit" },
        // what is brought into view, by key or by hand, comes above the strip of the bench and not under it
        html: { scrollPaddingBottom: "calc(var(--bench-edge, 0px) + 12px)" },
        "@media print": { ".no-print": { display: "none !important" } },
        "@media (prefers-reduced-motion: reduce)": {
          "*": { animation: "none !important", transition: "none !important" },
        },
      },
    },
  },
});
