import { disclosuresOf, disclosureSchema, type Told } from "./disclosures";

const told = (change: Partial<Told>) =>
  disclosuresOf({
    parts: [],
    mends: [],
    routes: [],
    marks: [],
    lost: [],
    damages: [],
    missing: [],
    without: [],
    readings: [],
    broken: [],
    accepted: [],
    ...change,
  });
const mend = (what: string, change: Partial<Told["mends"][number]> = {}) => ({
  what,
  part: "",
  remark: "",
  listed: false,
  provisional: false,
  ...change,
});

test("a record without anything to tell tells nothing, however many mends it has", () => {
  expect(told({})).toEqual([]);
  expect(
    told({ mends: [mend("Cleaned the contacts"), mend("New dome", { part: "Dome", listed: true })] }),
  ).toEqual([]);
});

test("what the shop fitted is told by its make; an original is none, and a used one is told whatever its make", () => {
  const part = (make: Told["parts"][number]["make"], used = false) => ({
    name: "Stick module",
    place: "left",
    make,
    used,
  });
  expect(told({ parts: [part("original")] })).toEqual([]);
  expect(told({ parts: [part("dear-copy")] })).toEqual([
    { code: "part", name: "Stick module (left)", make: "dear-copy" },
  ]);
  expect(told({ parts: [part("original", true)] })).toEqual([
    { code: "donor-part", name: "Stick module (left)" },
  ]);
  expect(told({ parts: [part("dear-copy", true)] }).map((d) => d.code)).toEqual(["part", "donor-part"]);
  // nobody knows who made it: it cannot be said to be a copy, and not to be none
  expect(told({ parts: [part(null)] })).toEqual([]);
});

test("a part that was only written down is told as it stands there, once", () => {
  expect(told({ mends: [mend("New switch", { part: "  " })] })).toEqual([]);
  expect(told({ mends: [mend("New switch", { part: "switch, soft" })] })).toEqual([
    { code: "typed-part", name: "switch, soft", what: "New switch" },
  ]);
});

test("glue, a shim and what is good for now are told, wherever the words stand", () => {
  const codes = (m: Told["mends"][number]) => told({ mends: [{ ...m, listed: true }] }).map((d) => d.code);
  expect(codes(mend("Glued the post"))).toEqual(["glue"]);
  expect(codes(mend("Mended the post", { remark: "a drop of epoxy" }))).toEqual(["glue"]);
  expect(codes(mend("Tightened the dome", { part: "spacer 0.2 mm" }))).toEqual(["shim"]);
  expect(codes(mend("Old pad again", { provisional: true }))).toEqual(["provisional"]);
  expect(codes(mend("Unglueable shell"))).toEqual([]); // a word of its own, or none
});

test("an upgrade is told by its name when it says nothing itself; any other route only when it has something to say", () => {
  const route = (school: Told["routes"][number]["school"], discloses = "") => ({
    school,
    name: "Magnetic sensors",
    discloses,
  });
  expect(told({ routes: [route("replace")] })).toEqual([]);
  expect(told({ routes: [route("rework", "a chip was reheated")] })).toEqual([
    { code: "route", words: "a chip was reheated" },
  ]);
  expect(told({ routes: [route("upgrade"), route("upgrade", "another feel")] })).toEqual([
    { code: "upgrade", words: "Magnetic sensors" },
    { code: "upgrade", words: "another feel" },
  ]);
});

test("lists are told in one line each, kinds of marks once; every line is one that a certificate can hold", () => {
  const all = told({
    marks: ["deep-scratch", "deep-scratch", "yellowed"],
    lost: ["clip 2"],
    damages: [{ place: "shell", what: "a crack" }],
    missing: ["battery door"],
    without: ["Microphone", "Speaker"],
    readings: [{ reading: "charge-log", subject: "main", verdict: "fail" }],
    accepted: ["left stick: noise"],
  });
  expect(all).toEqual([
    { code: "marks", kinds: ["deep scratch", "yellowed"] },
    { code: "lost", names: ["clip 2"] },
    { code: "damage", place: "shell", what: "a crack" },
    { code: "missing", names: ["battery door"] },
    { code: "function-lost", names: ["Microphone", "Speaker"] },
    { code: "reading", reading: "charge-log", subject: "main", verdict: "fail" },
    { code: "accepted-fault", words: "left stick: noise" },
  ]);
  for (const line of all) expect(disclosureSchema.parse(line)).toEqual(line);
});
