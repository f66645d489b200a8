"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { useKeys } from "@/ui/kit/keys";
import { say } from "@/features/parts/words/words";
import { BoundField } from "@/ui/form/BoundField";
import { fieldWrong, numberIn } from "@/ui/form/typed";
import { Row } from "@/ui/kit/layout";

type Props = {
  batch: { id: string; bin: string; onHand: number; reserved: number; status: string; version: number };
  /** whether the key "o" takes one out here */
  keyed?: boolean;
};

/** What Handle knows and does; the components below only show it. */
function useHandle({ batch, keyed = false }: Props) {
  const take = useDeed("stock.take");
  const move = useDeed("stock.move");
  const recount = useDeed("stock.count");
  const [n, setN] = useState("1");
  const [why, setWhy] = useState("");
  const [bin, setBin] = useState(batch.bin);
  const [counted, setCounted] = useState("");
  const usable = batch.status === "open" && batch.onHand > batch.reserved;
  const count = numberIn("stock.take", "count", n) ?? 0;
  const found = numberIn("stock.count", "counted", counted);
  const spend = (pieces: number) =>
    take.run({ batchId: batch.id, count: pieces, for: { kind: "use", unitId: null }, why });
  useKeys(keyed && usable ? { o: () => void spend(1) } : {});
  return {
    batch,
    keyed,
    take,
    move,
    recount,
    n,
    setN,
    why,
    setWhy,
    bin,
    setBin,
    counted,
    setCounted,
    usable,
    count,
    found,
    spend,
  };
}
type HandleState = ReturnType<typeof useHandle>;

/** What a hand does with a batch: use some, lose some, put it in another bin, count it. */
export function Handle(props: Props) {
  const s = useHandle(props);
  const { take, move, recount } = s;

  return (
    <Box sx={{ display: "grid", gap: 1.2 }}>
      <TakePieces {...s} />
      <Problem problem={take.problem} />
      <MoveAndCount {...s} />
      <Problem problem={move.problem ?? recount.problem} />
    </Box>
  );
}

function TakePieces({ usable, n, setN, why, setWhy, count, take, spend, keyed, batch }: HandleState) {
  return (
    usable && (
      <Row gap={1} at="start">
        <BoundField
          deed="stock.take"
          name="count"
          label={say("howMany")}
          value={n}
          onChange={setN}
          sx={{ width: 130 }}
        />
        <BoundField
          deed="stock.take"
          name="why"
          label={say("forWhat")}
          value={why}
          onChange={setWhy}
          sx={{ width: 180 }}
        />
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
      </Row>
    )
  );
}

function MoveAndCount({ batch, bin, setBin, move, counted, setCounted, found, recount, why }: HandleState) {
  return (
    batch.status !== "disposed" && (
      <Row gap={1} at="start">
        <BoundField
          deed="stock.move"
          name="bin"
          label={say("bin")}
          value={bin}
          onChange={setBin}
          sx={{ width: 130 }}
        />
        <Button
          disabled={fieldWrong("stock.move", "bin", bin) !== null || bin.trim() === batch.bin || move.running}
          onClick={() => move.run({ batchId: batch.id, bin: bin.trim() })}
        >
          {say("move")}
        </Button>
        <BoundField
          deed="stock.count"
          name="counted"
          label={say("counted")}
          value={counted}
          onChange={setCounted}
          sx={{ width: 130 }}
        />
        <Button
          disabled={found === null || found === batch.onHand || recount.running}
          onClick={() =>
            recount.run({
              batchId: batch.id,
              version: batch.version,
              counted: found!,
              why: why || say("stocktake"),
            })
          }
        >
          {say("setTheCount")}
        </Button>
      </Row>
    )
  );
}
