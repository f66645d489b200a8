import type { buyBase } from "@/service/buying";

export type BaseOf = Awaited<ReturnType<typeof buyBase>>;
