import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";

import type { Settings } from "@/contract/deeds";
import type { PaperView } from "@/features/papers/view";
import { paperName, paperNumber, sumText } from "@/features/papers/words/text";
import { say } from "@/features/papers/words/words";
import { day, money } from "@/text/format";
import { Figure, Table } from "@/ui/kit/Table";
import { Row } from "@/ui/kit/layout";

/** The shop's papers, newest first, and all of them as a file for whoever keeps its books. */
export function PaperBook({ papers, shop }: { papers: readonly PaperView[]; shop: Settings }) {
  return (
    <section aria-label={say("papers")}>
      <Row gap={2} oneLine at="center">
        <Typography component="h2" variant="h2">
          {say("papers")}
        </Typography>
        {papers.length > 0 && (
          <Button component="a" href="/api/papers" size="small">
            {say("booksAsCsv")}
          </Button>
        )}
      </Row>
      {papers.length === 0 ? (
        <Typography color="text.secondary">{say("nothingWritten")}</Typography>
      ) : (
        <Table
          label={say("papers")}
          heads={[say("paper"), say("written"), say("toOrFrom"), say("unit"), say("sum"), say("taxOwed")]}
        >
          {papers.map((p) => (
            <tr key={p.id}>
              <td>
                <a href={`/papers/${p.id}/pdf`} target="_blank" rel="noreferrer">
                  {paperName(p.kind, p.number)}
                </a>
                {p.correctedBy !== null && `, ${say("correctedBy", { number: paperNumber(p.correctedBy) })}`}
              </td>
              <td>{day(p.body.issuedOn, shop)}</td>
              <td>{p.body.other.name || say("nobodyNamed")}</td>
              <td>
                <Link href={`/units/${p.body.tag}/release`}>{p.body.tag}</Link>
              </td>
              <td>
                <Figure>{sumText(p.kind, p.body, shop)}</Figure>
              </td>
              <td>{p.kind === "bill" ? money(p.body.books.owedMinor, shop) : ""}</td>
            </tr>
          ))}
        </Table>
      )}
    </section>
  );
}
