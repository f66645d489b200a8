import { innerPath } from "./inner-path";

test.each(["/units/B-0116", "/units?stage=test&page=2", "/parts/P-0014#stock", "/"])(
  "%j is gone to",
  (next) => expect(innerPath(next)).toBe(next),
);

test.each([
  undefined,
  ["/units", "/parts"],
  "",
  "units",
  "//elsewhere.invalid/",
  "/\\elsewhere.invalid/",
  "\\\\elsewhere.invalid",
  "/\t/elsewhere.invalid",
  "/\n//elsewhere.invalid",
  "/\r/elsewhere.invalid",
  "\t//elsewhere.invalid",
  "https://elsewhere.invalid/",
  "javascript:alert(1)",
  "/ /elsewhere.invalid/..//elsewhere.invalid",
  "/.//elsewhere.invalid",
  "/x/..//elsewhere.invalid",
])("%j never leads to another site", (next) => {
  const to = innerPath(next);
  expect(to.startsWith("/")).toBe(true);
  // what a browser makes of it when it is at our own address
  expect(new URL(to, "https://birdcage.invalid/sign-in").host).toBe("birdcage.invalid");
});
