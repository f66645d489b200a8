"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { bitId, TOOLS } from "@/core/mend/tools";
import { toolName } from "@/features/mend/words/text";
import { DRIVES } from "@/core/profile/guide";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { say } from "@/features/people/words/words";
import { codeWords } from "@/words/codes";
import { Row } from "@/ui/kit/layout";

/** The tools and bits that the shop owns; work orders are held against them. */
export function ToolsEditor({
  value,
  version,
  known,
}: {
  value: string[];
  version: number;
  known: string[];
}) {
  const save = useDeed("tools.save");
  const [owned, setOwned] = useState(new Set(value));
  const [drive, setDrive] = useState<(typeof DRIVES)[number]>("cross-small");
  const [size, setSize] = useState("");
  const all = [...new Set([...TOOLS.map((t) => t.id), ...known, ...owned])].sort((a, b) =>
    toolName(a).localeCompare(toolName(b)),
  );
  const set = (id: string, on: boolean) => {
    const next = new Set(owned);
    if (on) next.add(id);
    else next.delete(id);
    setOwned(next);
  };
  return (
    <Box component="section" id="tools" aria-label={say("toolsOfTheShop")} sx={{ mt: 4, maxWidth: 980 }}>
      <Typography component="h2" variant="h2">
        {say("toolsAndBitsThatWeOwn")}
      </Typography>
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr 1fr", md: "repeat(4, 1fr)" } }}>
        {all.map((id) => (
          <FormControlLabel
            key={id}
            control={<Checkbox checked={owned.has(id)} onChange={(e) => set(id, e.target.checked)} />}
            label={toolName(id)}
          />
        ))}
      </Box>
      <Row gap={1} before={1} at="center">
        <NativeSelect
          label={say("drive")}
          value={drive}
          onChange={(e) => setDrive(e.target.value as typeof drive)}
          sx={{ width: 170 }}
        >
          {DRIVES.map((d) => (
            <option key={d} value={d}>
              {codeWords(d)}
            </option>
          ))}
        </NativeSelect>
        <TextField
          label={say("size")}
          value={size}
          onChange={(e) => setSize(e.target.value.trim())}
          sx={{ width: 90 }}
        />
        <Button
          disabled={size === ""}
          onClick={() => {
            set(bitId(drive, size), true);
            setSize("");
          }}
        >
          {say("addThisBit")}
        </Button>
        <Button
          variant="contained"
          disabled={save.running}
          onClick={() => void save.run({ version, tools: [...owned] })}
        >
          {say("saveTheTools")}
        </Button>
      </Row>
      <Problem problem={save.problem} />
    </Box>
  );
}
