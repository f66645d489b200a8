/** The colours of what is drawn, by what they say: each follows the theme. */
export const INK = {
  /** what is there without asking: outlines, axes, a healthy one behind */
  ground: "var(--mui-palette-divider)",
  line: "var(--mui-palette-text-secondary)",
  text: "var(--mui-palette-text-primary)",
  body: "var(--mui-palette-bench-paper)",
  paper: "var(--mui-palette-background-paper)",
  /** what was measured */
  signal: "var(--mui-palette-primary-main)",
  onSignal: "var(--mui-palette-primary-contrastText)",
  good: "var(--mui-palette-pass-main)",
  caution: "var(--mui-palette-caution-main)",
  fail: "var(--mui-palette-fail-main)",
  onFail: "var(--mui-palette-fail-contrastText)",
} as const;
