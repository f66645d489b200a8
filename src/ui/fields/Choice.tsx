"use client";

import Box from "@mui/material/Box";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";

/** One of a few words, large enough for gloves; arrow keys and Tab reach each. */
export function Choice<T extends string>({
  label,
  options,
  value,
  onChange,
}: {
  label: string;
  options: readonly (readonly [T, string])[];
  value: T | null;
  onChange: (value: T) => void;
}) {
  return (
    <Box>
      <Box sx={{ fontWeight: 600, mb: 0.5 }}>{label}</Box>
      <ToggleButtonGroup
        exclusive
        value={value}
        aria-label={label}
        onChange={(_, v: T | null) => v !== null && onChange(v)}
        sx={{ flexWrap: "wrap" }}
      >
        {options.map(([v, words]) => (
          <ToggleButton key={v} value={v} sx={{ px: 2, minHeight: 48 }}>
            {words}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </Box>
  );
}
