/**
 * Which folder may import which: interface -> use cases -> core, data access behind its own door. A feature is one folder:
 * deeds, rows and views on the server beside each other, what people read in words/, its components in ui/.
 */
const rule = (name, from, to, comment) => ({
  name,
  severity: "error",
  comment,
  from: typeof from === "string" ? { path: from } : from,
  to: typeof to === "string" ? { path: to } : to,
});

const WORDS = "^src/features/[^/]+/words/";
const SERVER = "^src/features/([^/]+|[^/]+/[^/]+)\\.ts$"; // deeds, rows, views
const UI = "^src/features/[^/]+/ui/";
const TYPES = { dependencyTypesNot: ["type-only"] };

module.exports = {
  forbidden: [
    {
      name: "no-ring-of-files",
      severity: "error",
      comment: "types included",
      from: {},
      to: { circular: true },
    },
    {
      name: "no-ring-of-folders",
      severity: "error",
      scope: "folder",
      from: { path: "^src/core/" },
      to: { circular: true },
    },
    rule(
      "core-knows-nobody",
      "^src/core/",
      "^src/(?!core/)",
      "the core decides; it has no words and knows no interface, database or page",
    ),
    rule(
      "core-is-pure",
      "^src/core/",
      "node_modules/(react|next|@mui|knex|pg|pino|sharp|iron-session|chart\\.js)",
      "the core is free of interface, database and browser",
    ),
    rule("base-imports-nothing", "^src/core/base/", "^src/core/(?!base)"),
    rule("math-imports-base", "^src/core/math/", "^src/core/(?!base|math)"),
    rule("words-import-nothing", "^src/words/", "^src/(?!words)"),
    rule("contract-imports-core", "^src/contract/", "^src/(?!contract|core|words)"),
    rule("text-imports-core-and-contract", `^src/text/|${WORDS}`, {
      path: "^src/",
      pathNot: `^src/(core|contract|words|text)/|${WORDS}`,
    }),
    rule("print-imports-core-and-words", "^src/print/", {
      path: "^src/",
      pathNot: `^src/(core|contract|words|text|print)/|${WORDS}`,
    }),
    rule("work-imports-core-and-print", "^src/platform/work/", "^src/(?!core|print|platform/work)"),
    rule(
      "database-and-deeds-know-no-feature",
      "^src/platform/(db|deed|work|log)",
      "^src/(features|text|ui|browser|app|cli|platform/(http|run))",
    ),
    rule("features-know-no-page", SERVER, `${UI}|^src/(browser|ui|app|cli|platform/http)/`),
    rule("platform-knows-no-page", "^src/platform/", `${UI}|^src/(browser|ui|app|cli)/`),
    rule("browser-imports-core", "^src/browser/", "^src/(platform|features|ui|app|cli)/"),
    rule("pages-have-no-database", `^src/ui/|${UI}`, "^src/(app|cli|platform)/"),
    rule("pages-take-only-types-of-the-server", `^src/ui/|${UI}`, { path: SERVER, ...TYPES }),
    rule(
      "kit-knows-no-feature",
      { path: "^src/ui/", pathNot: "^src/ui/frame/" },
      { path: "^src/features/", pathNot: WORDS, ...TYPES },
      "what all features use knows none; what surrounds every page may",
    ),
    rule(
      "routes-hold-no-sql",
      "^src/(app|ui|platform/http)/|^src/features/[^/]+/ui/",
      "node_modules/(knex|pg)/",
    ),
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    exclude: { path: "\\.test\\.tsx?$" }, // a test may take words and schemas from above what it tests
    tsConfig: { fileName: "tsconfig.json" },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["import", "require", "node", "default", "types"],
    },
  },
};
