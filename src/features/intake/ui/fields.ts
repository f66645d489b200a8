import type { Intake, Mark } from "@/contract/intake";
import type { ModelProfile } from "@/core/profile/profile";
import type { Id } from "@/core/base/ids";
import type { TypedMate } from "./MateFields";

export type IntakeFields = {
  model: ModelProfile | null;
  /** what stands in the model's field */
  modelText: string;
  revision: string;
  source: "single" | "lot" | "customer";
  seller: string;
  price: string;
  carriage: string;
  lotId: Id<"lot">;
  /** of a lot: how many that are equal */
  count: string;
  customerId: Id<"customer">;
  claim: string;
  swollen: boolean;
  liquid: boolean;
  marks: Mark[];
  accessories: string[];
  costLimit: string;
  /** the last day of the maker's cover, as it is typed */
  coverUntil: string;
  mate: TypedMate;
} & Pick<
  Intake,
  | "smell"
  | "grime"
  | "rattle"
  | "hygiene"
  | "openedBefore"
  | "handsLeft"
  | "cells"
  | "cellsAt"
  | "makersCover"
  | "told"
  | "history"
  | "remark"
  | "parcel"
  | "differs"
  | "use"
>;

/** What an intake begins with. */
export const EMPTY: IntakeFields = {
  model: null,
  modelText: "",
  revision: "",
  source: "single",
  seller: "",
  price: "",
  carriage: "",
  lotId: "",
  count: "1",
  customerId: "",
  claim: "",
  swollen: false,
  liquid: false,
  marks: [],
  accessories: [],
  smell: "none",
  grime: "none",
  rattle: "none",
  hygiene: "none",
  openedBefore: false,
  handsLeft: [],
  told: [],
  cells: "not-noted",
  cellsAt: "",
  makersCover: "not-asked",
  coverUntil: "",
  mate: null,
  history: "",
  remark: "",
  costLimit: "",
  parcel: "not-noted",
  differs: "",
  use: "unknown",
};
