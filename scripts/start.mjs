/**
 * npm start: the same without demo data, with a backup each day. The first lead is made with npm run
 * user:add.
 */
import { backUpByDay } from "./lib/backups.mjs";
import { serve } from "./lib/workshop.mjs";

await serve({
  database: "birdcage",
  beside: backUpByDay,
  announce: (address, ms) =>
    console.log(`\nBirdcage is ready after ${(ms / 1000).toFixed(1)} s:  ${address}\nCtrl-C stops it.`),
});
