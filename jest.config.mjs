/** Unit tests and tests of components (on a made-up page) stand beside the code; tests on the real database lie in test/db and run with DATABASE_URL set. */
const shared = {
  testEnvironment: "node",
  transform: {
    "^.+\\.(ts|tsx|mjs|js)$": [
      "@swc/jest",
      {
        jsc: {
          parser: { syntax: "typescript", tsx: true },
          target: "es2022",
          transform: { react: { runtime: "automatic" } },
        },
      },
    ],
  },
  moduleNameMapper: { "^@/(.*)$": "<rootDir>/src/$1", "^server-only$": "<rootDir>/test/empty.ts" },
  // these ship as modules only
  transformIgnorePatterns: [
    "/node_modules/(?!(intl-messageformat|@formatjs|jose|iron-session|iron-webcrypto|uncrypto|uint8array-extras)/)",
  ],
};

export default {
  coverageProvider: "v8",
  testTimeout: 120_000, // a busy machine is slow, not wrong
  projects: [
    { ...shared, displayName: "unit", testMatch: ["<rootDir>/src/**/*.test.ts"] },
    {
      ...shared,
      displayName: "ui",
      testMatch: ["<rootDir>/src/**/*.test.tsx"],
      testEnvironment: "jsdom",
      setupFiles: ["<rootDir>/test/ui/setup.ts"],
    },
    { ...shared, displayName: "db", testMatch: ["<rootDir>/test/db/**/*.test.ts"] },
  ],
};
