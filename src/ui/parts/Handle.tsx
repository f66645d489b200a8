"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { useKeys } from "@/ui/frame/keys";
import { say } from "@/words/parts";

type Props = {
  batch: { id: string; bin: string; onHand: number; reserved: number; status: string; version: number };
  /** whether the key "o" takes one out here */
  keyed?: boolean;
};

/** What a hand does with a batch: use some, lose some, put it in another bin, count it. */
export function Handle({ batch, keyed = false }: Props) {
  const take = useDeed("stock.take");
  const move = useDeed("stock.move");
  const recount = useDeed("stock.count");
  const [n, setN] = useState("1");
  const [why, setWhy] = useState("");
  const [bin, setBin] = useState(batch.bin);
  const [counted, setCounted] = useState("");
  const usable = batch.status === "open" && batch.onHand > batch.reserved;
  const count = /^\d{1,5}$/.test(n) ? Number(n) : 0;
  const spend = (pieces: number) => take.run({ batchId: batch.id, count: pieces, for: { kind: "use", unitId: null }, why });
  useKeys(keyed && usable ? { o: () => void spend(1) } : {});
  return (
    <Box sx={{ display: "grid", gap: 1.2 }}>
      {usable && (
        <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "start" }}>
          <TextField
            label={say("howMany")}
            value={n}
            onChange={(e) => setN(e.target.value.replace(/\D/g, ""))}
            sx={{ width: 130 }}
          />
          <TextField label={say("forWhat")} value={why} onChange={(e) => setWhy(e.target.value)} sx={{ width: 180 }} />
          <Button variant="outlined" disabled={count < 1 || take.running} onClick={() => spend(count)}>
            {say("use")}
            {keyed && " (o)"}
          </Button>
          <Button
            disabled={count < 1 || take.running}
            onClick={() => take.run({ batchId: batch.id, count, for: { kind: "loss" }, why })}
          >
            {say("lostOrBroken")}
          </Button>
        </Box>
      )}
      <Problem problem={take.problem} />
      {batch.status !== "disposed" && (
        <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "start" }}>
          <TextField label={say("bin")} value={bin} onChange={(e) => setBin(e.target.value)} sx={{ width: 130 }} />
          <Button
            disabled={bin.trim() === batch.bin || move.running}
            onClick={() => move.run({ batchId: batch.id, bin: bin.trim() })}
          >
            {say("move")}
          </Button>
          <TextField
            label={say("counted")}
            value={counted}
            onChange={(e) => setCounted(e.target.value.replace(/\D/g, ""))}
            sx={{ width: 130 }}
            slotProps={{ htmlInput: { inputMode: "numeric" } }}
          />
          <Button
            disabled={counted === "" || Number(counted) === batch.onHand || recount.running}
            onClick={() =>
              recount.run({ batchId: batch.id, version: batch.version, counted: Number(counted), why: why || say("stocktake") })
            }
          >
            {say("setTheCount")}
          </Button>
        </Box>
      )}
      <Problem problem={move.problem ?? recount.problem} />
    </Box>
  );
}
