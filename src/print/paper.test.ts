import { spawnSync } from "node:child_process";
import { join } from "node:path";

import type { CertificateBody } from "@/contract/certificate";
import { guideOf } from "@/core/profile/guide";
import { modelOf, SHOP as shop } from "../../test/ui/models";

/** Papers as their reader sees them: every word whole, within the sheet, none over another. */

const ROOT = join(__dirname, "../..");
/** A text as it stands on a page: points from the left and from the top, to its baseline. */
type Standing = { text: string; x: number; y: number; width: number; size: number };
type Sheet = { width: number; height: number; texts: Standing[] };

function printed(asked: { task: string; input: unknown }[]): Sheet[][] {
  const done = spawnSync(
    process.execPath,
    ["--import", "tsx", "--import", "./server/plain-react.mjs", "test/paper/printed.ts"],
    { cwd: ROOT, input: JSON.stringify(asked), encoding: "utf8", maxBuffer: 64e6 },
  );
  if (done.status !== 0) throw new Error(done.stderr);
  return JSON.parse(done.stdout) as Sheet[][];
}

const LONG = "Left stick module with a new wiper, a new cap and the carbon tracks cleaned by hand twice over";
const control = (i: number, curve: boolean): CertificateBody["controls"][number] => ({
  id: `stick-${i}`,
  name: i === 1 ? LONG : `Stick ${i}`,
  grade: "A",
  figures: ["restOffset", "smallestReach", "noise"].map((measure) => ({
    measure,
    value: "1.2 %",
    limit: i === 2 ? "grade A up to 4.0 %, as this shop has set it for old sticks" : "up to 4.0 %",
    before: "14.8 %",
  })),
  curve: curve
    ? {
        now: Array.from({ length: 72 }, (_, k) => [k * 5, 1] as [number, number]),
        before: Array.from({ length: 72 }, (_, k) => [k * 5, 0.9] as [number, number]),
        limit: 0.95,
      }
    : null,
});
const certificate: CertificateBody = {
  v: 2,
  nonce: "n",
  shop: { name: shop.shopName, town: shop.town },
  tag: "B-0147",
  model: "Dunlin",
  revision: "second board",
  grade: "B",
  condition: { grade: "light", reasons: [] },
  releasedAt: "2026-03-02T10:00:00Z",
  warrantyUntil: null,
  warrantyDays: 90,
  partWarrantyDays: 0,
  seal: "4711",
  limit: "",
  limitReason: "",
  proofTaken: null,
  tester: {
    person: "Oona",
    label: "Birdcage 1",
    host: "bench",
    source: "simulated",
    at: "2026-03-02T09:00:00Z",
  },
  controls: Array.from({ length: 14 }, (_, i) => control(i, i % 2 === 0)),
  functions: [
    { id: "motor", name: "Left motor", result: "pass", measured: "", with: LONG, by: "Oona", at: null },
  ],
  proof: [],
  work: [{ what: LONG, part: "wiper" }],
  parts: [],
  disclosures: [],
  care: ["plug-straight"],
  known: "",
};
const ADDRESS = `https://repairs.example/c/${"k7Qw".repeat(11)}`;
const standing = {
  revoked: false,
  superseded: true,
  signature: { state: "unsigned" },
  handedOn: "2026-03-04",
};
const letter = (n: number) => ({
  to: `Customer ${n}`,
  contact: "harbour road 4",
  tag: `B-010${n}`,
  model: "Dunlin",
  soldOn: n === 1 ? "2026-01-09" : null,
  place: "left stick",
  address: n === 1 ? ADDRESS : null,
});
/** A bill with more lines than a page holds, in a shop under the margin whose work bears the whole tax. */
const account = {
  kind: "bill",
  number: 41,
  address: null,
  correctedBy: 42,
  body: {
    v: 1,
    issuedOn: "2026-03-02",
    shop: { name: shop.shopName, town: shop.town },
    other: { name: "Wren Alder", contact: "Mill Lane 3, Oxmere" },
    tag: "B-0147",
    model: "Dunlin",
    claim: "the left one walks off on its own and I cannot aim any more",
    findings: "",
    until: null,
    lines: Array.from({ length: 40 }, (_, i) => ({ words: LONG, detail: `cured ${i}`, amountMinor: 100 })),
    refused: ["right trigger: short"],
    done: [{ what: LONG, part: "wiper" }],
    covers: [
      { name: "the unit", days: 90, until: "2026-05-31" },
      { name: "wiper, left stick", days: 180, until: null },
    ],
    sumMinor: 4000,
    currency: shop.currency,
    tax: { scheme: "full", rate: 0.25, netMinor: 3200, taxMinor: 800 },
    books: { purchaseMinor: 1234, owedMinor: 800 },
    corrects: { number: 40, sumMinor: 4500, owedMinor: 900, why: "One part was never fitted." },
  },
};
const receipt = {
  ...account,
  kind: "receipt",
  correctedBy: null,
  body: {
    ...account.body,
    lines: account.body.lines.slice(0, 1),
    sumMinor: 100,
    corrects: null,
    refused: [],
    done: [],
    covers: [],
  },
};
const offer = {
  ...receipt,
  kind: "offer",
  address: "https://repairs.example/q/abcdef",
  body: {
    ...receipt.body,
    until: "2026-03-20",
    findings: LONG,
    lines: [{ words: "Fault 1: left stick drifts", detail: "", amountMinor: null }, ...receipt.body.lines],
  },
};
const dunlin = modelOf("dunlin");
const guide = guideOf(dunlin.guide!, dunlin.revisions[0]!.id);
const SIZE = { widthMm: 40, heightMm: 20 };
const label = (n: number) => ({ code: `UNIT-${n}`, title: `B-${1000 + n}`, line: LONG });

const [certified, letters, one, sheets, mat, bill, bought, offered] = printed([
  { task: "printCertificate", input: [certificate, ADDRESS, shop, standing] },
  {
    task: "printLetters",
    input: [[letter(1), letter(2)], { code: "W-7", part: "wiper", why: "too soft" }, shop, "2026-05-01"],
  },
  { task: "printLabels", input: [[label(1)], SIZE, false] },
  { task: "printLabels", input: [Array.from({ length: 70 }, (_, i) => label(i)), SIZE, true] },
  { task: "printMat", input: ["B-0147", dunlin, guide] },
  ...[account, receipt, offer].map((a) => ({ task: "printAccount", input: [a, shop] })),
]) as [Sheet[], Sheet[], Sheet[], Sheet[], Sheet[], Sheet[], Sheet[], Sheet[]];

const words = (sheets: Sheet[]) =>
  sheets
    .flatMap((s) => s.texts.map((t) => t.text))
    .join(" ")
    .replace(/\s+/g, " ");
const mm = (points: number) => Math.round((points * 25.4) / 72);
/** Two texts that share paper: their boxes from baseline to the height of a capital. */
const over = (a: Standing, b: Standing) =>
  a.x < b.x + b.width - 0.5 &&
  b.x < a.x + a.width - 0.5 &&
  a.y - a.size * 0.6 < b.y - 0.5 &&
  b.y - b.size * 0.6 < a.y - 0.5;
const clashes = (sheet: Sheet) =>
  sheet.texts.flatMap((a, i) =>
    sheet.texts.slice(i + 1).flatMap((b) => (over(a, b) ? [[a.text, b.text]] : [])),
  );
const outside = (sheet: Sheet, margin: number) =>
  sheet.texts.filter(
    (t) =>
      t.x < margin - 0.5 ||
      t.x + t.width > sheet.width - margin + 0.5 ||
      t.y - t.size * 0.7 < margin - 6 ||
      t.y > sheet.height - margin + 0.5,
  );

test.each([
  ["certificate", certified, 47],
  ["letters", letters, 47],
  ["one label", one, 2],
  ["sheets of labels", sheets, 20],
  ["tray mat", mat, 14],
  ["bill", bill, 47],
  ["receipt", bought, 47],
  ["offer", offered, 47],
])("nothing on the %s is over another or off the sheet", (_, paper, margin) => {
  for (const sheet of paper) expect([clashes(sheet), outside(sheet, margin)]).toEqual([[], []]);
});

test("a certificate says every figure, long ones whole, and goes on overleaf", () => {
  expect(certified.length).toBeGreaterThan(1);
  const all = words(certified);
  expect(all.split("14.8 %")).toHaveLength(14 * 3 + 1);
  expect(all).toContain("Warranty until 2 Jun 2026"); // 90 days from the day it was handed over
  expect(all).toContain("A later certificate took the place of this one.");
  expect(all).not.toContain("This certificate has been revoked.");
  for (const word of LONG.split(" ")) expect(all).toContain(word);
  expect(all.replace(/ /g, "")).toContain(ADDRESS);
});

test("a bill says all of its lines, the tax in it, what was not wanted and what is covered, and never the purchase", () => {
  expect(bill.length).toBeGreaterThan(1);
  const all = words(bill);
  for (let i = 0; i < 40; i++) expect(all).toContain(`cured ${i} `);
  expect(all).toContain("Bill 0041");
  expect(all).toContain("Bill 0042 stands in the place of this one.");
  expect(all).toMatch(/Of this, tax at 25 %: .*8\.00; without it .*32\.00/);
  expect(all).toMatch(/Corrects 0040: One part was never fitted\. Difference: -.*5\.00/);
  expect(all).toContain("Not wanted by you, so not done right trigger: short");
  expect(all).toContain("the unit: until 31 May 2026");
  expect(all).toContain("wiper, left stick: 180 days from the handover");
  expect(all).not.toContain("12.34");
});

test("a receipt is for the seller to sign, an offer for the customer, with where it can be answered", () => {
  expect(words(bought)).toContain("Bought from a private person: no tax is charged or shown.");
  expect(words(bought)).toContain("The seller: I sold this and was paid.");
  expect(words(bought)).not.toContain("In your words");
  expect(words(offered)).toContain("The prices hold until 20 Mar 2026.");
  expect(words(offered)).toContain("Or answer at https://repairs.example/q/abcdef");
  expect(words(offered)).not.toContain("Total");
});

test("each holder of a bad batch has a letter of their own, with an address only where there is one", () => {
  expect(letters).toHaveLength(2);
  expect(words(letters)).toContain("On 9 Jan 2026 you had this controller from us.");
  expect(letters[1]!.texts.map((t) => t.text).join(" ")).toMatch(
    /Customer 2.*You had this controller from us\./,
  );
  expect(words([letters[1]!])).not.toContain("https");
});

test("a label has the size that was asked for, and a sheet of A4 as many as it holds", () => {
  expect([mm(one[0]!.width), mm(one[0]!.height)]).toEqual([40, 20]);
  expect(one[0]!.texts.map((t) => t.text).join(" ")).toContain("B-1001");
  expect(sheets.map((s) => [mm(s.width), mm(s.height)])).toEqual(sheets.map(() => [210, 297]));
  for (let i = 0; i < 70; i++) expect(words(sheets)).toContain(`B-${1000 + i}`);
});

test("the tray mat lays each fastener where the model says, to scale, the back mirrored", () => {
  const back = mat[0]!;
  expect([mm(back.width), mm(back.height)]).toEqual([297, 210]);
  for (const f of guide.fasteners.filter((x) => x.face === "back")) {
    const words = back.texts.filter((t) => t.text === `${f.lengthMm} mm`);
    const x = ((20 + dunlin.plan.width - f.at.x) * 72) / 25.4;
    const y = ((30 + f.at.y + 7.5) * 72) / 25.4;
    expect(words.some((t) => Math.abs(t.x + t.width / 2 - x) < 1 && Math.abs(t.y - y) < 1)).toBe(true);
  }
  expect(words(mat)).toContain("this line is 50 mm");
});
