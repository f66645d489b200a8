import "server-only";

import { Page, Svg, Text, View } from "@react-pdf/renderer";

import type { CertificateBody, SignatureState } from "@/contract/certificate";
import type { Settings } from "@/contract/deeds";
import { daysLater } from "@/core/days/days";
import type { Sign } from "@/core/grade/sign";
import { CHECK_NAMES, TESTER_NAMES } from "@/features/case/words/text";
import {
  CARE_WORDS,
  chargeText,
  CONDITION_WORDS,
  conditionRule,
  disclosureText,
  fittedText,
  partCoverText,
  PROOF_RESULT_WORDS,
  proofTakenText,
  proofWords,
  SIGNATURE_WORDS,
} from "@/features/release/words/text";
import { day, dayAndTime, figuresAsIn } from "@/text/format";
import { GRADE_WORDS, measureName } from "@/text/measures";
import { personName } from "@/text/names";
import { say } from "@/words/print";
import { CurveOnPaper } from "./curve";
import { Code, paperOf, Section, styles, type } from "./paper";
import { SignOnPaper } from "./sign";

/** What of a certificate is not in its signed content, as it stands when the paper is made. */
export type PaperStanding = {
  revoked: boolean;
  superseded: boolean;
  signature: SignatureState;
  handedOn: string | null;
};
type Shown = { body: CertificateBody; shop: Settings; standing: PaperStanding };

const CODE_SIDE = 76;

const Item = ({ children }: { children: string }) => (
  <Text style={{ ...type(9), marginLeft: 12 }}>{children}</Text>
);
const Strong = ({ children, size = 11 }: { children: string; size?: number }) => (
  <Text style={[styles.bold, { ...type(size) }]}>{children}</Text>
);

function releasedText({ body, shop, standing }: Shown): string {
  const until =
    standing.handedOn && body.warrantyDays > 0
      ? daysLater(standing.handedOn, body.warrantyDays)
      : body.warrantyUntil;
  return say("releasedReleasedAtUntilPartWarrantyDays", {
    releasedAt: day(body.releasedAt, shop),
    until: until
      ? say("warrantyUntilUntilHandedOn", {
          until: day(until, shop),
          handedOn: standing.handedOn ? "" : say("orAsManyDaysFromThe"),
        })
      : say("noWarranty"),
    partWarrantyDays: body.partWarrantyDays ? say("fittedPartsBody", { body: partCoverText(body) }) : "",
    revision: body.revision ? ` ${body.revision}.` : "",
    seal: body.seal ? say("sealSeal", { seal: body.seal }) : "",
  });
}

const Head = ({ body, shop, standing }: Shown) => (
  <View style={{ paddingRight: CODE_SIDE + 24 }}>
    <Text style={styles.faint}>{`${body.shop.name}, ${body.shop.town}`}</Text>
    <Text style={[styles.bold, { ...type(22) }]}>{`${body.model}  ${body.tag}`}</Text>
    <View style={{ flexDirection: "row", alignItems: "center" }}>
      <SignOnPaper sign={body.grade} side={22} />
      <View style={{ flex: 1 }}>
        <Strong size={15}>
          {say("functionGradeCondition", {
            grade: GRADE_WORDS[body.grade],
            condition: body.condition
              ? say("outsideGrade", { grade: CONDITION_WORDS[body.condition.grade] })
              : "",
          })}
        </Strong>
      </View>
    </View>
    {(body.condition?.reasons ?? []).map((r) => (
      <Text key={r.rule} style={[styles.faint, { ...type(9) }]}>
        {conditionRule(r)}
      </Text>
    ))}
    <Text>{releasedText({ body, shop, standing })}</Text>
  </View>
);

const Standing = ({ body, shop, standing }: Shown) => (
  <View>
    {standing.revoked && <Strong size={13}>{say("thisCertificateHasBeenRevoked")}</Strong>}
    {standing.superseded && <Strong size={13}>{say("aLaterCertificateTookThePlace")}</Strong>}
    {standing.signature.state !== "good" && (
      <Strong>{`${SIGNATURE_WORDS[standing.signature.state]}.`}</Strong>
    )}
    {body.limit && (
      <Strong>
        {say("limitLimitReasonLimitReason", { limit: body.limit, limitReason: body.limitReason })}
      </Strong>
    )}
    {body.known && <Text>{body.known}</Text>}
    <Text style={[styles.faint, { ...type(9), marginTop: 6 }]}>
      {say("measuredByPersonOnAtSource", {
        person: personName(body.tester.person),
        at: dayAndTime(body.tester.at, shop),
        source: TESTER_NAMES[body.tester.source] ?? body.tester.source,
        tester: body.tester.label,
      })}
    </Text>
    {body.proofTaken && <Strong>{`${proofTakenText(body.proofTaken)}.`}</Strong>}
  </View>
);

/** Cells side by side at shares of the width, each broken into as many lines as its words need. */
const Row = ({
  cells,
  sign,
}: {
  cells: { text: string; width: number; bold?: boolean; faint?: boolean }[];
  sign?: Sign;
}) => (
  <View wrap={false} style={{ flexDirection: "row", marginLeft: sign ? 0 : 12, ...type(9) }}>
    {sign && <SignOnPaper sign={sign} side={9} />}
    {cells.map((c, i) => (
      <Text
        key={i}
        style={{ width: c.width, paddingRight: 6, ...(c.bold && styles.bold), ...(c.faint && styles.faint) }}
      >
        {c.text}
      </Text>
    ))}
  </View>
);

const Control = ({ control: c }: { control: CertificateBody["controls"][number] }) => (
  <View>
    <View wrap={false} minPresenceAhead={70} style={[styles.rule, styles.bold, { flexDirection: "row" }]}>
      <Text style={{ width: 150, paddingRight: 6 }}>{c.name}</Text>
      <SignOnPaper sign={c.grade} side={13} />
      <Text>{GRADE_WORDS[c.grade]}</Text>
    </View>
    {c.curve && <CurveOnPaper kind={c.id.startsWith("trigger") ? "trigger" : "stick"} curve={c.curve} />}
    {c.figures.map((f) => (
      <Row
        key={f.measure}
        cells={[
          { text: measureName(f.measure), width: 128 },
          { text: f.value, width: 70, bold: true },
          { text: f.limit, width: 84, faint: true },
          { text: f.seen ?? "", width: 120, faint: true },
          { text: f.before ? say("beforeValue", { before: f.before }) : "", width: 85, faint: true },
        ]}
      />
    ))}
  </View>
);

const Functions = ({ body, shop }: Shown) => (
  <Section title={say("functions")}>
    {body.functions.map((f) => (
      <Row
        key={f.id}
        sign={f.result === "not-tested" ? "untested" : f.result}
        cells={[
          { text: f.name, width: 138 },
          { text: CHECK_NAMES[f.result], width: 80, bold: true },
          {
            text: [f.with, personName(f.by), f.at ? day(f.at, shop) : ""].filter(Boolean).join(", "),
            width: 269,
            faint: true,
          },
        ]}
      />
    ))}
  </Section>
);

const proofText = (p: CertificateBody["proof"][number], shop: Settings) =>
  `${proofWords(p.key).ask}: ${PROOF_RESULT_WORDS[p.result]}${p.value === null ? "" : `, ${chargeText(p.value)}`} (${personName(p.by)}, ${day(p.at, shop)})`;

/** One section of single lines, or nothing where there are none. */
const Listed = ({ title, lines }: { title: string; lines: string[] }) =>
  lines.length > 0 && (
    <Section title={title}>
      {lines.map((line, i) => (
        <Item key={i}>{line}</Item>
      ))}
    </Section>
  );

const Foot = ({ standing, address }: Shown & { address: string }) => (
  <View wrap={false} style={styles.rule}>
    <Text style={[styles.faint, { ...type(8) }]}>{say("thisPaperRepeatsAddressWhich", { address })}</Text>
    {standing.signature.state !== "unsigned" && (
      <Text style={[styles.faint, { ...type(7) }]}>
        {say("digestSHA256Sha256KeyKid", { sha256: standing.signature.sha256, kid: standing.signature.kid })}
      </Text>
    )}
  </View>
);

/** The certificate on paper, with a code that leads to its page. */
export function certificatePdf(
  body: CertificateBody,
  address: string,
  shop: Settings,
  standing: PaperStanding,
): Promise<Uint8Array> {
  figuresAsIn(shop.locale, shop.currency); // a thread of the pool has heard of no shop
  const shown = { body, shop, standing };
  return paperOf(
    say("certificateTag", { tag: body.tag }),
    <Page size="A4" style={styles.page}>
      <Svg width={CODE_SIDE} height={CODE_SIDE} style={{ position: "absolute", top: 48, right: 48 }}>
        <Code text={address} x={0} y={0} side={CODE_SIDE} />
      </Svg>
      <Head {...shown} />
      <Standing {...shown} />
      <Listed title={say("whatToKnowAboutIt")} lines={body.disclosures.map(disclosureText)} />
      {body.controls.map((c) => (
        <Control key={c.id} control={c} />
      ))}
      {body.functions.length > 0 && <Functions {...shown} />}
      <Listed title={say("proofBesideTheTest")} lines={body.proof.map((p) => proofText(p, shop))} />
      <Listed
        title={say("workDone")}
        lines={body.work.map((m) => `${m.what}${m.part ? ` (${m.part})` : ""}`)}
      />
      <Listed title={say("partsFitted")} lines={body.parts.map(fittedText)} />
      <Listed title={say("soThatItLasts")} lines={body.care.map((c) => CARE_WORDS[c])} />
      <Foot {...shown} address={address} />
    </Page>,
  );
}
