"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import FormControlLabel from "@mui/material/FormControlLabel";
import Switch from "@mui/material/Switch";

import { useSingleKeys } from "../kit/keys";
import { say } from "@/words/frame";
import { Kbd } from "@/ui/kit/Kbd";

const KEYS: [string, string][] = [
  ["/", say("commandFieldATagWordsAn")],
  ["1 to 9", say("theUnitOnThatTrayAlt")],
  ["b", say("theBench")],
  ["j", say("nextForMeWhatTheDay")],
  [say("enterArrowsSpace"), say("atAStepOfAWork")],
  ["i t f d m p r", say("onAUnitIntakeTestFind")],
  ["c", say("onAUnitItsCase")],
  [say("space"), say("inATestAnswerTheQuestion")],
  ["s", say("inATestSkipThisStep")],
  ["n", say("onAResultNameTheSelected")],
  ["n", say("onPartsReceiveABatch")],
  ["o", say("onABatchTakeOneOut")],
  [say("anyKey"), say("atAnInspectionTheKeyOr")],
  ["?", say("thisList")],
  [say("scan"), say("aScannedTagOrBatchCode")],
];

export function Help({ open, onClose }: { open: boolean; onClose: () => void }) {
  const [on, setOn] = useSingleKeys();
  return (
    <Dialog open={open} onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>{say("keys")}</DialogTitle>
      <DialogContent>
        <Box
          component="dl"
          sx={{ display: "grid", gridTemplateColumns: "auto 1fr", gap: 1, columnGap: 2, m: 0 }}
        >
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
          label={say("singleKeysActSwitchOffIf")}
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose} autoFocus>
          {say("close")}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
