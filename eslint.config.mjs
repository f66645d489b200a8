import js from "@eslint/js";
import next from "@next/eslint-plugin-next";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: [".next/", "node_modules/", "next-env.d.ts", "test-results/", "playwright-report/"] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    plugins: { "@next/next": next, "react-hooks": hooks },
    rules: {
      ...next.configs.recommended.rules,
      ...next.configs["core-web-vitals"].rules,
      ...hooks.configs.recommended.rules,
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_", varsIgnorePattern: "^_" }],
      "@typescript-eslint/consistent-type-imports": "error",
      "no-console": ["error", { allow: ["error"] }],
    },
  },
  {
    files: ["src/**"],
    ignores: ["src/core/base/schema.ts"],
    rules: {
      "no-restricted-imports": [
        "error",
        { paths: [{ name: "zod", allowTypeImports: true, message: "take z from core/base/schema: it speaks our words" }] },
      ],
    },
  },
  {
    files: ["src/cli/**", "scripts/**", "bench/**", "server/**"],
    rules: { "no-console": "off" },
  },
  { files: ["test/**"], rules: { "react-hooks/rules-of-hooks": "off" } }, // Playwright's fixtures call their "use", which is no hook
  { files: ["**/*.cjs"], languageOptions: { globals: { module: "writable" } } },
  {
    files: ["server/service-worker.js"],
    languageOptions: {
      globals: { self: "readonly", URL: "readonly", fetch: "readonly", Response: "readonly", setTimeout: "readonly" },
    },
  },
  {
    files: ["**/*.mjs"],
    languageOptions: {
      globals: {
        process: "readonly",
        console: "readonly",
        performance: "readonly",
        setTimeout: "readonly",
        clearTimeout: "readonly",
        setInterval: "readonly",
        clearInterval: "readonly",
        URL: "readonly",
        fetch: "readonly",
        Buffer: "readonly",
      },
    },
  },
);
