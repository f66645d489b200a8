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

/** The words in which people complain and what each means: one line an entry. For leads. */
export function LexiconEditor({ lexicon, version }: { lexicon: Lexicon; version: number }) {
  const deed = useDeed("lexicon.save");
  const [text, setText] = useState(lexiconToText(lexicon));
  const [saved, setSaved] = useState(false);
  const read = readLexicon(text);
  return (
    <Form
      aria-label="Words of complaints"
      onSend={() => {
        if (read.ok) void deed.run({ version, lexicon: read.value }).then((done) => setSaved(done?.ok === true));
      }}
      sx={{ maxWidth: 900, display: "grid", gap: 1.5, mt: 4 }}
    >
      <Typography component="h2" variant="h2">
        Words of complaints
      </Typography>
      <Typography color="text.secondary">
        One line an entry: the words, then = and what they mean, then the kind of control where none is named. Meanings:{" "}
        {OUTCOMES.filter((o) => o !== "works").join(", ")}.
      </Typography>
      <TextField
        multiline
        minRows={6}
        label="Words = meaning, kind"
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setSaved(false);
        }}
        sx={{ "& textarea": { fontFamily: FIGURES } }}
      />
      {!read.ok && <Alert severity="error">{`Line ${read.problem.line}: ${read.problem.why}`}</Alert>}
      <Problem problem={deed.problem} />
      {saved && <Alert severity="success">Saved.</Alert>}
      <Box>
        <Button type="submit" variant="contained" disabled={!read.ok || deed.running}>
          Save the words
        </Button>
      </Box>
    </Form>
  );
}
