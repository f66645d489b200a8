"use client";

import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";

import type { Settings } from "@/contract/deeds";
import { leftTheHouse } from "@/core/parts/recall";
import { say } from "@/features/parts/words/words";
import type { BatchView } from "@/features/stock/batch-view";
import { day, dayAndTime } from "@/text/format";
import { Table } from "@/ui/kit/Table";
import { codeWords } from "@/words/codes";
import type { Props } from "./useBatch";
import { Block, Text } from "@/ui/kit/layout";

/**
 * Of a locked batch: what is in house and must be changed, what is gone, and letters to those who have it.
 */
export function Recall({ view, shop }: Props) {
  const inHouse = view.holders.filter((h) => h.ending === null);
  const gone = view.holders.filter(leftTheHouse);
  return (
    <Block component="section" aria-label={say("recall")} after={2}>
      <Typography component="h2" variant="h2">
        {view.holders.length === 0
          ? say("noUnitHoldsAPieceOf")
          : say("holdersPlaceHoldsAPieceOf", { holders: view.holders.length })}
      </Typography>
      {view.holders.length > 0 && (
        <>
          <Text after={1}>
            {say("inHouseInHouseGoneGone", { inHouse: inHouse.length, gone: gone.length })}
          </Text>
          <Holders view={view} shop={shop} />
        </>
      )}
      {gone.length > 0 && (
        <Button
          component="a"
          href={`/parts/${view.batch.code}/letters`}
          target="_blank"
          variant="contained"
          sx={{ mt: 1 }}
        >
          {gone.length === 1 ? say("letterToPrint") : say("goneLettersToPrint", { gone: gone.length })}
        </Button>
      )}
    </Block>
  );
}

export function Holders({ view, shop }: { view: BatchView; shop?: Settings }) {
  return (
    <Table
      label={say("unitsThatHoldAPiece")}
      heads={[say("unit"), say("model"), say("where"), say("itIs"), say("whomToTell")]}
    >
      {view.holders.map((h) => {
        const ownerOf = () => {
          if (h.owner) return `${h.owner}, ${h.contact}`;
          if (h.ending === null) return say("nobodyYet");
          return say("theBuyer");
        };
        return (
          <tr key={`${h.unitId} ${h.slot}`}>
            <td>
              <Link href={`/units/${h.tag}`}>{h.tag}</Link>
            </td>
            <td>{h.model}</td>
            <td>
              {h.slot}
              {shop && say("sinceFittedAt", { fittedAt: dayAndTime(h.fittedAt, shop) })}
            </td>
            <td>
              {h.ending === null
                ? say("inHouseChangeItBeforeIt")
                : `${codeWords(h.ending)}${h.soldOn && shop ? say("handedOverSoldOn", { soldOn: day(h.soldOn, shop) }) : ""}`}
            </td>
            <td>
              {ownerOf()}
              {h.certificate && (
                <>
                  {" "}
                  (<Link href={`/c/${h.certificate}`}>{say("certificate")}</Link>)
                </>
              )}
            </td>
          </tr>
        );
      })}
    </Table>
  );
}
