/** Analysis of 60 s of a whole controller at 250 Hz, beside one plain pass that sums the same numbers. */
import { STANDARD_MAP } from "@/core/input/input";
import { RecordingBuilder, type Recording } from "@/core/recording/recording";
import { analyse } from "@/core/analyse/analyse";
import { simulateFullTest } from "@/core/simulate/run";

/**
 * The recording's rows with the time between them scaled so that a full test of all controls lasts 60 s at
 * 250 Hz.
 */
function sixtySeconds(): Recording {
  const full = simulateFullTest(STANDARD_MAP.controls, { seed: 7, rateHz: 250, bits: 12, faults: {} });
  const wanted = 15_000;
  const keep = full.length / wanted;
  const builder = new RecordingBuilder(
    [0, 1, 2, 3],
    Array.from({ length: 17 }, (_, i) => i),
  );
  for (let k = 0; k < wanted; k++) {
    const i = Math.floor(k * keep);
    const row = builder.row(
      k * 4,
      full.step[i]!,
      full.control[i] ? full.controlNames[full.control[i]! - 1]! : "",
      full.cue[i] === 1,
    );
    full.axes.forEach((c, a) => builder.setAxis(row, a, c![i]!));
    full.buttons.forEach((c, b) => builder.setButton(row, b, c![i]!));
  }
  return builder.view();
}

function plainSum(r: Recording): number {
  let sum = 0;
  for (const column of [...r.axes, ...r.buttons]) for (let i = 0; i < r.length; i++) sum += column![i]!;
  return sum;
}

function medianMs(run: () => unknown, times: number): number {
  const took = Array.from({ length: times }, () => {
    const began = performance.now();
    run();
    return performance.now() - began;
  }).sort((a, b) => a - b);
  return took[times >> 1]!;
}

const r = sixtySeconds();
for (let i = 0; i < 30; i++) analyse(r, STANDARD_MAP); // both sides warm
for (let i = 0; i < 300; i++) plainSum(r);
const analysed = medianMs(() => analyse(r, STANDARD_MAP), 60);
const summed = medianMs(() => plainSum(r), 300);
console.log(`Analysis, ${r.length} samples of 21 channels (60 s at 250 Hz): ${analysed.toFixed(2)} ms`);
console.log(`One plain pass that sums the same numbers:                 ${summed.toFixed(2)} ms`);
console.log(`Ratio: ${(analysed / summed).toFixed(1)} (aim: under 20)`);
