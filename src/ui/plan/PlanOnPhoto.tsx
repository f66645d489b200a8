"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import type { Mark } from "@/contract/intake";
import { inverse, moved, type Place, similarity, type Similarity } from "@/core/math/similarity";
import { controlsOf, type ModelProfile, placeName, type ProfileControl } from "@/core/profile/profile";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { Row, Text } from "@/ui/kit/layout";
import { say } from "@/words/kit";
import { PlanView } from "./PlanView";

export type Photograph = { id: string; width: number; height: number };
type Props = {
  profile: ModelProfile;
  revision: string | null;
  marks: readonly Mark[];
  label: string;
  onPlace: (x: number, y: number) => void;
  photos: readonly Photograph[];
  side?: "front" | "back";
};

/** The two controls of the front that lie farthest apart: by them a photograph is laid under the drawing most exactly. */
export function farthestApart(controls: readonly ProfileControl[]): [ProfileControl, ProfileControl] | null {
  const seen = controls.filter((c) => c.kind === "stick" || (c.kind === "button" && c.shape !== "paddle"));
  let best: [ProfileControl, ProfileControl] | null = null;
  let most = 0;
  for (const [i, a] of seen.entries())
    for (const b of seen.slice(i + 1)) {
      const far = Math.hypot(a.at.x - b.at.x, a.at.y - b.at.y);
      if (far > most) [most, best] = [far, [a, b]];
    }
  return best;
}

/** The whole photograph in the middle of the plan, before anything is known of where it belongs. */
function laidIn({ width, height }: Photograph, plan: ModelProfile["plan"]): Similarity {
  const a = Math.min(plan.width / width, plan.height / height);
  return { a, b: 0, e: (plan.width - a * width) / 2, f: (plan.height - a * height) / 2 };
}

/**
 * The plan to place marks on, with a photograph of the unit behind it once two controls were tapped on it: what is seen there
 * is then marked where it is.
 */
export function PlanOnPhoto({ profile, revision, marks, label, onPlace, photos, side = "front" }: Props) {
  const [chosen, setChosen] = useState("");
  const [taps, setTaps] = useState<Place[]>([]);
  // by controls a photograph is laid, and the back has none
  const photo = side === "front" ? photos.find((p) => p.id === chosen) : undefined;
  const pair = farthestApart(controlsOf(profile, revision));
  const choose = (id: string) => {
    setChosen(id);
    setTaps([]);
  };
  const first = photo && laidIn(photo, profile.plan);
  const [p1, p2] = taps;
  const fit = p1 && p2 && pair ? similarity([p1, p2], [placeOn(pair[0]), placeOn(pair[1])]) : null;
  const asked = photo && pair && !fit ? pair[taps.length === 1 ? 1 : 0] : null;
  const tap = (x: number, y: number) => {
    if (!asked) return onPlace(x, y);
    const at = moved(inverse(first!)!, [x, y]);
    setTaps(taps.length === 1 ? [...taps, at] : [at]); // two on one place lay nothing: both are asked anew
  };
  return (
    <Box sx={{ display: "grid", gap: 1 }}>
      {photos.length > 0 && side === "front" && (
        <Row gap={1} at="center">
          <NativeSelect
            label={say("behindTheDrawing")}
            value={chosen}
            onChange={(e) => choose(e.target.value)}
          >
            <option value="">{say("noPhotograph")}</option>
            {photos.map((p, i) => (
              <option key={p.id} value={p.id}>
                {say("photographNumber", { number: i + 1 })}
              </option>
            ))}
          </NativeSelect>
          {asked && <Text role="status">{say("tapTheMiddleOf", { control: placeName(asked) })}</Text>}
          {fit && (
            <Button size="small" onClick={() => setTaps([])}>
              {say("layItAnew")}
            </Button>
          )}
        </Row>
      )}
      <Box
        sx={{
          height: photo ? { xs: 260, md: 360 } : 230,
          border: 1,
          borderColor: "divider",
          borderRadius: 1,
          bgcolor: "background.paper",
        }}
      >
        <PlanView
          profile={profile}
          revision={revision}
          marks={marks}
          onPlace={tap}
          label={label}
          side={side}
          photo={
            photo
              ? { ...photo, href: `/api/photos/${photo.id}`, fit: fit ?? first!, alone: asked !== null }
              : null
          }
        />
      </Box>
    </Box>
  );
}

const placeOn = (c: ProfileControl): Place => [c.at.x, c.at.y];
