import { modelOf } from "../../../test/ui/models";
import { HOUSE_RATES } from "../money/rates";
import { refreshBeside } from "./refresh";
import { HOUSE_ROUTES } from "./routes";

const input = (faults: string[], lacking: string[] = []) => ({
  profile: modelOf("dunlin"),
  routes: HOUSE_ROUTES,
  rates: HOUSE_RATES,
  faults: faults.map((place, i) => ({ id: String(i), number: i, place, measure: null })),
  lacking,
});

test("a new stick opens everything that wears: the other stick, the domes, the cell and the caps", () => {
  const parts = refreshBeside(input(["stick.left"]), "stick.left", "dear-copy");
  const kinds = parts.map((p) => p.slot.kind);
  for (const p of parts) {
    expect(p.route.part).toMatchObject({ kind: p.slot.kind });
    const offer = p.slot.offers.find((o) => o.make === p.route.part!.make)!;
    // part, and hands at the shop's rate; never the strip-down, which is paid
    expect(p.costMinor).toBe(
      offer.priceMinor + Math.round((p.route.minutes * HOUSE_RATES.labourPerHour) / 60),
    );
    expect(p.savesMinor).toBe(Math.round((p.slot.stripMinutes * HOUSE_RATES.labourPerHour) / 60));
  }
  expect(kinds).toContain("stick-module");
  expect(new Set(parts.map((p) => p.slot.id)).size).toBe(parts.length);
  expect(parts.length).toBeGreaterThanOrEqual(2);
  // the mended stick's own parts are the mend's matter
  expect(parts.flatMap((p) => p.slot.serves)).not.toContain("stick.left");
});

test("a mend that lies less deep lays not everything open, and offers no refresh", () => {
  expect(refreshBeside(input(["bumper.left"]), "bumper.left", null)).toEqual([]);
  expect(refreshBeside(input(["radio"]), "radio", null)).toEqual([]);
});

test("where one part cannot be had or fitted here there is no full refresh", () => {
  const all = input(["stick.left"]);
  const { slots } = all.profile;
  const profile = {
    ...all.profile,
    slots: slots!.map((s) => (s.kind === "cell" ? { ...s, offers: [] } : s)),
  };
  expect(refreshBeside({ ...all, profile }, "stick.left", "dear-copy")).toEqual([]);
  const irons = HOUSE_ROUTES.filter((r) => r.part?.kind === "stick-module").flatMap((r) => r.tools);
  expect(refreshBeside(input(["stick.left"], irons), "stick.left", null)).toEqual([]);
});
