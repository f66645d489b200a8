/**
 * Runs the analysis command line in this process and tells the time and the peak of its memory on standard
 * error.
 */
const began = performance.now();
process.stdout.write = (() => true) as typeof process.stdout.write;
process.on("exit", () => {
  const peak = process.resourceUsage().maxRSS / 1024;
  process.stderr.write(
    `${((performance.now() - began) / 1000).toFixed(1)} s, peak memory ${peak.toFixed(0)} MB (limit: 512 MB)\n`,
  );
});
await import("@/cli/analyse");
export {};
