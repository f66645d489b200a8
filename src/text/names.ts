/** A person's sign-in name as it is written in a sentence. */
export const personName = (name: string): string => name.slice(0, 1).toUpperCase() + name.slice(1);
