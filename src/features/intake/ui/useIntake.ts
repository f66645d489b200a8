"use client";

import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { useForm, useWatch } from "react-hook-form";

import type { Settings } from "@/contract/deeds";
import type { Origin } from "@/contract/intake";
import { readAmount, readOptionalAmount } from "@/text/format";
import type { ModelProfile } from "@/core/profile/profile";
import { say } from "@/features/intake/words/words";
import { typedAmount } from "@/text/format";
import { useDeed } from "@/ui/deed/useDeed";
import { slotsOf } from "@/ui/form/slots";
import { fieldRule, fieldWrong } from "@/ui/form/typed";
import { modelMeant } from "./ModelField";
import { dropDraft, keepDraft, readDraft, typedBefore, typedUntilNow } from "./draft";
import { mateOf } from "./MateFields";
import { EMPTY, type IntakeFields } from "./fields";

export type Props = {
  models: ModelProfile[];
  lots: { id: string; code: string; seller: string }[];
  customers: { id: string; name: string }[];
  nextTag: string;
  /** how many of the nine trays are free */
  freeTrays: number;
  shop: Settings;
  /** the kept listing that it came from: its words, price and seller are filled in */
  listing: {
    id: string;
    modelKey: string;
    words: string;
    seller: string;
    priceMinor: number;
    carriageMinor: number;
  } | null;
};

export const FORM = "intake";

/** A field that was filled in by us keeps its label out of the way. */
const labelOver = (value: string) => (value ? { inputLabel: { shrink: true } } : {});

type Way =
  | "origin.seller"
  | "origin.priceMinor"
  | "origin.carriageMinor"
  | "origin.count"
  | "intake.costLimitMinor"
  | "intake.differs"
  | "intake.cellsAt"
  | "claim";

/** The deed's own rule for a field, where something is typed. */
export const fits = (way: Way) => (v: string) =>
  v.trim() === "" || (fieldWrong("unit.take-in", way, v) ?? true);

export const must = (way: Way) => (v: string) => fieldWrong("unit.take-in", way, v) ?? true;

export const slots = (way: Way, value: string) => ({
  ...slotsOf(fieldRule("unit.take-in", way), undefined),
  ...labelOver(value),
});

function originOf(f: IntakeFields): Origin {
  if (f.source === "lot") return { source: "lot", lotId: f.lotId, count: Number(f.count.trim() || "1") };
  if (f.source === "customer") return { source: "customer", customerId: f.customerId };
  return {
    source: "single",
    seller: f.seller,
    priceMinor: readAmount(f.price) ?? 0,
    carriageMinor: readOptionalAmount(f.carriage) ?? 0,
  };
}

/** What comes with a model when nothing is known to be missing. */
export const ofModel = (
  model: ModelProfile | null,
): Pick<IntakeFields, "model" | "modelText" | "revision" | "accessories"> => ({
  model,
  modelText: model?.name ?? "",
  revision: model?.revisions.length === 1 ? model.revisions[0]!.id : "",
  accessories: model?.accessories.map((a) => a.id) ?? [],
});

function fromListing(l: NonNullable<Props["listing"]>, models: ModelProfile[]): IntakeFields {
  const model = models.find((m) => m.id === l.modelKey) ?? null;
  return {
    ...EMPTY,
    ...ofModel(model),
    seller: l.seller,
    claim: l.words,
    price: typedAmount(l.priceMinor),
    carriage: typedAmount(l.carriageMinor),
  };
}

/** What is sent of the fields as they were left. */
const intakeOf = (v: IntakeFields) => ({
  v: 1 as const,
  smell: v.smell,
  grime: v.grime,
  rattle: v.rattle,
  hygiene: v.hygiene,
  openedBefore: v.openedBefore || v.handsLeft.length > 0,
  handsLeft: v.handsLeft,
  told: v.told,
  cells: v.cells,
  makersCover: v.makersCover,
  coverUntil: v.makersCover === "runs" && v.coverUntil ? v.coverUntil : null,
  coverGiven: "",
  mate: mateOf(v.mate),
  cellsAt: v.cells === "taken-out" ? v.cellsAt : "",
  history: v.history,
  remark: v.remark,
  marks: v.marks,
  accessories: v.accessories,
  parcel: v.parcel,
  differs: v.differs,
  costLimitMinor: v.source === "customer" && v.costLimit.trim() ? readAmount(v.costLimit) : null,
  use: v.use,
});

/** The next one out of a lot is most often another of the same. */
const nextAfter = (v: IntakeFields): IntakeFields => ({
  ...EMPTY,
  ...(v.source === "lot" ? ofModel(v.model) : {}),
  source: v.source,
  lotId: v.lotId,
  customerId: v.customerId,
  seller: v.seller,
});

type Early = ReturnType<typeof typedUntilNow>;

/** The fields as they were left, and over them what was typed before the page was alive; null: neither. */
function fieldsToStart(
  typedEarly: Early,
  draft: ReturnType<typeof readDraft>,
  models: ModelProfile[],
  start: IntakeFields,
): IntakeFields | null {
  if (!draft && Object.keys(typedEarly).length === 0) return null;
  const { modelId = null, ...kept } = draft ?? {};
  const early = Object.fromEntries(
    Object.entries(typedEarly).filter(([name]) => name in EMPTY && name !== "model"),
  );
  // words that are still being typed are read when the field is left, as ever
  const typing = document.activeElement?.getAttribute("name") === "model";
  const meant = typedEarly.model && !typing ? modelMeant(typedEarly.model, models) : null;
  return {
    ...start,
    ...kept,
    ...(meant ? ofModel(meant) : {}),
    ...early,
    model: typedEarly.model ? meant : (models.find((m) => m.id === modelId) ?? start.model),
    modelText: meant?.name ?? typedEarly.model ?? draft?.modelText ?? start.modelText,
  };
}

/** The form, with what was left in it and what was typed too early. */
function useFields({ models, listing }: Props) {
  const [seenEarly] = useState(() => typedBefore(FORM));
  const [restored, setRestored] = useState(false);
  const form = useForm<IntakeFields>({
    defaultValues: listing ? fromListing(listing, models) : EMPTY,
  });
  const { control, reset, formState } = form;
  const f = useWatch({ control }) as IntakeFields;
  const listingId = listing?.id ?? null;
  useEffect(() => {
    const draft = readDraft(listingId);
    const start = listing ? fromListing(listing, models) : EMPTY;
    const fields = fieldsToStart(typedUntilNow(FORM, seenEarly), draft, models, start);
    if (!fields) return;
    reset(fields, { keepDefaultValues: true });
    // eslint-disable-next-line react-hooks/set-state-in-effect -- this window's own store is there only after hydration
    setRestored(draft !== null);
  }, [reset, listing, listingId, models, seenEarly]);
  const changed = formState.isDirty || restored;
  useEffect(() => {
    if (changed) keepDraft(listingId, f);
  }, [changed, listingId, f]);
  const forget = () => {
    dropDraft();
    setRestored(false);
  };
  return { ...form, f, restored, forget };
}

/** What IntakeForm knows and does; the components below only show it. */
export function useIntake(props: Props) {
  const { models, lots, customers, nextTag, freeTrays, shop, listing } = props;
  const router = useRouter();
  const { control, register, handleSubmit, setValue, reset, formState, f, restored, forget } =
    useFields(props);
  const takeIn = useDeed("unit.take-in");
  const [dialog, setDialog] = useState<"lot" | "customer" | null>(null);
  const [taken, setTaken] = useState<string | null>(null);
  const startAnew = () => {
    forget();
    reset(listing ? fromListing(listing, models) : EMPTY);
  };
  const { errors } = formState;
  const model = f.model;
  const missing = model?.accessories.filter((a) => !f.accessories.includes(a.id)) ?? [];

  const save = (another: boolean) =>
    handleSubmit(async (v) => {
      const done = await takeIn.run({
        profileKey: v.model!.id,
        revision: v.revision || null,
        origin: originOf(v),
        claim: v.claim,
        swollen: v.swollen,
        liquid: v.liquid,
        intake: intakeOf(v),
        toTray: !another,
        listingId: listing?.id ?? null,
      });
      if (!done?.ok) return;
      forget();
      const { tags } = done.value;
      if (another) {
        setTaken(tags.join(", "));
        reset(nextAfter(v));
      } else if (tags.length > 1) router.push(`/labels?kind=unit&codes=${tags.join(",")}`);
      else router.push(`/units/${done.value.tag}${v.swollen ? "/intake" : ""}`);
    });

  const takeInWords = () => {
    if (f.source === "lot" && Number(f.count) > 1) return say("takeInMany", { count: f.count });
    if (f.swollen) return say("takeInToQuarantine");
    if (freeTrays > 0) return say("takeInToATray");
    return say("takeInWithoutATray");
  };
  return {
    models,
    lots,
    customers,
    nextTag,
    freeTrays,
    shop,
    restored,
    control,
    register,
    setValue,
    takeIn,
    dialog,
    setDialog,
    taken,
    f,
    startAnew,
    errors,
    model,
    missing,
    save,
    takeInWords,
  };
}

export type IntakeState = ReturnType<typeof useIntake>;
