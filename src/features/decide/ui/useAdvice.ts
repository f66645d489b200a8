import type { Advice } from "@/core/decide/advise";
import type { StandingAdvice } from "@/features/decide/kept";
import type { NextView } from "@/features/decide/next";
import { useAsked } from "./useAsked";

type Got = { advice: Advice | null; at: string | null; fresh: boolean; failed: boolean };

async function askFor(tag: string): Promise<StandingAdvice> {
  const response = await fetch(`/api/advice/${encodeURIComponent(tag)}`, { cache: "no-store" });
  const reply = (await response.json()) as { ok: boolean; value: StandingAdvice };
  if (!reply.ok) throw new Error("no advice");
  return reply.value;
}

/** The advice on a unit: at once what is kept, with its age, and then what holds now. */
export function useAdvice(tag: string, next: NextView | null): Got {
  const kept = next?.kept ?? null;
  const asked = useAsked(!next || kept?.fresh ? null : next.digest, () => askFor(tag));
  const now = kept?.fresh ? kept : asked.fresh && asked.value;
  if (now) return { advice: now.advice, at: now.at, fresh: true, failed: false };
  const before = kept ?? asked.value;
  return { advice: before?.advice ?? null, at: before?.at ?? null, fresh: false, failed: asked.failed };
}
