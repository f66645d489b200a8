/** Units that left with a piece of a bad batch: to them go the letters. A donor or scrap stayed here. */
export const leftTheHouse = (h: { ending: string | null }): boolean =>
  h.ending !== null && h.ending !== "donor" && h.ending !== "scrap";
