import { STANDARD_MAP } from "../input/input";
import { readRecordingCsv, RecordingReader, RowFeeder, writeRecordingCsv } from "./csv";
import { RecordingBuilder, type Sample, stepCode, STEPS } from "./recording";

const sample = (t: number, change: Partial<Sample> = {}): Sample => ({
  t,
  step: "press",
  control: "face.south",
  cue: false,
  axes: [0.25, -0.5],
  buttons: [1],
  ...change,
});
const built = (count: number, change: (i: number) => Partial<Sample> = () => ({})) => {
  const builder = new RecordingBuilder([0, 1], [0]);
  for (let i = 0; i < count; i++) builder.add(sample(i * 4, change(i)));
  return builder;
};

describe("a recording as it grows", () => {
  test("keeps every row when it outgrows its first room", () => {
    const r = built(10_000, (i) => ({ axes: [i / 10_000, 0] })).view();
    expect(r.length).toBe(10_000);
    for (const i of [0, 4095, 4096, 8192, 9999]) {
      expect(r.t[i]).toBe(i * 4);
      expect(r.axes[0]![i]).toBeCloseTo(i / 10_000, 12);
      expect(r.buttons[0]![i]).toBe(1);
      expect(STEPS[r.step[i]!]).toBe("press");
    }
    expect(r.t).toHaveLength(10_000); // and nothing beyond its end
  });
  test("names each control once, and nought stands for all", () => {
    const r = built(4, (i) => ({ control: ["", "face.south", "face.east", "face.south"][i]! })).view();
    expect(r.controlNames).toEqual(["face.south", "face.east"]);
    expect([...r.control]).toEqual([0, 1, 2, 1]);
  });
  test("a column that the controller lacks stays absent, a channel that it did not send is nought", () => {
    const builder = new RecordingBuilder([1], []);
    builder.add(sample(0, { axes: [0.3], buttons: [1] }));
    const r = builder.view();
    expect(r.axes[0]).toBeUndefined();
    expect(r.axes[1]![0]).toBe(0);
    expect(r.buttons).toEqual([]);
  });
  test("a step that is repeated is kept and no measure uses it", () => {
    const builder = built(10, (i) => ({ cue: i === 7 }));
    builder.setAside(5);
    const r = builder.view();
    expect([...r.step].map((s) => STEPS[s])).toEqual([
      ...Array<string>(5).fill("press"),
      ...Array<string>(5).fill("free"),
    ]);
    expect(r.cue[7]).toBe(0);
    expect(r.axes[0]![9]).toBe(0.25);
  });
  test("each step has a code of its own", () => {
    expect(STEPS.map(stepCode)).toEqual(STEPS.map((_, i) => i));
  });
});

describe("as a file", () => {
  test("a control's name with a comma or a quotation mark comes back as it was", () => {
    const name = 'left "upper", worn';
    const text = [...writeRecordingCsv(built(3, () => ({ control: name })).view())].join("");
    const back = readRecordingCsv(text, STANDARD_MAP);
    expect(back.ok && back.value.controlNames).toEqual([name]);
  });
  test("only the columns that are there are written", () => {
    const [header] = [...writeRecordingCsv(built(1).view())];
    expect(header).toBe("t_ms,step,control,cue,a0,a1,b0\r\n");
  });
  test("a file that is too long is refused at the row beyond, not read in part", () => {
    const text = [...writeRecordingCsv(built(20).view())].join("");
    expect(readRecordingCsv(text, STANDARD_MAP, 10)).toEqual({
      ok: false,
      problem: { code: "csv-too-many-rows", limit: 10 },
    });
  });
  test("too many columns are refused by the header", () => {
    const header = ["t_ms", "step", ...Array.from({ length: 300 }, (_, i) => `x${i}`)].join(",");
    expect(readRecordingCsv(`${header}\n`, STANDARD_MAP)).toMatchObject({
      ok: false,
      problem: { code: "csv-too-many-columns" },
    });
  });
});

describe("rows as they stream in", () => {
  const feed = (...chunks: string[][][]) => {
    const reader = new RecordingReader(STANDARD_MAP);
    const feeder = new RowFeeder(reader);
    const problems = chunks.map((rows) => feeder.feed(rows, []));
    return { problem: problems.find(Boolean), reader };
  };
  const header = ["t_ms", "step"];
  test("chunks join wherever they are cut", () => {
    const { problem, reader } = feed([header], [["0", "rest"]], [["4", "rest"], ["8", "rest"]]); // prettier-ignore
    expect(problem).toBeUndefined();
    const done = reader.finish();
    expect(done.ok && done.value.length).toBe(3);
  });
  test("a blank last line is fine, one in the middle is not, also across chunks", () => {
    expect(feed([header, ["0", "rest"], [""]]).problem).toBeUndefined();
    expect(feed([header, ["0", "rest"], [""]], [["4", "rest"]]).problem).toMatchObject({
      code: "csv-row-length",
      row: 2,
    });
  });
  test("a broken quotation mark is told with its row", () => {
    const reader = new RecordingReader(STANDARD_MAP);
    const feeder = new RowFeeder(reader);
    feeder.feed([header, ["0", "rest"]], []);
    expect(feeder.feed([], [{ code: "MissingQuotes", row: 3 }])).toEqual({ code: "csv-quotes", row: 5 });
  });
});
