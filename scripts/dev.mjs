/** npm run dev [-- --reset]: the demo data served from the sources; what is changed in them shows at once. */
import { cli, serve } from "./lib/workshop.mjs";

await serve({
  database: "birdcage_dev",
  dev: true,
  reset: process.argv.includes("--reset"),
  prepare: (url) => cli("demo-data", url, process.argv.includes("--reset") ? ["--reset"] : []),
  announce: (address) =>
    console.log(
      `\nDeveloping at ${address}. Sign in as ida, bram, oona or viktor (see npm run demo). Ctrl-C stops it.`,
    ),
});
