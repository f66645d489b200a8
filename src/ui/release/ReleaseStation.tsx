"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import type { Role } from "@/contract/deeds";
import { parseAmount } from "@/core/money/money";
import { controlsOf, functionsOf, placeName } from "@/core/profile/profile";
import type { Market } from "@/core/profile/slots";
import { type Ending, FIRM_BLOCKS, firmOf } from "@/core/record/standing";
import type { UnitView } from "@/service/views";
import { day, dayAndTime } from "@/text/format";
import { GRADE_WORDS } from "@/text/measures";
import { refusalText } from "@/text/refusals";
import { blockText, ENDING_NAMES, placeWords } from "@/text/words";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { PlanView } from "@/ui/plan/PlanView";
import { PlanFrame, Station } from "@/ui/unit/Station";

/** The end of a unit's way through the shop: released with its certificate, or closed honestly in another way. */
export function ReleaseStation({
  view,
  going,
  disclose,
  role,
  publicUrl,
}: {
  view: UnitView;
  /** going prices by grade */
  going: Market;
  /** damage on the way that was not made good: a buyer is told */
  disclose: string;
  role: Role;
  publicUrl: string | null;
}) {
  const { unit, profile } = view;
  return (
    <Station
      plan={
        <PlanFrame>
          <PlanView profile={profile} revision={unit.revision} marks={unit.intake.marks} />
        </PlanFrame>
      }
    >
      {unit.ending ? (
        <Closed view={view} role={role} publicUrl={publicUrl} />
      ) : (
        <Open view={view} going={going} disclose={disclose} role={role} />
      )}
      <Label view={view} />
    </Station>
  );
}

function Open({ view, going, disclose, role }: { view: UnitView; going: Market; disclose: string; role: Role }) {
  const { unit, profile, blocks, settings } = view;
  const release = useDeed("unit.release");
  const names = new Map(
    [...controlsOf(profile, unit.revision), ...functionsOf(profile, unit.revision)].map((x) => [x.id, placeName(x)]),
  );
  const grade = view.recordings.find((r) => r.id === view.proofId)?.grade;
  const rate = grade === "A" ? going.aMinor : grade === "B" ? going.bMinor : grade === "C" ? going.cMinor : 0;
  const suggested = unit.source === "customer" || rate === 0 ? null : rate;
  const [v, setV] = useState({
    price: suggested === null ? "" : (suggested / 100).toFixed(2),
    warranty: String(settings.warrantyDays),
    known: disclose,
    limit: "",
    reason: "",
  });
  const set = (k: keyof typeof v) => (e: { target: { value: string } }) => setV({ ...v, [k]: e.target.value });
  const firm = blocks.filter((b) => (FIRM_BLOCKS as readonly string[]).includes(b.code));
  const canWork = role !== "viewer";
  const price = v.price.trim() === "" ? null : parseAmount(v.price);
  const badPrice = v.price.trim() !== "" && price === null;
  const badDays = !/^\d{1,4}$/.test(v.warranty);
  const save = () => {
    if (badPrice || badDays) return;
    void release.run({
      unitId: unit.id,
      version: unit.version,
      priceMinor: price,
      warrantyDays: Number(v.warranty),
      known: v.known,
      limit: v.limit,
      reason: v.reason,
    });
  };
  return (
    <>
      <Typography component="h2" sx={{ fontSize: "2.2rem", fontWeight: 800, lineHeight: 1.1, mb: 1 }}>
        {blocks.length === 0
          ? "Ready to release"
          : `${blocks.length} ${blocks.length === 1 ? "thing blocks" : "things block"} the release`}
      </Typography>
      {blocks.length > 0 && (
        <Box component="ul" sx={{ mt: 0, pl: 2.5, columns: { sm: blocks.length > 6 ? 2 : 1 } }}>
          {blocks.map((b, i) => (
            <li key={i}>{blockText(b, (id) => names.get(id) ?? placeWords(id))}</li>
          ))}
        </Box>
      )}
      {canWork && firm.length === 0 && (blocks.length === 0 || role === "lead") && (
        <Box
          component="form"
          onSubmit={(e) => {
            e.preventDefault();
            save();
          }}
          sx={{ display: "grid", gap: 1.5, gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr" }, maxWidth: 720, my: 2 }}
        >
          {blocks.length > 0 && (
            <>
              <Typography sx={{ gridColumn: "1 / -1" }}>
                As lead you can release it with a stated limit. The limit and the reason are printed on the certificate.
              </Typography>
              <TextField label="Limit, such as: by cable only" required value={v.limit} onChange={set("limit")} />
              <TextField label="Reason" required value={v.reason} onChange={set("reason")} />
            </>
          )}
          <TextField
            label={`Price ${settings.currency} (may stay empty)`}
            value={v.price}
            onChange={set("price")}
            error={badPrice}
            helperText={badPrice ? "an amount such as 34.50" : suggested === null ? " " : `what grade ${grade} goes for`}
          />
          <TextField
            label="Warranty, days"
            value={v.warranty}
            onChange={set("warranty")}
            error={badDays}
            helperText={badDays ? "whole days" : " "}
          />
          <TextField
            label="Worth knowing (printed)"
            value={v.known}
            onChange={set("known")}
            sx={{ gridColumn: "1 / -1" }}
            multiline
          />
          <Box>
            <Button type="submit" variant="contained" size="large" disabled={release.running}>
              {blocks.length > 0 ? "Release with this limit" : "Release"}
            </Button>
          </Box>
        </Box>
      )}
      {canWork && blocks.length > 0 && firm.length === 0 && role !== "lead" && (
        <Alert severity="info">Settle what blocks it. A lead can release it with a stated limit and a reason.</Alert>
      )}
      {firm.length > 0 && !unit.swollen && (
        <Alert
          severity="info"
          action={
            <Button
              component={Link}
              href={`/units/${unit.tag}/${firm.some((b) => b.code === "no-proof") ? "prove" : "mend"}`}
              color="inherit"
            >
              {firm.some((b) => b.code === "no-proof") ? "Go to Prove" : "Go to Mend"}
            </Button>
          }
        >
          {firm.some((b) => b.code === "no-proof")
            ? "Without a proof nothing is released, with or without a limit."
            : refusalText({ code: "firm-block", block: firmOf(firm)[0]! })}
        </Alert>
      )}
      <Problem problem={release.problem} />
      {canWork && <OtherEnding view={view} />}
    </>
  );
}

const OTHER: Exclude<Ending, "released">[] = ["returned-unmended", "sold-as-found", "donor", "scrap"];

function OtherEnding({ view }: { view: UnitView }) {
  const deed = useDeed("unit.end");
  const [kind, setKind] = useState<(typeof OTHER)[number] | null>(null);
  const [known, setKnown] = useState("");
  const [price, setPrice] = useState("");
  const sold = price.trim() === "" ? null : parseAmount(price);
  const badPrice = price.trim() !== "" && sold === null;
  const choices = view.unit.swollen ? (["scrap"] as const) : OTHER;
  return (
    <Box component="section" aria-label="Another ending" sx={{ mt: 3 }}>
      <Typography component="h3" variant="h2" sx={{ mb: 1 }}>
        Another ending
      </Typography>
      <ToggleButtonGroup exclusive value={kind} onChange={(_e, k) => setKind(k)} sx={{ flexWrap: "wrap" }}>
        {choices.map((k) => (
          <ToggleButton key={k} value={k}>
            {view.unit.swollen ? "Handed over as scrap" : ENDING_NAMES[k]}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      {kind && (
        <Box
          component="form"
          onSubmit={(e) => {
            e.preventDefault();
            if (!badPrice) void deed.run({ unitId: view.unit.id, version: view.unit.version, kind, known, priceMinor: sold });
          }}
          sx={{ display: "grid", gap: 1.5, mt: 1.5, maxWidth: 720 }}
        >
          <TextField
            label="What is known: found, ruled out, what it can still give"
            required
            multiline
            minRows={2}
            value={known}
            onChange={(e) => setKnown(e.target.value)}
            autoFocus
          />
          {(kind === "sold-as-found" || kind === "donor") && (
            <TextField
              label={
                kind === "donor" ? `What its parts brought so far, ${view.settings.currency}` : `Price, ${view.settings.currency}`
              }
              value={price}
              onChange={(e) => setPrice(e.target.value)}
              error={badPrice}
              helperText={badPrice ? "an amount such as 12.50" : undefined}
              sx={{ maxWidth: 300 }}
            />
          )}
          <Box>
            <Button type="submit" variant="contained" disabled={deed.running}>
              Close as {ENDING_NAMES[kind]}
            </Button>
          </Box>
          <Problem problem={deed.problem} />
        </Box>
      )}
    </Box>
  );
}

/** A sold unit comes back: for what, and to which mend it points. It changes the odds of that route. */
function CameBack({ view }: { view: UnitView }) {
  const deed = useDeed("unit.came-back");
  const [open, setOpen] = useState(false);
  const [words, setWords] = useState("");
  const [mendId, setMendId] = useState("");
  if (!open)
    return (
      <Button variant="outlined" onClick={() => setOpen(true)}>
        It came back
      </Button>
    );
  return (
    <Box
      component="form"
      aria-label="It came back"
      onSubmit={(e) => {
        e.preventDefault();
        void deed.run({ unitId: view.unit.id, version: view.unit.version, mendId: mendId || null, words });
      }}
      sx={{ display: "grid", gap: 1.2, maxWidth: 620, my: 1 }}
    >
      <TextField label="What they say is wrong" value={words} onChange={(e) => setWords(e.target.value)} required autoFocus />
      <TextField
        select
        label="Which mend it points to"
        value={mendId}
        onChange={(e) => setMendId(e.target.value)}
        slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
        helperText="That fault opens again, and the route's odds of a return learn from it."
      >
        <option value="">none of them</option>
        {view.mends.map((m) => (
          <option key={m.id} value={m.id}>{`${m.number}. ${m.what}`}</option>
        ))}
      </TextField>
      <Box>
        <Button type="submit" variant="contained" disabled={!words.trim() || deed.running}>
          Take it back in
        </Button>
      </Box>
      <Problem problem={deed.problem} />
    </Box>
  );
}

function Closed({ view, role, publicUrl }: { view: UnitView; role: Role; publicUrl: string | null }) {
  const { unit, settings } = view;
  const reopen = useDeed("unit.reopen");
  const revoke = useDeed("certificate.revoke");
  const [why, setWhy] = useState("");
  const last = view.endings[0];
  const certificate = view.certificates.find((c) => c.revokedAt === null);
  const address = certificate && `/c/${certificate.token}`;
  return (
    <>
      <Typography component="h2" sx={{ fontSize: "2.2rem", fontWeight: 800, lineHeight: 1.1 }}>
        {ENDING_NAMES[unit.ending!].charAt(0).toUpperCase() + ENDING_NAMES[unit.ending!].slice(1)}
        {last?.grade && `, ${GRADE_WORDS[last.grade]}`}
      </Typography>
      {last && (
        <Typography color="text.secondary" sx={{ mb: 1 }}>
          {last.by}, {dayAndTime(last.at, settings)}
        </Typography>
      )}
      {last?.limit && (
        <Alert severity="warning" sx={{ my: 1 }}>
          Limit: {last.limit}. Reason: {last.reason}
        </Alert>
      )}
      {last?.known && <Typography sx={{ my: 1 }}>{last.known}</Typography>}
      {certificate && address && (
        <Box sx={{ my: 2 }}>
          <Typography component="h3" variant="h2">
            Certificate of {day(certificate.releasedAt, settings)}
          </Typography>
          <Typography sx={{ overflowWrap: "anywhere", mb: 1 }}>
            {publicUrl ?? ""}
            {address}
          </Typography>
          <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
            <Button component="a" href={address} target="_blank" variant="contained" size="large">
              Open the certificate
            </Button>
            <Button component="a" href={`${address}/pdf`} variant="outlined" size="large">
              As PDF
            </Button>
          </Box>
        </Box>
      )}
      {view.certificates
        .filter((c) => c.revokedAt)
        .map((c) => (
          <Typography key={c.id} color="text.secondary">
            Certificate of {day(c.releasedAt, settings)} was revoked: {c.revokedWhy}
          </Typography>
        ))}
      {role !== "viewer" && unit.ending === "released" && <CameBack view={view} />}
      {role === "lead" && (
        <Box component="section" aria-label="For a lead" sx={{ mt: 3, display: "grid", gap: 1, maxWidth: 620 }}>
          <TextField label="Why (for opening again or revoking)" value={why} onChange={(e) => setWhy(e.target.value)} />
          <Box sx={{ display: "flex", gap: 1 }}>
            <Button
              variant="outlined"
              disabled={!why.trim() || reopen.running}
              onClick={() => void reopen.run({ unitId: unit.id, version: unit.version, why })}
            >
              Open the unit again
            </Button>
            {certificate && (
              <Button
                variant="outlined"
                disabled={!why.trim() || revoke.running}
                onClick={() => void revoke.run({ certificateId: certificate.id, why })}
              >
                Revoke the certificate
              </Button>
            )}
          </Box>
          <Problem problem={reopen.problem ?? revoke.problem} />
        </Box>
      )}
    </>
  );
}

/** The unit's label, its size in millimetres; the code carries the tag alone. */
function Label({ view }: { view: UnitView }) {
  const [size, setSize] = useState({ w: String(view.settings.labelWidthMm), h: String(view.settings.labelHeightMm) });
  const valid = Number(size.w) >= 15 && Number(size.w) <= 120 && Number(size.h) >= 10 && Number(size.h) <= 120;
  return (
    <Box component="section" aria-label="Label" sx={{ mt: 4 }}>
      <Typography component="h3" variant="h2" sx={{ mb: 1 }}>
        Label
      </Typography>
      <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
        <TextField
          label="Width, mm"
          value={size.w}
          onChange={(e) => setSize({ ...size, w: e.target.value })}
          error={!valid}
          sx={{ width: 110 }}
        />
        <TextField
          label="Height, mm"
          value={size.h}
          onChange={(e) => setSize({ ...size, h: e.target.value })}
          error={!valid}
          sx={{ width: 110 }}
        />
        <Button
          component="a"
          variant="outlined"
          disabled={!valid}
          href={`/units/${view.unit.tag}/label?w=${size.w}&h=${size.h}`}
          target="_blank"
        >
          Label as PDF
        </Button>
        {!valid && <Typography color="error">15 to 120 wide, 10 to 120 high</Typography>}
      </Box>
    </Box>
  );
}
