/**
 * The sizes of type, from the finest print to a figure that is read across the bench. A page takes one of
 * these and no other: the linter refuses a size of its own. Space comes in steps of the theme (8 px), colour
 * by its role from the theme's palette.
 */
export const SIZE = {
  fine: "0.8rem",
  small: "0.88rem",
  body: "1rem",
  lead: "1.15rem",
  title: "1.3rem",
  head: "1.6rem",
  figure: "2rem",
  big: "2.4rem",
  huge: "3.4rem",
  giant: "5rem",
} as const;
