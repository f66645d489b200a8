"use client";

import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import Link from "next/link";

import { count } from "@/text/format";
import { say } from "@/words/kit";
import { Row } from "@/ui/kit/layout";

/**
 * The pages of a list that the server cuts, as addresses: they answer before the page's script listens,
 * can be kept, and open beside this one.
 */
export function UnitPager({
  page,
  size,
  sizes,
  total,
  addressOf,
  onSize,
}: {
  /** from 0 */
  page: number;
  size: number;
  sizes: readonly number[];
  total: number;
  addressOf: (page: number) => string;
  onSize: (size: number) => void;
}) {
  const last = Math.max(0, Math.ceil(total / size) - 1);
  const from = total === 0 ? 0 : page * size + 1;
  return (
    <Row gap={1.5} at="center" before={1}>
      <TextField
        select
        label={say("rowsPerPage")}
        value={size}
        onChange={(e) => onSize(Number(e.target.value))}
        sx={{ width: 220 }}
      >
        {sizes.map((n) => (
          <MenuItem key={n} value={n}>
            {n}
          </MenuItem>
        ))}
      </TextField>
      <Typography>
        {say("fromToOfCount", {
          from: count(from),
          to: count(Math.min(total, (page + 1) * size)),
          count: count(total),
        })}
      </Typography>
      <Step to={page - 1} last={last} addressOf={addressOf} words={say("pageBefore")} />
      <Step to={page + 1} last={last} addressOf={addressOf} words={say("nextPage")} />
    </Row>
  );
}

function Step({
  to,
  last,
  addressOf,
  words,
}: {
  to: number;
  last: number;
  addressOf: (page: number) => string;
  words: string;
}) {
  if (to < 0 || to > last)
    return (
      <Button variant="outlined" disabled>
        {words}
      </Button>
    );
  return (
    <Button component={Link} href={addressOf(to)} variant="outlined">
      {words}
    </Button>
  );
}
