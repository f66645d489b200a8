"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import type { FeedView } from "@/features/account/feed";
import { day } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { say } from "@/features/people/words/words";
import { BoundField } from "@/ui/form/BoundField";
import { Row } from "@/ui/kit/layout";

/**
 * Addresses under which a calendar program reads due days and ends of cover. Each is shown once and can be
 * taken back.
 */
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
      aria-label={say("calendar")}
      sx={{ mt: 4, maxWidth: 620, display: "grid", gap: 1.2, gridTemplateColumns: "minmax(0,1fr)" }}
    >
      <Typography component="h2" variant="h2">
        {say("calendar")}
      </Typography>
      <Typography color="text.secondary">{say("dueDaysAndEndsOfWarranty")}</Typography>
      {feeds.map((f) => (
        <Row key={f.id} gap={1.5} oneLine at="center">
          <b>{f.name}</b> {say("sinceMadeAt", { madeAt: day(f.madeAt, shop) })}
          <Button
            size="small"
            onClick={() => {
              setMade(null);
              void revoke.run({ feedId: f.id });
            }}
          >
            {say("takeBackName", { name: f.name })}
          </Button>
        </Row>
      ))}
      <Form onSend={save} sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
        <BoundField
          deed="feed.make"
          name="name"
          size="small"
          label={say("forWhichProgramOrDevice")}
          value={name}
          onChange={setName}
          required
        />
        <Button type="submit" variant="outlined" disabled={make.running || name.trim() === ""}>
          {say("makeAnAddress")}
        </Button>
      </Form>
      {made && (
        <Alert severity="success" sx={{ overflowWrap: "anywhere" }}>
          {say("copyItNowItIsShown")} <code>{made}</code>
        </Alert>
      )}
      <Problem problem={make.problem ?? revoke.problem} />
    </Box>
  );
}
