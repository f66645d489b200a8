"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { type Lexicon, lexiconToText, readLexicon } from "@/core/claim/lexicon";
import { OUTCOMES } from "@/core/diagnosis/priors";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { FIGURES } from "@/ui/figures";
import { say } from "@/features/people/words/words";

/** The words in which people complain and what each means: one line an entry. For leads. */
export function LexiconEditor({ lexicon, version }: { lexicon: Lexicon; version: number }) {
  const deed = useDeed("lexicon.save");
  const [text, setText] = useState(lexiconToText(lexicon));
  const [saved, setSaved] = useState(false);
  const read = readLexicon(text);
  return (
    <Form
      aria-label={say("wordsOfComplaints")}
      onSend={() => {
        if (read.ok)
          void deed.run({ version, lexicon: read.value }).then((done) => setSaved(done?.ok === true));
      }}
      sx={{ maxWidth: 900, display: "grid", gap: 1.5, mt: 4 }}
    >
      <Typography component="h2" variant="h2">
        {say("wordsOfComplaints")}
      </Typography>
      <Typography color="text.secondary">
        {say("oneLineAnEntryTheWords", { oUTCOMES: OUTCOMES.filter((o) => o !== "works").join(", ") })}
      </Typography>
      <TextField
        multiline
        minRows={6}
        label={say("wordsMeaningKind")}
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setSaved(false);
        }}
        sx={{ "& textarea": { fontFamily: FIGURES } }}
      />
      {!read.ok && (
        <Alert severity="error">
          {say("lineLineWhy", { line: read.problem.line, why: read.problem.why })}
        </Alert>
      )}
      <Problem problem={deed.problem} />
      {saved && <Alert severity="success">{say("saved")}</Alert>}
      <Box>
        <Button type="submit" variant="contained" disabled={!read.ok || deed.running}>
          {say("saveTheWords")}
        </Button>
      </Box>
    </Form>
  );
}
