import type { Day } from "../days/days";

/** The maker's cover of a unit, as it was told at the door. */
export type MakersCover = {
  makersCover: "not-asked" | "runs" | "over";
  /** its last day; null where nobody knows it */
  coverUntil: Day | null;
  /** who agreed that opening may void it */
  coverGiven: string;
};

/** Whether it runs on a day: until its last one, or as it was told where that is not known. */
export const isUnderCover = ({ makersCover, coverUntil }: MakersCover, today: Day): boolean =>
  makersCover === "runs" && (coverUntil === null || today <= coverUntil);

/** Whether opening the unit would void a cover that nobody has let go. */
export const holdsTheShell = (cover: MakersCover, today: Day): boolean =>
  isUnderCover(cover, today) && cover.coverGiven.trim() === "";
