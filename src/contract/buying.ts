import { idOf, z } from "@/core/base/schema";
import { SPREADS } from "@/core/decide/lot";
import { line, minor, text, version } from "./fields";
import { type Deeds, WORKERS } from "./roles";

/** What the deeds about listings and lots take. */

export const BUYING_DEEDS = {
  "lot.add": {
    roles: WORKERS,
    input: z.strictObject({
      code: line(20),
      seller: line(80),
      priceMinor: minor,
      carriageMinor: minor,
      unitsPromised: z.int().min(1).max(500).nullable().default(null),
    }),
  },
  "listing.keep": {
    roles: WORKERS,
    input: z.strictObject({
      profileKey: z.string().max(60),
      words: line(2000),
      seller: text(80),
      priceMinor: minor,
      carriageMinor: minor,
      status: z.enum(["watched", "bought", "passed"]),
    }),
  },
  "listing.settle": {
    roles: WORKERS,
    input: z.strictObject({
      listingId: idOf("listing"),
      version,
      status: z.enum(["watched", "bought", "passed"]),
    }),
  },
  /** what the carriage of the whole lot came to, when the bill is there: also after its units are sold */
  "lot.carriage": {
    roles: WORKERS,
    input: z.strictObject({ lotId: idOf("lot"), version, carriageMinor: minor }),
  },
  "lot.spread": {
    roles: WORKERS,
    input: z.strictObject({
      lotId: idOf("lot"),
      version,
      way: z.enum(SPREADS),
      /** by hand: the shares that are set; the rest is spread evenly over the others */
      hand: z.array(z.strictObject({ unitId: idOf("unit"), minor })).max(300),
    }),
  },
} as const satisfies Deeds;
