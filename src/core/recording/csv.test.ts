import { csvProblemText } from "@/text/problems";
import { STANDARD_MAP } from "../input/input";
import { readRecordingCsv, writeRecordingCsv } from "./csv";
import { simulateFullTest } from "../simulate/run";

const read = (text: string) => readRecordingCsv(text, STANDARD_MAP);
const problem = (text: string) => {
  const r = read(text);
  return r.ok ? null : csvProblemText(r.problem);
};

test("reads the least that is needed, ignores unknown columns and a byte order mark", () => {
  const r = read("\uFEFFt_ms,step,mood\r\n0,rest,calm\r\n4,rest,\r\n");
  expect(r.ok && r.value.length).toBe(2);
  expect(read("t_ms,step\n0,rest").ok).toBe(true);
  expect(read('"t_ms","step"\n"0","rest"').ok).toBe(true);
});

test.each([
  ["", "The file is empty"],
  ["t_ms,step\n", "no samples"],
  ["t_ms,a0\n0,0\n", 'lacks the column "step"'],
  ["step,a0\nrest,0\n", 'lacks the column "t_ms"'],
  ["t_ms,step,a0,a0\n0,rest,0,0\n", 'names the column "a0" twice'],
  ["t_ms,step\n0,rest\n4,wobble\n", 'Row 2 (line 3) names the step "wobble"'],
  ["t_ms,step,a0\n0,rest\n", "Row 1 (line 2) has 2 values where the header has 3"],
  ["t_ms,step,a0\n0,rest,0,0\n", "Row 1 (line 2) has 4 values"],
  ["t_ms,step,a0\n0,rest,left\n", 'Row 1 (line 2) has "left" in column a0'],
  ["t_ms,step,a0\n0,rest,\n", "Row 1 (line 2)"],
  ["t_ms,step,a9\n0,rest,NaN\n", "Row 1 (line 2)"],
  ["t_ms,step,a9\n0,rest,Infinity\n", "Row 1 (line 2)"],
  ["t_ms,step,a9\n0,rest,1e999\n", "Row 1 (line 2)"],
  ["t_ms,step,a0\n0,rest,0x1\n", "Row 1 (line 2)"],
  ["t_ms,step\n8,rest\n4,rest\n", "Row 2 (line 3) runs backwards: t_ms 4 after 8"],
  ["t_ms,step,a0\n0,rest,0\n4,rest,1.01\n", "Row 2 (line 3) has 1.01 in column a0, outside -1 to 1"],
  ["t_ms,step,b0\n0,rest,-0.1\n", "outside 0 to 1"],
  ["t_ms,step,cue\n0,press,2\n", 'has "2" in column cue'],
  ["t_ms,step\n0,rest\n\n4,rest\n", "Row 2 (line 3) has 1 values"],
  ['t_ms,step\n0,"rest\n', "quotation mark"],
])("%j is refused in words that name the row", (text, words) => {
  expect(problem(text)).toContain(words);
});

test("a value outside -1..1 is fine where no control reads it", () => {
  expect(read("t_ms,step,a0,a9\n0,rest,0,1.2857\n").ok).toBe(true);
});

test("writing and reading again gives the same recording", () => {
  const r = simulateFullTest(STANDARD_MAP.controls.slice(0, 4), {
    seed: 3,
    rateHz: 125,
    bits: 8,
    faults: {},
  });
  const back = read([...writeRecordingCsv(r)].join(""));
  if (!back.ok) throw new Error(csvProblemText(back.problem));
  expect(back.value.length).toBe(r.length);
  for (let i = 0; i < r.length; i += 97) {
    expect(back.value.t[i]).toBeCloseTo(r.t[i]!, 3);
    expect(back.value.step[i]).toBe(r.step[i]);
    expect(back.value.axes[0]![i]).toBeCloseTo(r.axes[0]![i]!, 5);
  }
});
