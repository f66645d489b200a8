"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { day, dayAndTime } from "@/text/format";
import { GRADE_WORDS } from "@/text/measures";
import { listingText } from "@/features/release/words/text";
import { ENDING_NAMES } from "@/features/case/words/text";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { PapersOf } from "@/features/papers/ui/PapersOf";
import { CameBack } from "./CameBack";
import { HandOver } from "./HandOver";
import { Listing } from "./Listing";
import type { ReleaseProps } from "./props";
import { say } from "@/features/release/words/words";
import { BoundField } from "@/ui/form/BoundField";
import { fieldWrong } from "@/ui/form/typed";
import { Block, Notice, Row, Text } from "@/ui/kit/layout";

/** What Closed knows and does; the components below only show it. */
function useClosed({ view, release, role, publicUrl, today }: ReleaseProps) {
  const { unit, settings } = view;
  const reopen = useDeed("unit.reopen");
  const revoke = useDeed("certificate.revoke");
  const [why, setWhy] = useState("");
  const last = view.endings[0];
  const certificate = view.certificates.find((c) => c.revokedAt === null);
  const address = certificate && `/c/${certificate.token}`;
  return {
    view,
    release,
    role,
    publicUrl,
    today,
    unit,
    settings,
    reopen,
    revoke,
    why,
    setWhy,
    last,
    certificate,
    address,
  };
}
type ClosedState = ReturnType<typeof useClosed>;

/**
 * A unit that left: its certificate, how it was handed over, what is covered until when, and what came back.
 */
export function Closed(props: ReleaseProps) {
  const s = useClosed(props);
  const { view, release, role, today, unit, settings, last } = s;

  return (
    <>
      <Text component="h2" size="big" strong>
        {ENDING_NAMES[unit.ending!].charAt(0).toUpperCase() + ENDING_NAMES[unit.ending!].slice(1)}
        {last?.grade && `, ${GRADE_WORDS[last.grade]}`}
      </Text>
      {last && (
        <Text color="text.secondary" after={1}>
          {last.by}, {dayAndTime(last.at, settings)}
        </Text>
      )}
      {last?.limit && (
        <Notice severity="warning" around={1}>
          {say("limitLimitReasonReason", { limit: last.limit, reason: last.reason })}
        </Notice>
      )}
      {last?.known && <Text around={1}>{last.known}</Text>}
      <TheCertificate {...s} />
      {view.certificates
        .filter((c) => c.revokedAt)
        .map((c) => (
          <Typography key={c.id} color="text.secondary">
            {say("certificateOfReleasedAtWasRevoked", {
              releasedAt: day(c.releasedAt, settings),
              revokedWhy: c.revokedWhy,
            })}
          </Typography>
        ))}
      {release.stated && <Listing text={listingText(release.stated)} />}
      <HandOver view={view} release={release} today={today} canWork={role !== "viewer"} />
      {!["donor", "scrap"].includes(unit.ending!) && (
        <PapersOf
          kind="bill"
          papers={release.papers}
          unitId={unit.id}
          shop={settings}
          canWork={role !== "viewer"}
        />
      )}
      {role !== "viewer" && unit.ending === "released" && (
        <CameBack view={view} release={release} today={today} />
      )}
      <ForALead {...s} />
    </>
  );
}

function TheCertificate({ certificate, address, settings, publicUrl }: ClosedState) {
  return (
    certificate &&
    address && (
      <Block around={2}>
        <Typography component="h3" variant="h2">
          {say("certificateOfReleasedAt", { releasedAt: day(certificate.releasedAt, settings) })}
        </Typography>
        <Typography sx={{ overflowWrap: "anywhere", mb: 1 }}>
          {publicUrl ?? ""}
          {address}
        </Typography>
        <Row gap={1}>
          <Button component="a" href={address} target="_blank" variant="contained" size="large">
            {say("openTheCertificate")}
          </Button>
          <Button component="a" href={`${address}/pdf`} variant="outlined" size="large">
            {say("asPDF")}
          </Button>
        </Row>
      </Block>
    )
  );
}

function ForALead({ role, why, setWhy, reopen, unit, certificate, revoke }: ClosedState) {
  return (
    role === "lead" && (
      <Box
        component="section"
        aria-label={say("forALead")}
        sx={{ mt: 3, display: "grid", gridTemplateColumns: "minmax(0,1fr)", gap: 1, maxWidth: 620 }}
      >
        <BoundField
          deed="unit.reopen"
          name="why"
          label={say("whyForOpeningAgainOrRevoking")}
          value={why}
          onChange={setWhy}
        />
        <Row gap={1}>
          <Button
            variant="outlined"
            disabled={fieldWrong("unit.reopen", "why", why) !== null || reopen.running}
            onClick={() => void reopen.run({ unitId: unit.id, version: unit.version, why })}
          >
            {say("openTheUnitAgain")}
          </Button>
          {certificate && (
            <Button
              variant="outlined"
              disabled={fieldWrong("certificate.revoke", "why", why) !== null || revoke.running}
              onClick={() => void revoke.run({ certificateId: certificate.id, why })}
            >
              {say("revokeTheCertificate")}
            </Button>
          )}
        </Row>
        <Problem problem={reopen.problem ?? revoke.problem} />
      </Box>
    )
  );
}
