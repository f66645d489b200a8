import "server-only";

import pino from "pino";

/** Structured logs, one JSON object a line; no names, passwords or addresses of public pages. */
export const log = pino({ name: "birdcage", level: process.env.LOG_LEVEL ?? "info", base: null });
