import { readdirSync, readFileSync } from "node:fs";
import { dirname, join, parse } from "node:path";

import fc from "fast-check";
import { IntlMessageFormat } from "intl-messageformat";

import { DEEDS } from "@/contract/deeds";
import { EVENTS, isUnitEvent } from "@/contract/events";
import { catalogue } from "./catalogue";
import { codeWords } from "./codes";
import { drawnOut } from "./drawn-out";

const said = (text: string, values: Record<string, string | number>) =>
  String(new IntlMessageFormat(text, "en", undefined, { ignoreTag: true }).format(values));

describe("a catalogue", () => {
  const say = catalogue("test", {
    plain: "Nothing waits: it's done",
    tray: "Tray {tray} holds {tag}.",
    pieces: "{n} {n, plural, one {piece} other {pieces}} in bin {bin}",
    marked: "a name as it is typed: {name}",
  });
  test("says a text as it stands, and with its values", () => {
    expect(say("plain")).toBe("Nothing waits: it's done");
    expect(say("tray", { tray: 3, tag: "B-0113" })).toBe("Tray 3 holds B-0113.");
    expect(say("marked", { name: "<b>{Ida}</b>" })).toBe("a name as it is typed: <b>{Ida}</b>");
  });
  test("counts one and many", () => {
    expect([0, 1, 2].map((n) => say("pieces", { n, bin: "A3" }))).toEqual([
      "0 pieces in bin A3",
      "1 piece in bin A3",
      "2 pieces in bin A3",
    ]);
  });
  test("a wrong key, a missing value and one of another kind do not compile", () => {
    const wrong = [
      // @ts-expect-error -- no such key
      () => say("tre"),
      // @ts-expect-error -- a value is missing
      () => say("tray", { tray: 3 }),
      // @ts-expect-error -- a plural counts a number
      () => say("pieces", { n: "2", bin: "A3" }),
    ];
    // and whoever calls it all the same is told
    expect(wrong[0]).toThrow("no text test.tre");
    expect(wrong[1]).toThrow(/tag/);
  });
});

describe("the made-up language", () => {
  const letters = (text: string) => text.match(/\p{L}/gu) ?? [];
  test("is forty per cent longer, word by word, and no letter of it can be taken for English", () => {
    fc.assert(
      fc.property(fc.array(fc.stringMatching(/^[a-z]{4,14}$/), { minLength: 1, maxLength: 8 }), (words) => {
        const long = drawnOut(words.join(" ")).split(" ");
        words.forEach((word, i) => {
          expect(letters(long[i]!).length).toBeGreaterThanOrEqual(1.4 * word.length);
          expect(long[i]).not.toMatch(/[a-z]/);
        });
      }),
    );
  });
  test("leaves arguments, plurals and signs of measure as they are", () => {
    const text = drawnOut("{n} {n, plural, one {piece} other {pieces}} of {min} mm");
    expect(said(text, { n: 1, min: "4" })).toMatch(/^1 ṕṕ\S+ òòḟ 4 mm$/);
    expect(said(text, { n: 2, min: "4" })).toMatch(/^2 ṕṕ\S+š òòḟ 4 mm$/);
  });
});

test("a code has its words, and what is no code is said as it stands", () => {
  expect(codeWords("hand-back")).toBe("hand back");
  expect(codeWords("toString")).toBe("toString");
  expect(codeWords("some-thing-new")).toBe("some thing new");
});

test("changes and events have words, and no words are left of one that is gone", () => {
  const keysOf = (file: string) =>
    [...readFileSync(join(__dirname, file), "utf8").matchAll(/^ {2}"?([a-z.-]+)"?: /gm)]
      .map(([, key]) => key!)
      .sort();
  expect(keysOf("deeds.ts")).toEqual(Object.keys(DEEDS).sort());
  expect(keysOf("events.ts")).toEqual(Object.keys(EVENTS).filter(isUnitEvent).sort());
});

describe("every catalogue", () => {
  const src = join(__dirname, "..");
  const files = readdirSync(src, { recursive: true, encoding: "utf8" }).filter((f) => /\.tsx?$/.test(f));
  const code = new Map(files.map((f) => [f, readFileSync(join(src, f), "utf8")]));
  // these are looked up by what the core or the contract calls a thing; what lacks there does not compile
  const LOOKED_UP = ["words/codes.ts", "words/deeds.ts", "words/events.ts"];
  const own = files.filter(
    (f) => /= catalogue\("/.test(code.get(f)!) && !f.includes(".test.") && !LOOKED_UP.includes(f),
  );
  test("they are found", () => expect(own.length).toBeGreaterThan(20));

  test.each(own)("%s: no text that nobody says, none twice, none that cannot be read", (file) => {
    // in a folder of its own a catalogue may also be named from beside it
    const beside = (f: string) =>
      dirname(f) === dirname(file) && code.get(f)!.includes(`from "./${parse(file).name}"`);
    const names = (f: string) => code.get(f)!.includes(`from "@/${file.replace(".ts", "")}"`) || beside(f);
    const users = files
      .filter(names)
      .map((f) => code.get(f)!)
      .join("\n");
    const entries = [...code.get(file)!.matchAll(/^ {2}(\w+):\s*("(?:[^"\\]|\\.)*"|'(?:[^'\\]|\\.)*')/gm)];
    expect(entries.length).toBeGreaterThan(10);
    const texts = entries.map(([, , text]) => text!.slice(1, -1));
    expect(texts.filter((text, i) => texts.indexOf(text) !== i)).toEqual([]);
    expect(
      entries.map(([, key]) => key!).filter((key) => !new RegExp(`say\\(\\s*"${key}"`).test(users)),
    ).toEqual([]);
    for (const text of texts)
      expect(
        () =>
          new IntlMessageFormat(
            JSON.parse(`"${text.replaceAll('\\"', '"').replaceAll('"', '\\"')}"`) as string,
            "en",
            undefined,
            { ignoreTag: true },
          ),
      ).not.toThrow();
  });
});
