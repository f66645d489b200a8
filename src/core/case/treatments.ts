/** How a part was treated: what is replaced is another part; the rest ends only what it can take away. */
export const TREATMENTS = ["replaced", "resoldered", "cleaned", "reseated"] as const;
export type Treatment = (typeof TREATMENTS)[number];
