"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";

import type { Settings } from "@/contract/deeds";
import type { SessionView } from "@/features/account/sessions";
import { browserWords } from "@/text/names";
import { dayAndTime } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { say } from "@/features/people/words/words";
import { Words } from "@/ui/kit/layout";

/** Where a person is signed in, and ending what they do not know or left behind. */
export function Sessions({ sessions, shop }: { sessions: SessionView[]; shop: Settings }) {
  const end = useDeed("session.end");
  return (
    <Box
      component="section"
      aria-label={say("whereYouAreSignedIn")}
      sx={{ mt: 4, maxWidth: 620, display: "grid", gap: 1.2, gridTemplateColumns: "minmax(0,1fr)" }}
    >
      <Typography component="h2" variant="h2">
        {say("whereYouAreSignedIn")}
      </Typography>
      <Typography color="text.secondary">
        {say("aSessionThatNobodyUsesEnds", { idleHours: shop.idleHours })}
      </Typography>
      <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0 }}>
        {sessions.map((s) => (
          <Box
            component="li"
            key={s.id}
            sx={{
              display: "flex",
              gap: 2,
              alignItems: "center",
              py: 0.8,
              borderTop: 1,
              borderColor: "divider",
              flexWrap: "wrap",
            }}
          >
            <Box sx={{ flex: 1, minWidth: 220 }}>
              <b>{browserWords(s.agent)}</b> {say("atAddress", { address: s.address })}
              <Words quiet>
                {say("sinceAtLastUsedSeenAt", {
                  at: dayAndTime(s.at, shop),
                  seenAt: dayAndTime(s.seenAt, shop),
                })}
              </Words>
            </Box>
            {s.own ? (
              <span>{say("thisOne")}</span>
            ) : (
              <Button size="small" disabled={end.running} onClick={() => void end.run({ sessionId: s.id })}>
                {say("endIt")}
              </Button>
            )}
          </Box>
        ))}
      </Box>
      <Problem problem={end.problem} />
    </Box>
  );
}
