import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";

import type { CertificateBody } from "@/contract/certificate";
import type { Settings } from "@/contract/deeds";
import { day, dayAndTime } from "@/text/format";
import { GRADE_WORDS, measureName } from "@/text/measures";
import { CHECK_NAMES, TESTER_NAMES } from "@/text/words";
import { StateMark, stateOfCheck, stateOfGrade } from "@/ui/state/StateMark";
import { FIGURES } from "@/ui/figures";

/** What the buyer sees: what was measured, what was not, and what is limited. No customer, no cost. */
export function Certificate({
  body,
  revoked,
  pdf,
  shop,
}: {
  body: CertificateBody;
  revoked: string | null;
  pdf: string;
  shop: Settings;
}) {
  const notTested = [
    ...body.controls.filter((c) => c.grade === "untested").map((c) => c.name),
    ...body.functions.filter((f) => f.result === "not-tested").map((f) => f.name),
  ];
  return (
    <Box component="main" sx={{ maxWidth: 920, mx: "auto", px: { xs: 2, md: 3 }, py: 4 }}>
      {revoked && (
        <Alert severity="error" variant="filled" sx={{ mb: 3 }}>
          This certificate was revoked on {day(revoked, shop)}. It no longer stands.
        </Alert>
      )}
      <Typography color="text.secondary">
        {body.shop.name}, {body.shop.town}
      </Typography>
      <Box sx={{ display: "flex", gap: 3, alignItems: "end", flexWrap: "wrap", mb: 2 }}>
        <Box sx={{ flex: 1, minWidth: 260 }}>
          <Typography component="h1" sx={{ fontSize: "2.4rem", fontWeight: 800, lineHeight: 1.1 }}>
            {body.model}
          </Typography>
          <Typography sx={{ fontWeight: 600 }}>
            {body.tag}
            {body.revision && `, ${body.revision}`}
          </Typography>
        </Box>
        <Box sx={{ textAlign: { sm: "right" } }}>
          <Box sx={{ fontSize: "2.4rem", fontWeight: 800, lineHeight: 1.1, display: "flex", gap: 1, alignItems: "center" }}>
            <StateMark state={stateOfGrade(body.grade)} size={28} /> {GRADE_WORDS[body.grade]}
          </Box>
          <Typography>{body.warrantyUntil ? `warranty until ${day(body.warrantyUntil, shop)}` : "no warranty"}</Typography>
        </Box>
      </Box>
      {body.limit && (
        <Alert severity="warning" sx={{ mb: 2 }}>
          <b>Limit: {body.limit}.</b> Reason: {body.limitReason}
        </Alert>
      )}
      {notTested.length > 0 && (
        <Alert severity="warning" icon={<StateMark state="untested" />} sx={{ mb: 2 }}>
          Not tested: {notTested.join(", ")}
        </Alert>
      )}
      {body.known && <Typography sx={{ mb: 2 }}>{body.known}</Typography>}
      <Typography color="text.secondary" sx={{ mb: 2 }}>
        Measured by {body.tester.person} on {dayAndTime(body.tester.at, shop)} with{" "}
        {TESTER_NAMES[body.tester.source] ?? body.tester.source} ({body.tester.label}). Released {day(body.releasedAt, shop)}.
      </Typography>
      <Box className="no-print" sx={{ mb: 3 }}>
        <Button component="a" href={pdf} variant="outlined">
          As PDF
        </Button>
      </Box>
      <Box sx={{ columns: { md: 2 }, columnGap: 4 }}>
        {body.controls.map((c) => (
          <Box key={c.id} sx={{ breakInside: "avoid", mb: 2, borderTop: 2, borderColor: "divider", pt: 0.7 }}>
            <Box sx={{ display: "flex", gap: 1, alignItems: "center", fontWeight: 700 }}>
              <StateMark state={stateOfGrade(c.grade)} /> <Box sx={{ textTransform: "capitalize" }}>{c.name}</Box>
              <Box sx={{ ml: "auto" }}>{GRADE_WORDS[c.grade]}</Box>
            </Box>
            {c.figures.map((f) => (
              <Box
                key={f.measure}
                sx={{ display: "grid", gridTemplateColumns: "1.3fr 1fr", columnGap: 1, fontSize: "0.92rem", py: 0.2 }}
              >
                <Box>
                  {measureName(f.measure)}{" "}
                  <Box component="span" sx={{ color: "text.secondary", fontSize: "0.82rem" }}>
                    {f.limit}
                  </Box>
                </Box>
                <Box sx={{ textAlign: "right" }}>
                  <b style={{ fontFamily: FIGURES }}>{f.value}</b>
                  {f.before && f.before !== f.value && (
                    <Box sx={{ color: "text.secondary", fontSize: "0.82rem" }}>before {f.before}</Box>
                  )}
                </Box>
              </Box>
            ))}
          </Box>
        ))}
      </Box>
      {body.functions.length > 0 && (
        <>
          <Typography component="h2" variant="h2" sx={{ mt: 2, mb: 1 }}>
            Functions
          </Typography>
          <Box sx={{ columns: { xs: 1, sm: 2 } }}>
            {body.functions.map((f) => (
              <Box key={f.id} sx={{ display: "flex", gap: 1, alignItems: "center", py: 0.3 }}>
                <StateMark state={stateOfCheck(f.result)} size={14} /> {f.name}: <b>{CHECK_NAMES[f.result]}</b>
              </Box>
            ))}
          </Box>
        </>
      )}
      {body.work.length > 0 && (
        <>
          <Typography component="h2" variant="h2" sx={{ mt: 3, mb: 1 }}>
            Work done
          </Typography>
          {body.work.map((m, i) => (
            <div key={i}>
              {m.what}
              {m.part && ` (${m.part})`}
            </div>
          ))}
        </>
      )}
    </Box>
  );
}
