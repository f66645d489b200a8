"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";

import { BATCH_STATUS_WORDS, traitText } from "@/features/parts/words/text";
import { say } from "@/features/parts/words/words";
import { dayAndTime, figure, money } from "@/text/format";
import { measureName } from "@/text/measures";
import { Figure, Table } from "@/ui/kit/Table";
import { codeWords } from "@/words/codes";
import { Inspection } from "./BatchInspection";
import { Handle } from "./Handle";
import { Holders, Recall } from "./Recall";
import { TakeApart } from "./TakeApart";
import { type BatchState, type Props, useBatch } from "./useBatch";
import { Block, Notice, Row, Text, Words } from "@/ui/kit/layout";

/** One batch: measured piece by piece, what that says of all of it, who holds a piece, and every movement. */
export function Batch(props: Props) {
  const s = useBatch(props);
  const { view, batch, locked } = s;

  return (
    <Box>
      <BatchFigures {...s} />
      <WhereFrom {...s} />
      {locked && (
        <Notice severity="error" role="status" after={2}>
          {batch.status === "rejected" ? say("lockedNothingIsTakenFromIt") : say("disposedOf2")}{" "}
          {batch.status_why}
        </Notice>
      )}
      {locked && <Recall {...props} />}
      <Inspection {...s} />
      {props.inside.length > 0 && !locked && <TakeApart {...props} />}
      {!locked && view.holders.length > 0 && <Holders view={view} />}
      <HandleBatch {...s} />
      <Text component="h2" variant="h2" before={3}>
        {say("movements")}
      </Text>
      <Movements {...s} />
    </Box>
  );
}

function BatchFigures({ batch, part, shop }: BatchState) {
  return (
    <Row gap={2} after={1} at="baseline">
      <Typography component="h1" variant="h1">
        {batch.code}
      </Typography>
      <span>{part?.name ?? batch.part}</span>
      <b>{BATCH_STATUS_WORDS[batch.status]}</b>
      <span>
        <Figure big>{batch.on_hand}</Figure>{" "}
        {say("ofPiecesInBinBinReserved", {
          pieces: batch.pieces,
          bin: batch.bin,
          reserved: batch.reserved,
        })}
      </span>
      <span>{say("costminorTogether", { costminor: money(batch.cost_minor, shop) })}</span>
      <Box sx={{ flex: 1 }} />
      <Button
        component="a"
        href={`/labels/pdf?kind=batch&codes=${batch.code}`}
        target="_blank"
        variant="outlined"
      >
        {say("label")}
      </Button>
    </Row>
  );
}

function WhereFrom({ originWords, part, batch }: BatchState) {
  return (
    <Words after={1.5} quiet>
      {originWords()}
      {part && traitText(part.traits)}
      {part &&
        part.lacks.length > 0 &&
        say("comesWithoutLacksMoveThemOver2", { lacks: part.lacks.join(", ") })}
      {batch.figures.length > 0 &&
        say("measuredInTheDonorFigures", {
          figures: batch.figures
            .map((f) => `${measureName(f.name.replace(/^\S+ /, ""))} ${figure(f.value, 3)}`)
            .join(", "),
        })}
    </Words>
  );
}

function HandleBatch({ canWork, batch }: BatchState) {
  return (
    canWork && (
      <Block component="section" aria-label={say("takeMoveCount")} before={3}>
        <Handle
          keyed
          batch={{
            id: batch.id,
            bin: batch.bin,
            onHand: batch.on_hand,
            reserved: batch.reserved,
            status: batch.status,
            version: batch.version,
          }}
        />
      </Block>
    )
  );
}

function Movements({ view, shop }: BatchState) {
  return (
    <Table
      label={say("movements")}
      heads={[say("when"), say("what"), say("pieces"), say("money"), say("unit"), say("by")]}
    >
      {view.movements.map((m, i) => (
        <tr key={i}>
          <td>{dayAndTime(m.at, shop)}</td>
          <td>
            {codeWords(m.kind)}
            {m.why && `: ${m.why}`}
          </td>
          <td>{m.delta > 0 ? `+${m.delta}` : m.delta}</td>
          <td>{money(m.minor, shop)}</td>
          <td>{m.unit && <Link href={`/units/${m.unit}`}>{m.unit}</Link>}</td>
          <td>{m.by}</td>
        </tr>
      ))}
    </Table>
  );
}
