"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import type { FeedView } from "@/service/feed";
import { day } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";

/** Addresses under which a calendar program reads due days and ends of cover. Each is shown once and can be taken back. */
export function Calendars({ feeds, address, shop }: { feeds: FeedView[]; address: string; shop: Settings }) {
  const make = useDeed("feed.make");
  const revoke = useDeed("feed.revoke");
  const [name, setName] = useState("");
  const [made, setMade] = useState<string | null>(null);
  const save = async () => {
    const done = await make.run({ name });
    if (!done?.ok) return;
    setMade(`${address}/calendar/${done.value.token}`);
    setName("");
  };
  return (
    <Box
      component="section"
      aria-label="Calendar"
      sx={{ mt: 4, maxWidth: 620, display: "grid", gap: 1.2, gridTemplateColumns: "minmax(0,1fr)" }}
    >
      <Typography component="h2" variant="h2">
        Calendar
      </Typography>
      <Typography color="text.secondary">
        Due days and ends of warranty for your calendar program, by tag and model and without any customer. Whoever has the
        address can read it; take it back when it got around.
      </Typography>
      {feeds.map((f) => (
        <Box key={f.id} sx={{ display: "flex", gap: 1.5, alignItems: "center" }}>
          <b>{f.name}</b> since {day(f.madeAt, shop)}
          <Button
            size="small"
            onClick={() => {
              setMade(null);
              void revoke.run({ feedId: f.id });
            }}
          >
            Take back {f.name}
          </Button>
        </Box>
      ))}
      <Form onSend={save} sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
        <TextField
          size="small"
          label="For which program or device"
          value={name}
          onChange={(e) => setName(e.target.value)}
          required
        />
        <Button type="submit" variant="outlined" disabled={make.running || name.trim() === ""}>
          Make an address
        </Button>
      </Form>
      {made && (
        <Alert severity="success" sx={{ overflowWrap: "anywhere" }}>
          Copy it now, it is shown this once: <code>{made}</code>
        </Alert>
      )}
      <Problem problem={make.problem ?? revoke.problem} />
    </Box>
  );
}
