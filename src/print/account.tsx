import "server-only";

import { Page, Svg, Text, View } from "@react-pdf/renderer";

import type { Settings } from "@/contract/deeds";
import type { PaperBody, PaperKind } from "@/contract/papers";
import { paperName, paperNumber } from "@/features/papers/words/text";
import { day, figuresAsIn, mark, money } from "@/text/format";
import { say } from "@/words/print";
import { Code, paperOf, Section, styles, type } from "./paper";

/** Offer, bill and receipt of purchase, as they were written down. */

export type Account = {
  kind: PaperKind;
  number: number;
  body: PaperBody;
  /** where an offer can be answered; null where it can no more, or is none */
  address: string | null;
  correctedBy: number | null;
};
type Shown = { account: Account; shop: Settings };

const CODE_SIDE = 76;
const Plain = ({ children }: { children: string }) => (
  <Text style={{ ...type(10), marginBottom: 3 }}>{children}</Text>
);

/** What a paper says of tax, by its kind and the shop's own setting on that day. */
export function taxWords(kind: PaperKind, { tax }: PaperBody, amount: (minor: number) => string): string {
  if (kind === "offer") return "";
  if (kind === "receipt") return say("boughtFromAPrivatePerson");
  if (tax.scheme === "full")
    return say("taxWithin", {
      rate: `${mark(Math.round(tax.rate * 1000) / 10)} %`,
      tax: amount(tax.taxMinor),
      net: amount(tax.netMinor),
    });
  return tax.scheme === "margin" ? say("secondHandOnTheMargin") : say("noTaxNotRegistered");
}

const Line = ({ line, box, amount }: { line: PaperBody["lines"][number]; box: boolean; amount: string }) => (
  <View wrap={false} style={{ flexDirection: "row", marginTop: line.amountMinor === null ? 8 : 3 }}>
    {box && <View style={{ width: 11, height: 11, borderWidth: 0.8, marginRight: 8, marginTop: 1 }} />}
    <View style={{ flex: 1, paddingRight: 8 }}>
      <Text style={line.amountMinor === null ? styles.bold : {}}>{line.words}</Text>
      {line.detail !== "" && <Text style={[styles.faint, { ...type(9) }]}>{line.detail}</Text>}
    </View>
    <Text style={{ width: 90, textAlign: "right" }}>{amount}</Text>
  </View>
);

const Head = ({ account: { kind, number, body, correctedBy }, shop }: Shown) => (
  <View style={{ paddingRight: CODE_SIDE + 24 }}>
    <Text style={styles.faint}>{`${body.shop.name}, ${body.shop.town}`}</Text>
    <Text style={[styles.bold, { ...type(22) }]}>{paperName(kind, number)}</Text>
    <Text style={{ marginBottom: 10 }}>{day(body.issuedOn, shop)}</Text>
    {correctedBy !== null && (
      <Text style={[styles.bold, { ...type(12) }]}>
        {say("aLaterPaperTookItsPlace", { name: paperName(kind, correctedBy) })}
      </Text>
    )}
    <Text style={styles.faint}>{kind === "receipt" ? say("boughtFrom") : say("for")}</Text>
    <Text style={[styles.bold, { ...type(12) }]}>{body.other.name || say("nameOnALine")}</Text>
    {body.other.contact !== "" && <Text>{body.other.contact}</Text>}
    <Text style={{ marginTop: 8 }}>{`${body.model}, ${body.tag}`}</Text>
    {body.claim !== "" && (
      <Text style={styles.faint}>
        {kind === "receipt"
          ? say("soldAs", { claim: body.claim })
          : say("inYourWords", { claim: body.claim })}
      </Text>
    )}
  </View>
);

const Lines = ({ account: { kind, body }, shop }: Shown) => {
  const amount = (minor: number) => money(minor, { ...shop, currency: body.currency });
  return (
    <View style={{ marginTop: 10 }}>
      {body.lines.map((l, i) => (
        <Line
          key={i}
          line={l}
          box={kind === "offer" && l.amountMinor !== null}
          amount={l.amountMinor === null ? "" : amount(l.amountMinor)}
        />
      ))}
      {kind === "offer" ? (
        <Plain>{say("orNothingIsDone")}</Plain>
      ) : (
        <View style={[styles.rule, { flexDirection: "row" }]} wrap={false}>
          <Text style={[styles.bold, { flex: 1, ...type(13) }]}>
            {kind === "receipt" ? say("paid") : say("total")}
          </Text>
          <Text style={[styles.bold, { ...type(13) }]}>{amount(body.sumMinor)}</Text>
        </View>
      )}
      {body.corrects && (
        <Plain>
          {say("correctsAndDiffers", {
            number: paperNumber(body.corrects.number),
            why: body.corrects.why,
            difference: amount(body.sumMinor - body.corrects.sumMinor),
          })}
        </Plain>
      )}
      {taxWords(kind, body, amount) !== "" && <Plain>{taxWords(kind, body, amount)}</Plain>}
    </View>
  );
};

const Below = ({ account: { kind, body, address }, shop }: Shown) => (
  <View>
    {body.refused.length > 0 && (
      <Section title={say("notWanted")}>
        {body.refused.map((r, i) => (
          <Plain key={i}>{r}</Plain>
        ))}
      </Section>
    )}
    {body.done.length > 0 && (
      <Section title={say("workDone")}>
        {body.done.map((d, i) => (
          <Plain key={i}>{[d.what, d.part].filter(Boolean).join(", ")}</Plain>
        ))}
      </Section>
    )}
    {body.covers.length > 0 && (
      <Section title={say("whatWeStandBehind")}>
        {body.covers.map((c, i) => (
          <Plain key={i}>
            {c.until === null
              ? say("daysFromHandover", { name: c.name, days: c.days })
              : say("coveredUntil", { name: c.name, until: day(c.until, shop) })}
          </Plain>
        ))}
      </Section>
    )}
    {kind === "offer" && (
      <Section title={say("yourAnswer")}>
        <Plain>{body.until === null ? "" : say("tickAndSignUntil", { until: day(body.until, shop) })}</Plain>
        {address !== null && <Plain>{say("orAnswerAt", { address })}</Plain>}
        <Signature words={say("nameDateSignature")} />
      </Section>
    )}
    {kind === "receipt" && body.lines.length > 0 && <Signature words={say("sellersSignature")} />}
  </View>
);

const Signature = ({ words }: { words: string }) => (
  <View style={{ marginTop: 40, borderTopWidth: 0.7, width: 320, paddingTop: 3 }} wrap={false}>
    <Text style={[styles.faint, { ...type(9) }]}>{words}</Text>
  </View>
);

/** A paper as a PDF, one page or as many as its lines need. */
export function accountPdf(account: Account, shop: Settings): Promise<Uint8Array> {
  figuresAsIn(shop.locale, account.body.currency);
  return paperOf(
    paperName(account.kind, account.number),
    <Page size="A4" style={styles.page}>
      {account.address !== null && (
        <Svg style={{ position: "absolute", top: 48, right: 48, width: CODE_SIDE, height: CODE_SIDE }}>
          <Code text={account.address} x={0} y={0} side={CODE_SIDE} />
        </Svg>
      )}
      <Head account={account} shop={shop} />
      {account.body.findings !== "" && (
        <Section title={say("whatWeFound")}>
          <Plain>{account.body.findings}</Plain>
        </Section>
      )}
      <Lines account={account} shop={shop} />
      <Below account={account} shop={shop} />
    </Page>,
  );
}
