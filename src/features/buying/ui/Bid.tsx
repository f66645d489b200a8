import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";

import { bidCurve } from "@/core/decide/buying";
import { say } from "@/features/buying/words/words";
import { money } from "@/text/format";
import { BidPlot } from "@/ui/charts/money";
import { Problem } from "@/ui/deed/Problem";
import { BoundField } from "@/ui/form/BoundField";
import { Amount } from "./Amount";
import { BeforeItLands, BidFigures, WhyThisBid } from "./BidResult";
import { type BidState, type Props, useBid } from "./useBid";
import { Column, Row } from "@/ui/kit/layout";

/** A listing's words become symptoms, a risk, and the highest bid. */
export function Bid(props: Props) {
  const s = useBid(props);
  const { base, shop, value, fresh, prospect, carriageMinor, ready, best } = s;

  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(300px, 1fr) minmax(0, 1.7fr)" },
        gap: 3,
      }}
    >
      <ListingFields {...s} />
      <Box
        component="section"
        aria-label={say("whatToBid")}
        sx={{ minWidth: 0 }}
        aria-live="polite"
        aria-busy={!fresh}
      >
        {!ready || !value || !best || !prospect || carriageMinor === null ? (
          <Typography color="text.secondary">
            {base ? say("workingItOut") : say("thisModelIsNotKnownChoose")}
          </Typography>
        ) : (
          <Box sx={{ opacity: fresh ? 1 : 0.5 }}>
            <BidFigures {...s} carriageMinor={carriageMinor} prospect={prospect} best={best} />
            <WhyThisBid {...s} value={value} />
            <BidPlot
              points={bidCurve(prospect, carriageMinor, Math.max(500, Math.round(prospect.worth * 1.3)))}
              bid={best.bid}
              format={(x) => money(Math.round(x), shop)}
            />
            <BeforeItLands {...s} prospect={prospect} />
          </Box>
        )}
      </Box>
    </Box>
  );
}

function ListingFields(s: BidState) {
  const { modelKey, router, view, words, setWords, seller, setSeller, keep } = s;
  return (
    <Column gap={1.5}>
      <TextField
        select
        label={say("model")}
        value={modelKey}
        onChange={(e) => router.push(`/buying?model=${e.target.value}`)}
      >
        {view.models.map((m) => (
          <MenuItem key={m.key} value={m.key}>
            {m.name}
          </MenuItem>
        ))}
      </TextField>
      <BoundField
        deed="listing.keep"
        name="words"
        label={say("theListingsWords")}
        multiline
        minRows={3}
        maxRows={8}
        value={words}
        onChange={setWords}
        helperText={say("pasteThemAsTheyAreEmpty")}
      />
      <BoundField
        deed="listing.keep"
        name="seller"
        label={say("seller")}
        value={seller}
        onChange={setSeller}
      />
      <Wishes {...s} />
      <KeepListing {...s} />
      <Problem problem={keep.problem} />
    </Column>
  );
}

const Wishes = ({ shop, price, setPrice, carriage, setCarriage, margin, setMargin, ...s }: BidState) => (
  <Box
    sx={{
      display: "grid",
      gridTemplateColumns: "repeat(auto-fill, minmax(min(100%, 230px), 1fr))",
      gap: 1.5,
    }}
  >
    <Amount
      label={say("priceAskedCurrency", { currency: shop.currency })}
      value={price}
      onChange={setPrice}
      optional
    />
    <Amount label={say("carriage")} value={carriage} onChange={setCarriage} optional />
    <Amount label={say("wishedMargin")} value={margin} onChange={setMargin} />
    <TextField
      label={say("acceptedChanceOfLoss")}
      value={s.loss}
      error={s.lossShare === null}
      onChange={(e) => s.setLoss(e.target.value)}
      slotProps={{ htmlInput: { inputMode: "decimal" } }}
    />
  </Box>
);

function KeepListing({ canWork, words, keep, save }: BidState) {
  const barred = !words.trim() || keep.running;
  return (
    canWork && (
      <Row gap={1}>
        <Button variant="contained" disabled={barred} onClick={() => save("bought")}>
          {say("bought")}
        </Button>
        <Button variant="outlined" disabled={barred} onClick={() => save("watched")}>
          {say("watchIt")}
        </Button>
        <Button disabled={barred} onClick={() => save("passed")}>
          {say("letItPass")}
        </Button>
      </Row>
    )
  );
}
