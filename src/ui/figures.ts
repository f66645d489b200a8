/** The tabular face for measured figures. */
export const FIGURES = "'Atkinson Hyperlegible Mono Variable', ui-monospace, monospace";
