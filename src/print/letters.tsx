import "server-only";

import { Page, Text } from "@react-pdf/renderer";

import type { Settings } from "@/contract/deeds";
import { day } from "@/text/format";
import { say } from "@/words/print";
import { paperOf, styles, type } from "./paper";

export type Letter = {
  to: string;
  contact: string;
  tag: string;
  model: string;
  soldOn: string | null;
  place: string;
  address: string | null;
};
type Batch = { code: string; part: string; why: string };

const Paragraph = ({ children }: { children: string }) => (
  <Text style={{ ...type(11, 1.5), marginBottom: 8 }}>{children}</Text>
);

const whatHappened = (l: Letter, batch: Batch, shop: Settings) =>
  say("soldOnThisControllerFromUsWe", {
    soldOn: l.soldOn ? say("onSoldOnYouHad", { soldOn: day(l.soldOn, shop) }) : say("youHad"),
    place: l.place,
    part: batch.part,
    why: batch.why,
  });

/** Letters to those who hold a piece of a bad batch, each on a page of its own. */
export const recallLetters = (
  letters: readonly Letter[],
  batch: Batch,
  shop: Settings,
  today: string,
): Promise<Uint8Array> =>
  paperOf(
    say("lettersBatchBatch", { batch: batch.code }),
    letters.map((l, i) => (
      <Page key={i} size="A4" style={styles.page}>
        <Text style={[styles.faint, { marginBottom: 30 }]}>{`${shop.shopName}, ${shop.town}`}</Text>
        <Text style={[styles.bold, { ...type(12) }]}>{l.to}</Text>
        {l.contact && <Text style={{ ...type(11) }}>{l.contact}</Text>}
        <Text style={{ marginTop: 30, marginBottom: 10 }}>{day(today, shop)}</Text>
        <Text style={[styles.bold, { ...type(14), marginBottom: 8 }]}>
          {say("aboutYourModelTag", { model: l.model, tag: l.tag })}
        </Text>
        <Paragraph>{whatHappened(l, batch, shop)}</Paragraph>
        <Paragraph>{say("pleaseBringOrSendTheController")}</Paragraph>
        {l.address && <Paragraph>{say("whatWeMeasuredWhenItLeft", { address: l.address })}</Paragraph>}
        <Paragraph>{say("withOurApologies")}</Paragraph>
        <Text style={[styles.bold, { ...type(11), marginBottom: 20 }]}>{shop.shopName}</Text>
        <Text style={[styles.faint, { ...type(8) }]}>{say("batchBatch", { batch: batch.code })}</Text>
      </Page>
    )),
  );
