import { REPORTS } from "@/contract/reports";

/** A chart is loaded after its page: these are looked at once it is drawn. */
const CHARTED = new Set([
  "/buying",
  "/parts/P-0001",
  "/units/{measured}/test",
  "/units/{proven}/test/compare",
  "/units/{proven}/prove",
]);

/** Every kind of page, on units of the demonstration by what they are (units.ts). */
export const PAGES = {
  "a unit at the door": ["/", "/units", "/units/new", "/units/{proven}/intake"],
  "a unit at its test": [
    "/units/{measured}/test",
    "/units/{measured}/test/bench?for=full&step=contact-sensor.stick.left.x",
    "/units/{measured}/test/bench?for=full&step=supply.main",
    "/units/{proven}/test/compare",
  ],
  "finding and deciding": [
    "/units/{measured}/find",
    "/units/{faulty}/decide",
    "/units/{asked}/decide",
    "/buying",
    "/routes",
  ],
  "parts and donors": [
    "/parts",
    "/parts?tab=catalogue&part=SM-WHI-O",
    "/parts?tab=suppliers",
    "/parts?tab=donors",
    "/parts?tab=plan",
    "/parts?tab=buy",
    "/parts/P-0001",
    "/parts/P-0014",
    "/parts/donors/{donor}",
  ],
  mending: [
    "/units/{mended}/mend",
    "/units/{working}/mend",
    "/units/{working}/mend/map",
    "/units/{working}/mend/solder",
    "/units/{proven}/mend/calibrate",
    "/units/{proven}/mend/notes",
    "/work/{working}",
    "/day",
    "/models/dunlin/guide",
  ],
  "proof, release and after": [
    "/units/{proven}/prove",
    "/units/{proven}/release",
    "/units/{released}/release",
    "/units/{proven}/record",
    "/after",
    "/labels",
    "/practice",
  ],
  results: ["/results", ...REPORTS.map((report) => `/results/${report}`)],
  "the house": ["/models", "/models/whimbrel", "/settings", "/people", "/account", "/archive"],
};

export const hasChart = (path: string): boolean => CHARTED.has(path) || path.startsWith("/results/");
