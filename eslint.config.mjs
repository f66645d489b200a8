import js from "@eslint/js";
import next from "@next/eslint-plugin-next";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

const ZOD = {
  name: "zod",
  allowTypeImports: true,
  message: "take z from core/base/schema: it speaks our words",
};
const LUXON = { name: "luxon", message: "days and clocks are turned into each other in core/days" };

const SYNTAX = [
  {
    selector: "CallExpression[callee.property.name='slice'][arguments.1.value=10]",
    message: "take the shop's day from core/days",
  },
  {
    selector:
      "NewExpression[callee.name=/^(Set|Map)$/] > ArrayExpression > CallExpression[callee.name='say']",
    message: "what is looked up is a code: words change with the language",
  },
];

const SIZES = {
  selector: "Property[key.name='fontSize'] Literal[value=/rem$/]",
  message: "take a size of type from ui/tokens",
};

const FIGURES = {
  selector: "CallExpression[callee.property.name=/^(toFixed|toLocaleString)$/]",
  message: "figures are written by the shop's locale, in words/figures",
};

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
    files: ["**/*.ts", "**/*.tsx"],
    ignores: ["*.ts"],
    languageOptions: { parserOptions: { project: "./tsconfig.json", tsconfigRootDir: import.meta.dirname } },
    rules: {
      "@typescript-eslint/no-floating-promises": "error",
      "@typescript-eslint/await-thenable": "error",
      "@typescript-eslint/no-misused-promises": ["error", { checksVoidReturn: { attributes: false } }],
      "@typescript-eslint/no-unsafe-argument": "error",
      "@typescript-eslint/no-unsafe-assignment": "error",
      "@typescript-eslint/no-unsafe-call": "error",
      "@typescript-eslint/no-unsafe-member-access": "error",
      "@typescript-eslint/no-unsafe-return": "error",
    },
  },
  // a query is narrowed by functions that give it back, and can be waited for
  {
    files: ["src/features/**/*.ts", "src/platform/**"],
    rules: {
      "@typescript-eslint/no-misused-promises": [
        "error",
        { checksVoidReturn: { attributes: false, arguments: false } },
      ],
    },
  },
  // the matchers of the test runner are any, and so is JSON that a test reads to look at it
  {
    files: ["**/*.test.ts", "**/*.test.tsx", "test/**"],
    rules: { "@typescript-eslint/no-unsafe-assignment": "off" },
  },
  {
    files: ["test/**"],
    rules: {
      "@typescript-eslint/no-unsafe-call": "off",
      "@typescript-eslint/no-unsafe-member-access": "off",
      "@typescript-eslint/no-unsafe-return": "off",
    },
  },
  {
    files: ["src/**"],
    ignores: ["src/core/base/schema.ts"],
    rules: {
      "no-restricted-imports": ["error", { paths: [ZOD, LUXON] }],
      // a moment's first ten letters are its day in UTC, which is the shop's only by chance
      "no-restricted-syntax": ["error", ...SYNTAX],
    },
  },
  {
    files: ["src/core/days/**", "src/ui/fields/DateField.tsx"],
    rules: { "no-restricted-imports": ["error", { paths: [ZOD] }] },
  },
  {
    // what a person reads is said out of a catalogue (words.ts, and src/words); a sign, a unit or the name of the product is no word
    files: ["src/ui/**/*.tsx", "src/features/**/*.tsx", "src/app/**/*.tsx"],
    ignores: ["**/*.test.tsx"],
    rules: {
      "no-restricted-syntax": [
        "error",
        { selector: "JSXText[value=/[a-z]{3}/]", message: "say it out of a catalogue of words" },
        {
          selector:
            "JSXAttribute[name.name=/^(label|title|aria-label|alt|placeholder|helperText|detail|heading)$/] > Literal[value=/[a-z]{3}/]",
          message: "say it out of a catalogue of words",
        },
        {
          selector: "ConditionalExpression > Literal[value=/^[A-Za-z0-9]+ [a-z]{3}[a-z ]*$/]",
          message: "say it out of a catalogue of words",
        },
        FIGURES,
        SIZES,
        ...SYNTAX,
      ],
    },
  },
  {
    files: [
      "src/text/**/*.ts",
      "src/print/**/*.ts",
      "src/ui/**/*.ts",
      "src/app/**/*.ts",
      "src/features/**/*.ts",
    ],
    ignores: ["src/text/format.ts"],
    rules: { "no-restricted-syntax": ["error", FIGURES, ...SYNTAX] },
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
      globals: {
        self: "readonly",
        URL: "readonly",
        fetch: "readonly",
        Response: "readonly",
        setTimeout: "readonly",
        clearTimeout: "readonly",
        AbortController: "readonly",
        AbortSignal: "readonly",
      },
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
