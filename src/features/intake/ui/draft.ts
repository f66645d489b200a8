import type { IntakeFields } from "./fields";

/**
 * What stands in the intake form, kept in this window until the unit is taken in, so that a reload loses
 * nothing.
 */

const KEY = "birdcage-intake";
type Draft = { listing: string | null; fields: Omit<IntakeFields, "model"> & { modelId: string | null } };

export function keepDraft(listing: string | null, { model, ...fields }: IntakeFields): void {
  try {
    sessionStorage.setItem(
      KEY,
      JSON.stringify({ listing, fields: { ...fields, modelId: model?.id ?? null } } satisfies Draft),
    );
  } catch {
    // a full or forbidden store: the page itself still holds it
  }
}

export function readDraft(listing: string | null): Draft["fields"] | null {
  try {
    const draft = JSON.parse(sessionStorage.getItem(KEY) ?? "null") as Draft | null;
    return draft && draft.listing === listing ? draft.fields : null;
  } catch {
    return null;
  }
}

export const dropDraft = (): void => {
  sessionStorage.removeItem(KEY);
};

/**
 * What was typed up to the moment at which the page is alive: `seen` was read while it woke. Waking empties
 * some fields, and hands do not stop meanwhile, so what stands there now goes on from what was seen, or
 * begins anew behind it.
 */
export function typedUntilNow(form: string, seen: Readonly<Record<string, string>>): Record<string, string> {
  const now = typedBefore(form);
  return Object.fromEntries(
    Object.entries(seen).map(([name, was]) => {
      const is = now[name] ?? "";
      return [name, is.startsWith(was) ? is : was + is];
    }),
  );
}

/**
 * What was typed into the form's fields before the page was alive; read while the page wakes, since waking
 * empties them.
 */
export function typedBefore(form: string): Record<string, string> {
  if (typeof document === "undefined") return {};
  const fields = document.querySelectorAll<HTMLInputElement | HTMLTextAreaElement>(
    `[data-form="${form}"] :is(input, textarea)[name]`,
  );
  return Object.fromEntries(
    [...fields]
      .filter((f) => f.type !== "checkbox" && f.value !== "" && f.value !== f.defaultValue)
      .map((f) => [f.name, f.value]),
  );
}
