/**
 * npm run demo [-- --reset]: installs what is missing, starts everything with the demo data, and serves it.
 */
import { cli, serve } from "./lib/workshop.mjs";

await serve({
  database: "birdcage_demo",
  reset: process.argv.includes("--reset"),
  prepare: (url) => cli("demo-data", url, process.argv.includes("--reset") ? ["--reset"] : []),
  announce: (address, ms) => {
    console.log(`
Birdcage is ready after ${(ms / 1000).toFixed(1)} s:  ${address}

  Sign in as   ida     (lead)         password  reed-warbler-1
               bram    (technician)   password  reed-warbler-2
               oona    (technician)   password  reed-warbler-3
               viktor  (viewer)       password  reed-warbler-4

Ctrl-C stops it. What you enter stays; npm run demo -- --reset starts over.`);
  },
});
