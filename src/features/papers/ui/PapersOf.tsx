"use client";

import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { PaperKind } from "@/contract/papers";
import type { Settings } from "@/contract/deeds";
import type { PaperView } from "@/features/papers/view";
import { paperName, paperNumber, sumText } from "@/features/papers/words/text";
import { say } from "@/features/papers/words/words";
import { day } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { BoundField } from "@/ui/form/BoundField";
import { TypedField } from "@/ui/form/TypedField";
import { useDeedForm } from "@/ui/form/useDeedForm";
import { Block, Row, Text } from "@/ui/kit/layout";

type Props = {
  papers: readonly PaperView[];
  unitId: string;
  kind: PaperKind;
  shop: Settings;
  canWork: boolean;
  /** the question that is offered; null for what the unit alone says */
  questionId?: string | null;
};

/** Papers of one kind of a unit: what was written, another in its place, and the first one. */
export function PapersOf({ papers, unitId, kind, shop, canWork, questionId = null }: Props) {
  const own = papers.filter((p) => p.kind === kind);
  const standing = own.some((p) => p.correctedBy === null && p.body.lines.length > 0);
  return (
    <Block component="section" aria-label={say(kind)} before={2}>
      <Text component="h3" variant="h2" after={0.5}>
        {say(kind)}
      </Text>
      {own.map((p) => (
        <OnePaper key={p.id} paper={p} shop={shop} canWork={canWork && p.unitId === unitId} />
      ))}
      {own.length > 0 && canWork && <Typography color="text.secondary">{say("aPaperStays")}</Typography>}
      {own.length === 0 && !canWork && (
        <Typography color="text.secondary">{say("nothingWritten")}</Typography>
      )}
      {canWork && !standing && <Issue unitId={unitId} kind={kind} questionId={questionId} />}
    </Block>
  );
}

const WRITE: Record<PaperKind, string> = {
  offer: say("onPaper"),
  bill: say("writeTheBill"),
  receipt: say("writeTheReceipt"),
};

function Issue({ unitId, kind, questionId }: { unitId: string; kind: PaperKind; questionId: string | null }) {
  const issue = useDeed("paper.issue");
  const [contact, setContact] = useState("");
  return (
    <Form
      onSend={() => void issue.run({ unitId, kind, questionId, contact })}
      sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "center" }}
    >
      <BoundField
        deed="paper.issue"
        name="contact"
        size="small"
        label={say("howToReach")}
        value={contact}
        onChange={setContact}
        sx={{ width: { xs: "100%", sm: 400 } }}
      />
      <Button type="submit" variant="outlined" disabled={issue.running}>
        {WRITE[kind]}
      </Button>
      <Problem problem={issue.problem} />
    </Form>
  );
}

function OnePaper({ paper: p, shop, canWork }: { paper: PaperView; shop: Settings; canWork: boolean }) {
  const [correcting, setCorrecting] = useState(false);
  const name = paperName(p.kind, p.number);
  return (
    <Box sx={{ py: 0.5 }}>
      <Row gap={1} at="center">
        <Box sx={{ fontWeight: 700 }}>
          {say("ofDay", { name, day: day(p.body.issuedOn, shop), sum: sumText(p.kind, p.body, shop) })}
        </Box>
        <Button
          component="a"
          href={`/papers/${p.id}/pdf`}
          target="_blank"
          size="small"
          aria-label={say("asPdf", { name })}
        >
          PDF
        </Button>
        {canWork && p.correctedBy === null && (
          <Button
            size="small"
            color="inherit"
            onClick={() => setCorrecting(!correcting)}
            aria-expanded={correcting}
          >
            {say("correct")}
          </Button>
        )}
      </Row>
      <Typography color="text.secondary">
        {[
          say("forWhomBy", { to: p.body.other.name || say("nobodyNamed"), by: p.by }),
          p.body.corrects &&
            say("correctsNumber", { number: paperNumber(p.body.corrects.number), why: p.body.corrects.why }),
          p.correctedBy !== null && say("correctedBy", { number: paperNumber(p.correctedBy) }),
        ]
          .filter(Boolean)
          .join("; ")}
      </Typography>
      {correcting && <Correct paper={p} onDone={() => setCorrecting(false)} />}
    </Box>
  );
}

function Correct({ paper, onDone }: { paper: PaperView; onDone: () => void }) {
  const [takeBack, setTakeBack] = useState(false);
  const form = useDeedForm("paper.correct", {
    start: { why: "", contact: paper.body.other.contact },
    needed: ["why"],
    rest: () => ({ unitId: paper.unitId, paperId: paper.id, takeBack }),
    onDone,
  });
  return (
    <Form
      noValidate
      onSend={form.send}
      sx={{ display: "grid", gap: 1, gridTemplateColumns: "minmax(0,1fr)", maxWidth: 620, mt: 1 }}
    >
      <TypedField form={form} name="why" label={say("whyCorrect")} autoFocus />
      <TypedField form={form} name="contact" label={say("howToReach")} />
      <FormControlLabel
        control={<Checkbox checked={takeBack} onChange={(e) => setTakeBack(e.target.checked)} />}
        label={say("takeItBack")}
      />
      <Box>
        <Button type="submit" variant="contained" disabled={form.running}>
          {say("writeCorrection")}
        </Button>
      </Box>
      <Problem problem={form.problem} />
    </Form>
  );
}
