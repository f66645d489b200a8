"use client";

import { useState } from "react";

import type { Mark } from "@/contract/intake";
import type { ModelProfile } from "@/core/profile/profile";
import { PlanView } from "./PlanView";

type Props = {
  profile: ModelProfile;
  revision: string | null;
  marks: readonly Mark[];
  states?: Parameters<typeof PlanView>[0]["states"];
};

/** A unit with its marks of wear, front and back: turned over by hand, or by t while it has the focus. */
export function MarkedPlan({ profile, revision, marks, states = {} }: Props) {
  const [side, setSide] = useState<"front" | "back">("front");
  return (
    <PlanView
      profile={profile}
      revision={revision}
      marks={marks}
      states={states}
      side={side}
      zoom
      onTurn={() => setSide(side === "front" ? "back" : "front")}
    />
  );
}
