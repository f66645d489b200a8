"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import FormControlLabel from "@mui/material/FormControlLabel";
import Switch from "@mui/material/Switch";

import { useSingleKeys } from "./keys";

const KEYS: [string, string][] = [
  ["/", "command field: a tag, words, an action"],
  ["1 to 9", "the unit on that tray (Alt and the number even while typing)"],
  ["b", "the bench"],
  ["j", "next for me: what the day’s plan gives you now"],
  [
    "Enter, arrows, Space",
    "at a step of a work order: done, next and back, tick the piece (any key, pedal or button can be bound there)",
  ],
  ["i t f d m p r", "on a unit: Intake, Test, Find, Decide, Mend, Prove, Release"],
  ["Space", "in a test: answer the question that stands there, or repeat the step"],
  ["s", "in a test: skip this step (it stays not tested)"],
  ["n", "on a result: name the selected failed measure as a fault"],
  ["n", "on Parts: receive a batch"],
  ["o", "on a batch: take one out for use"],
  ["any key", "at an inspection: the key or pedal that is bound there takes the next figure"],
  ["?", "this list"],
  ["scan", "a scanned tag or batch code opens its page from anywhere; nothing is typed into a field"],
];

export function Kbd({ children }: { children: string }) {
  return (
    <Box
      component="kbd"
      sx={{
        fontFamily: "inherit",
        fontSize: "0.8em",
        fontWeight: 700,
        border: 1,
        borderColor: "divider",
        borderRadius: 1,
        px: 0.7,
        py: 0.1,
        bgcolor: "background.default",
        color: "text.secondary",
      }}
    >
      {children}
    </Box>
  );
}

export function Help({ open, onClose }: { open: boolean; onClose: () => void }) {
  const [on, setOn] = useSingleKeys();
  return (
    <Dialog open={open} onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>Keys</DialogTitle>
      <DialogContent>
        <Box component="dl" sx={{ display: "grid", gridTemplateColumns: "auto 1fr", gap: 1, columnGap: 2, m: 0 }}>
          {KEYS.map(([key, what]) => (
            <Box key={key} sx={{ display: "contents" }}>
              <Box component="dt">
                <Kbd>{key}</Kbd>
              </Box>
              <Box component="dd" sx={{ m: 0 }}>
                {what}
              </Box>
            </Box>
          ))}
        </Box>
        <FormControlLabel
          sx={{ mt: 2 }}
          control={<Switch checked={on} onChange={(e) => setOn(e.target.checked)} />}
          label="Single keys act (switch off if they get in the way)"
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose} autoFocus>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
