/** Writes a recording of 10 minutes at 1 kHz in the interchange format to the named file. */
import { createWriteStream } from "node:fs";
import { once } from "node:events";

const out = createWriteStream(process.argv[2]!);
const write = async (text: string) => {
  if (!out.write(text)) await once(out, "drain");
};
await write(
  `t_ms,step,control,cue,${[0, 1, 2, 3].map((i) => `a${i}`).join(",")},${Array.from({ length: 17 }, (_, i) => `b${i}`).join(",")}\r\n`,
);
const steps: [string, string][] = [
  ["rest", ""],
  ["circle", "stick.left"],
  ["sweep", "stick.left"],
  ["circle", "stick.right"],
  ["pull", "trigger.left"],
  ["free", ""],
];
const ZEROS = (n: number) => Array.from({ length: n }, () => "0.000").join(",");
let lines = "";
for (let t = 0; t < 600_000; t++) {
  const [step, control] = steps[Math.floor(t / 100_000)]!;
  const a = (t / 1100) * 2 * Math.PI;
  const round = step === "circle" || step === "sweep" ? [Math.cos(a), Math.sin(a)] : [0.0101, -0.0142];
  const v = step === "pull" ? Math.max(0, Math.sin(t / 300)) : 0;
  const axes = [...round, ...round].map((x) => x.toFixed(9)).join(",");
  lines += `${t}.0,${step},${control},0,${axes},${ZEROS(6)},${v.toFixed(6)},${ZEROS(10)}\r\n`;
  if (t % 4000 === 3999) {
    await write(lines);
    lines = "";
  }
}
out.end(lines);
await once(out, "finish");
