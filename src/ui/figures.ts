import { say } from "@/words/frame";

/** The tabular face for measured figures. */
export const FIGURES = say("atkinsonHyperlegibleMonoVariable");
