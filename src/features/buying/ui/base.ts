import type { buyBase } from "@/features/buying/deeds";

export type BaseOf = Awaited<ReturnType<typeof buyBase>>;
