/**
 * The one door to "type your password again": the frame's dialog opens it, whoever was refused for it waits
 * at it.
 */

type Asker = () => Promise<boolean>;
let asker: Asker | null = null;

export function setAsker(next: Asker | null): void {
  asker = next;
}

/** Asks the person for their password; true once the server knows them anew. */
export const confirmPassword = (): Promise<boolean> => asker?.() ?? Promise.resolve(false);
