import { z } from "zod";

/** What is written down at the door: the shape of unit.intake and of the intake form. */

const text = (max: number) => z.string().trim().max(max);

export const MARK_KINDS = ["scratch", "scuff", "crack", "chewed", "sticky", "stain", "label-glue", "missing-piece"] as const;
export const GRADES_OF_CONDITION = ["none", "slight", "strong"] as const;

export const markSchema = z.strictObject({
  kind: z.enum(MARK_KINDS),
  x: z.number().min(-20).max(600),
  y: z.number().min(-20).max(600),
  words: text(120).default(""),
});

export const intakeSchema = z.strictObject({
  v: z.literal(1).default(1),
  smell: z.enum(GRADES_OF_CONDITION).default("none"),
  grime: z.enum(GRADES_OF_CONDITION).default("none"),
  rattle: z.enum(["none", "metal", "plastic", "unsure"]).default("none"),
  openedBefore: z.boolean().default(false),
  history: text(1000).default(""),
  remark: text(1000).default(""),
  marks: z.array(markSchema).max(60).default([]),
  /** ids of the profile's accessories that came with it */
  accessories: z.array(z.string().max(60)).max(40).default([]),
});
export type Intake = z.infer<typeof intakeSchema>;
export type Mark = z.infer<typeof markSchema>;
