import { readFileSync } from "node:fs";

const { version } = JSON.parse(readFileSync(new URL("./package.json", import.meta.url), "utf8"));

/** @type {import('next').NextConfig} */
export default {
  serverExternalPackages: [
    "@react-pdf/renderer",
    "fontkit",
    "knex",
    "pg",
    "pino",
    "sharp",
    "@node-rs/argon2",
  ],
  poweredByHeader: false,
  env: { BIRDCAGE_VERSION: version }, // kept with each result: which tester measured it
  // a worker's script needs these too, or an isolated page may not start it
  headers: async () => [
    {
      source: "/_next/static/:path*",
      headers: [
        { key: "Cross-Origin-Embedder-Policy", value: "require-corp" },
        { key: "Cross-Origin-Resource-Policy", value: "same-origin" },
        { key: "X-Content-Type-Options", value: "nosniff" },
      ],
    },
  ],
  agentRules: false,
  reactStrictMode: true,
  typescript: { ignoreBuildErrors: true }, // npm test checks types; a start need not wait for it
  // the door holds a body in memory up to this size and cuts off the rest without a word: recordings may be 32 MB
  experimental: {
    proxyClientMaxBodySize: "36mb",
    optimizePackageImports: ["@mui/material", "@mui/icons-material"],
  },
};
