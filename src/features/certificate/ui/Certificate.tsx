import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";

import type { CertificateBody } from "@/contract/certificate";
import type { Settings } from "@/contract/deeds";

import type { PublicCertificate } from "@/features/certificate/view";
import { day, dayAndTime } from "@/text/format";
import { GRADE_WORDS, measureName } from "@/text/measures";
import {
  CARE_WORDS,
  chargeText,
  CONDITION_WORDS,
  conditionRule,
  disclosureText,
  fittedText,
  partCoverText,
  proofTakenText,
  PROOF_RESULT_WORDS,
  proofWords,
  SIGNATURE_WORDS,
} from "@/features/release/words/text";
import { personName } from "@/text/names";
import { CHECK_NAMES, TESTER_NAMES } from "@/features/case/words/text";
import { StateMark, stateOfCheck, stateOfGrade } from "@/ui/state/StateMark";
import { FIGURES } from "@/ui/figures";
import { CurvePlot } from "@/features/release/ui/CurvePlot";
import { daysLater } from "@/core/days/days";
import { say } from "@/features/release/words/words";
import { SIZE } from "@/ui/tokens";
import { Notice, Row, Text, Words } from "@/ui/kit/layout";

type Props = { certificate: PublicCertificate; address: string; shop: Settings; signedIn: boolean };

/** What the parts of it are drawn from. */
function certificateOf({ certificate, address, shop, signedIn }: Props) {
  const { body, revokedAt, revokedWhy, supersededBy, signature } = certificate;
  const notTested = [
    ...body.controls.filter((c) => c.grade === "untested").map((c) => c.name),
    ...body.functions.filter((f) => f.result === "not-tested").map((f) => f.name),
  ];
  const stateOf = () => {
    if (signature.state === "good") return "pass";
    if (signature.state === "unsigned") return "untested";
    return "fail";
  };
  return {
    certificate,
    address,
    shop,
    signedIn,
    body,
    revokedAt,
    revokedWhy,
    supersededBy,
    signature,
    notTested,
    stateOf,
  };
}
type CertificateState = ReturnType<typeof certificateOf>;

/**
 * What the buyer sees: what was measured, what was not, what is limited and told, and whether all this is
 * what was signed.
 */
export function Certificate(props: Props) {
  const s = certificateOf(props);
  const { certificate, address, shop, signedIn, body } = s;
  return (
    <Box component="main" sx={{ maxWidth: 920, mx: "auto", px: { xs: 2, md: 3 }, py: 4 }}>
      <Standing {...s} />
      <Typography color="text.secondary">
        {body.shop.name}, {body.shop.town}
      </Typography>
      <Head body={body} shop={shop} handedOn={certificate.handedOn} />
      <Limits {...s} />
      {body.known && <Text after={2}>{body.known}</Text>}
      <Text color="text.secondary" after={2}>
        {say("measuredByPersonOnAtWith", {
          person: personName(body.tester.person),
          at: dayAndTime(body.tester.at, shop),
          source: TESTER_NAMES[body.tester.source] ?? body.tester.source,
          tester: body.tester.label,
          releasedAt: day(body.releasedAt, shop),
          seal: body.seal && say("closedWithSealSeal", { seal: body.seal }),
        })}
      </Text>
      <Row className="no-print" gap={1} after={3}>
        <Button component="a" href={`${address}/pdf`} variant="outlined">
          {say("asPDF")}
        </Button>
        {signedIn && (
          <Button component="a" href={`/units/${body.tag}/release`} variant="outlined">
            {say("openTheUnitItCameBack")}
          </Button>
        )}
      </Row>
      {body.disclosures.length > 0 && (
        <Part title={say("whatToKnowAboutIt")}>
          <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
            {body.disclosures.map((d, i) => (
              <li key={i}>{disclosureText(d)}</li>
            ))}
          </Box>
        </Part>
      )}
      <Box sx={{ columns: { md: 2 }, columnGap: 4, mt: 2 }}>
        {body.controls.map((c) => (
          <Control key={c.id} c={c} />
        ))}
      </Box>
      <FunctionsTested {...s} />
      <ProofBeside {...s} />
      <WorkAndParts {...s} />
      <SignaturePart {...s} />
    </Box>
  );
}

/** Whether it still stands, and whether it is what was signed. */
function Standing({ revokedAt, revokedWhy, supersededBy, signature, shop }: CertificateState) {
  return (
    <>
      {revokedAt && (
        <Notice severity="error" variant="filled" after={2}>
          {say("thisCertificateWasRevokedOn", { toISOString: day(revokedAt.toISOString(), shop) })}
          {revokedWhy.startsWith("The unit came back") && say("theUnitWentBackToThe")}
        </Notice>
      )}
      {supersededBy && (
        <Notice severity="warning" variant="filled" after={2}>
          {say("aLaterCertificateTookThePlace")}{" "}
          <a href={`/c/${supersededBy}`} style={{ color: "inherit" }}>
            {say("openTheLaterOne")}
          </a>
        </Notice>
      )}
      {signature.state !== "good" && signature.state !== "unsigned" && (
        <Notice severity="error" variant="filled" after={2}>
          {SIGNATURE_WORDS[signature.state]}.
        </Notice>
      )}
    </>
  );
}

/** What is limited, taken as the proof from elsewhere, or not tested. */
function Limits({ body, notTested }: CertificateState) {
  return (
    <>
      {body.limit && (
        <Notice severity="warning" after={2}>
          <b>{say("limitLimit", { limit: body.limit })}</b>{" "}
          {say("reasonLimitReason", { limitReason: body.limitReason })}
        </Notice>
      )}
      {body.proofTaken && (
        <Notice severity="warning" after={2}>
          {proofTakenText(body.proofTaken)}.
        </Notice>
      )}
      {notTested.length > 0 && (
        <Notice severity="warning" icon={<StateMark state="untested" />} after={2}>
          {say("notTestedNotTested", { notTested: notTested.join(", ") })}
        </Notice>
      )}
    </>
  );
}

function WorkAndParts({ body }: CertificateState) {
  return (
    <>
      {body.work.length > 0 && (
        <Part title={say("workDone")}>
          {body.work.map((m, i) => (
            <div key={i}>
              {m.what}
              {m.part && ` (${m.part})`}
            </div>
          ))}
        </Part>
      )}
      {body.parts.length > 0 && (
        <Part title={say("partsFitted")}>
          {body.parts.map((p, i) => (
            <div key={i}>{fittedText(p)}</div>
          ))}
        </Part>
      )}
      {body.care.length > 0 && (
        <Part title={say("soThatItLasts")}>
          {body.care.map((c) => (
            <div key={c}>{CARE_WORDS[c]}</div>
          ))}
        </Part>
      )}
    </>
  );
}

function FunctionsTested({ body, shop }: CertificateState) {
  return (
    body.functions.length > 0 && (
      <Part title={say("functions")}>
        <Box sx={{ columns: { xs: 1, sm: 2 } }}>
          {body.functions.map((f) => (
            <Box key={f.id} sx={{ breakInside: "avoid", py: 0.3 }}>
              <Row gap={1} oneLine at="center">
                <StateMark state={stateOfCheck(f.result)} size={16} /> {f.name}:{" "}
                <b>{CHECK_NAMES[f.result]}</b>
              </Row>
              {f.at && (
                <Box sx={{ fontSize: SIZE.fine, color: "text.secondary", pl: 2.8 }}>
                  {[f.measured, f.with, personName(f.by), dayAndTime(f.at, shop)].filter(Boolean).join(", ")}
                </Box>
              )}
            </Box>
          ))}
        </Box>
      </Part>
    )
  );
}

function ProofBeside({ body, shop }: CertificateState) {
  return (
    body.proof.length > 0 && (
      <Part title={say("proofBesideTheTest")}>
        {body.proof.map((p) => (
          <Box key={p.key} sx={{ py: 0.2 }}>
            {proofWords(p.key).ask}: <b>{PROOF_RESULT_WORDS[p.result]}</b>
            {p.value !== null && `, ${chargeText(p.value)}`}{" "}
            <Words component="span" size="small" quiet>
              {personName(p.by)}, {dayAndTime(p.at, shop)}
            </Words>
          </Box>
        ))}
      </Part>
    )
  );
}

function SignaturePart({ stateOf, signature, address }: CertificateState) {
  return (
    <Part title={say("signature")}>
      <Box sx={{ display: "flex", gap: 1, alignItems: "center", fontWeight: 700 }}>
        <StateMark state={stateOf()} />
        {SIGNATURE_WORDS[signature.state]}
      </Box>
      {signature.state !== "unsigned" && (
        <Typography sx={{ fontSize: SIZE.fine, color: "text.secondary", overflowWrap: "anywhere" }}>
          {say("digestSHA256Sha256KeyKid", { sha256: signature.sha256, kid: signature.kid })}
          {signature.state === "good" && signature.retired && say("noLongerUsedForNewOnes")}
          {say("toCheckItYourself")} <a href={`${address}/signed`}>{say("theSignedContent")}</a>{" "}
          {say("rFC7515Against")} <a href="/.well-known/jwks.json">{say("thePublicKeys")}</a> {say("rFC7517")}
        </Typography>
      )}
    </Part>
  );
}

function Head({ body, shop, handedOn }: { body: CertificateBody; shop: Settings; handedOn: string | null }) {
  const until = handedOn && body.warrantyDays > 0 ? daysLater(handedOn, body.warrantyDays) : null;
  const warrantyOf = () => {
    if (until) return say("warrantyUntilUntil", { until: day(until, shop) });
    if (body.warrantyUntil)
      return say("warrantyUntilWarrantyUntilOr", {
        warrantyUntil: day(body.warrantyUntil, shop),
        warrantyDays: body.warrantyDays || say("asMany"),
      });
    return say("noWarranty");
  };
  return (
    <Row gap={3} after={2} at="end">
      <Box sx={{ flex: "1 0 auto", maxWidth: "100%" }}>
        <Text component="h1" size="big" strong>
          {body.model}
        </Text>
        <Typography sx={{ fontWeight: 600 }}>
          {body.tag}
          {body.revision && `, ${body.revision}`}
        </Typography>
      </Box>
      <Box sx={{ flex: "1 1 320px", textAlign: { sm: "right" } }}>
        <Box
          sx={{
            fontSize: SIZE.big,
            fontWeight: 800,
            lineHeight: 1.1,
            display: "flex",
            gap: 1,
            alignItems: "center",
            justifyContent: { sm: "flex-end" },
          }}
        >
          <StateMark state={stateOfGrade(body.grade)} size={28} /> {GRADE_WORDS[body.grade]}
        </Box>
        {body.condition && (
          <Typography>
            {say("outside2")} <b>{CONDITION_WORDS[body.condition.grade]}</b>
            {body.condition.reasons.length > 0 && (
              <Words component="span" size="small" quiet>
                {" "}
                ({body.condition.reasons.map(conditionRule).join("; ")})
              </Words>
            )}
          </Typography>
        )}
        <Typography>{warrantyOf()}</Typography>
        {body.partWarrantyDays > 0 && (
          <Typography>{say("fittedPartsBody", { body: partCoverText(body) })}</Typography>
        )}
      </Box>
    </Row>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box component="section" aria-label={title} sx={{ mt: 3, breakInside: "avoid" }}>
      <Text component="h2" variant="h2" after={0.5}>
        {title}
      </Text>
      {children}
    </Box>
  );
}

function Control({ c }: { c: CertificateBody["controls"][number] }) {
  return (
    <Box sx={{ breakInside: "avoid", mb: 2, borderTop: 2, borderColor: "divider", pt: 0.7 }}>
      <Box sx={{ display: "flex", gap: 1, alignItems: "center", fontWeight: 700 }}>
        <StateMark state={stateOfGrade(c.grade)} /> <Box sx={{ textTransform: "capitalize" }}>{c.name}</Box>
        <Box sx={{ ml: "auto" }}>{GRADE_WORDS[c.grade]}</Box>
      </Box>
      {c.curve && <CurvePlot curve={c.curve} kind={c.id.startsWith("trigger") ? "trigger" : "stick"} />}
      {c.figures.map((f) => (
        <Box
          key={f.measure}
          sx={{
            display: "grid",
            gridTemplateColumns: "1.3fr 1fr",
            columnGap: 1,
            fontSize: SIZE.small,
            py: 0.2,
          }}
        >
          <Box>
            {measureName(f.measure)}{" "}
            <Words component="span" size="fine" quiet>
              {[f.limit, f.seen].filter(Boolean).join("; ")}
            </Words>
          </Box>
          <Box sx={{ textAlign: "right" }}>
            <b style={{ fontFamily: FIGURES }}>{f.value}</b>
            {f.before && f.before !== f.value && (
              <Words size="fine" quiet>
                {say("beforeBefore", { before: f.before })}
              </Words>
            )}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
