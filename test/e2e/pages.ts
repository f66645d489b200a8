import { REPORTS } from "@/contract/reports";

/** A chart is loaded after its page: these are looked at once it is drawn. */
const CHARTED = new Set([
  "/buying",
  "/parts/P-0001",
  "/units/B-0119/test",
  "/units/B-0113/test/compare",
  "/units/B-0113/prove",
]);

/** Every kind of page, on units of the demonstration. */
export const PAGES = {
  "a unit from door to test": [
    "/",
    "/units",
    "/units/new",
    "/units/B-0113/intake",
    "/units/B-0119/test",
    "/units/B-0119/test/bench?for=full&step=contact-sensor.stick.left.x",
    "/units/B-0123/test/bench?for=full&step=supply.main",
    "/units/B-0113/test/compare",
  ],
  "finding and deciding": [
    "/units/B-0119/find",
    "/units/B-0120/decide",
    "/units/B-0148/decide",
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
    "/parts/donors/B-0152",
  ],
  mending: [
    "/units/B-0116/mend",
    "/units/B-0157/mend",
    "/units/B-0157/mend/map",
    "/units/B-0158/mend/solder",
    "/units/B-0113/mend/calibrate",
    "/units/B-0113/mend/notes",
    "/work/B-0157",
    "/day",
    "/models/dunlin/guide",
  ],
  "proof, release and after": [
    "/units/B-0113/prove",
    "/units/B-0113/release",
    "/units/B-0146/release",
    "/units/B-0113/record",
    "/after",
    "/labels",
    "/practice",
  ],
  results: ["/results", ...REPORTS.map((report) => `/results/${report}`)],
  "the house": ["/models", "/models/whimbrel", "/settings", "/people", "/account", "/archive"],
};

export const hasChart = (path: string): boolean => CHARTED.has(path) || path.startsWith("/results/");
