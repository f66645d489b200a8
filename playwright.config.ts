import { defineConfig } from "@playwright/test";

export default defineConfig({
  testDir: "test/e2e",
  workers: 1,
  timeout: 240_000, // a busy machine is slow, not wrong
  expect: { timeout: 40_000 },
  retries: 0,
  reporter: [["list"], ["json"]],
  use: {
    baseURL: process.env.BASE_URL,
    serviceWorkers: "block", // what a worker answers no test could slow down or break; out-of-reach.spec.ts allows it
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: "/usr/bin/chromium",
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--use-fake-device-for-media-stream", // a microphone that beeps, behind the browser's own interface
      ],
    },
  },
});
