/** Which folder may import which: interface -> use cases -> core, data access behind its own door. */
const rule = (name, from, to, comment) => ({
  name,
  severity: "error",
  comment,
  from: { path: from, pathNot: "\\.test\\.ts$" },
  to: { path: to },
});

module.exports = {
  forbidden: [
    { name: "no-ring-of-files", severity: "error", comment: "types included", from: {}, to: { circular: true } },
    { name: "no-ring-of-folders", severity: "error", scope: "folder", from: {}, to: { circular: true } },
    rule(
      "core-knows-nobody",
      "^src/core/",
      "^src/(contract|words|db|service|text|print|work|browser|ui|app|door|cli)/",
      "the core decides and knows no interface, database or page",
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
    rule("contract-imports-core", "^src/contract/", "^src/(db|service|text|browser|ui|app|door|cli)/"),
    rule("text-imports-core-and-contract", "^src/text/", "^src/(db|service|browser|ui|app|door|cli)/"),
    rule("work-imports-core-and-print", "^src/work/", "^src/(contract|text|db|service|browser|ui|app|door|cli)/"),
    rule("print-imports-core-and-words", "^src/print/", "^src/(db|service|work|browser|ui|app|door|cli)/"),
    rule("db-is-low", "^src/db/", "^src/(service|text|browser|ui|app|door|cli)/"),
    rule("service-knows-no-page", "^src/service/", "^src/(browser|ui|app|door|cli)/"),
    rule("browser-imports-core", "^src/browser/", "^src/(db|service|ui|app|door|cli)/"),
    rule("app-has-no-sql-door", "^src/ui/", "^src/(db|app|door|cli)/"),
    {
      name: "ui-takes-only-types-of-services",
      severity: "error",
      from: { path: "^src/ui/" },
      to: { path: "^src/service/", dependencyTypesNot: ["type-only"] },
    },
    rule("ui-has-no-knex", "^src/(ui|app)/", "node_modules/(knex|pg)/"),
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    exclude: { path: "\\.test\\.tsx?$" }, // a test may take words and schemas from above what it tests
    tsConfig: { fileName: "tsconfig.json" },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: { exportsFields: ["exports"], conditionNames: ["import", "require", "node", "default", "types"] },
  },
};
