"use client";

import { useEffect, useState } from "react";

/**
 * Asks something slow whenever its key changes, and gives the newest answer; an answer that comes after a
 * newer question is dropped. Null while the first is awaited; `failed` when it could not be worked out.
 */
export function useAsked<T>(
  key: string | null,
  ask: () => Promise<T>,
): { value: T | null; fresh: boolean; failed: boolean } {
  const [answer, setAnswer] = useState<{ key: string; value: T | null } | null>(null);
  useEffect(() => {
    if (key === null) return;
    let current = true;
    ask().then(
      (value) => current && setAnswer({ key, value }),
      () => current && setAnswer({ key, value: null }),
    );
    return () => {
      current = false;
    };
    // the key stands for everything that is asked
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  const fresh = answer !== null && answer.key === key;
  return { value: answer?.value ?? null, fresh, failed: fresh && answer.value === null };
}
