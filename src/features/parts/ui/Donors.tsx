"use client";

import Typography from "@mui/material/Typography";
import Link from "next/link";

import type { PartState } from "@/contract/parts";
import { money } from "@/text/format";
import { STATE_WORDS } from "@/features/parts/words/text";
import type { PartsProps } from "./props";
import { Figure, Table } from "@/ui/kit/Table";
import { say } from "@/features/parts/words/words";
import { Words } from "@/ui/kit/layout";

/** Donors, each with what can still be had from it. */
export function Donors({ view, shop }: PartsProps) {
  if (view.donors.length === 0)
    return <Typography color="text.secondary">{say("noDonorYetAUnitBecomes")}</Typography>;
  return (
    <Table
      label={say("donors")}
      heads={[
        say("donor"),
        say("model"),
        say("testedGood2"),
        say("notTested2"),
        say("worn2"),
        say("bad2"),
        say("gone2"),
        say("whatItCost"),
      ]}
    >
      {view.donors.map((d) => {
        const n = (state: PartState) => d.parts.filter((p) => p.state === state).length;
        return (
          <tr key={d.unit.id}>
            <td>
              <Link href={`/parts/donors/${d.unit.tag}`}>{d.unit.tag}</Link>
            </td>
            <td>
              {d.unit.model}
              <Words size="small" quiet>
                {d.unit.claim}
              </Words>
            </td>
            {(["good", "unknown", "worn", "bad", "gone"] as const).map((s) => (
              <td key={s} aria-label={`${STATE_WORDS[s]}: ${n(s)}`}>
                <Figure>{n(s)}</Figure>
              </td>
            ))}
            <td>{money(d.costMinor, shop)}</td>
          </tr>
        );
      })}
    </Table>
  );
}
