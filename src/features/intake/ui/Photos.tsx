"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useRouter } from "next/navigation";
import { useRef, useState } from "react";

import type { Refusal } from "@/contract/refusals";
import type { PhotoHead } from "@/features/intake/photos";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { say } from "@/features/intake/words/words";
import type { Id } from "@/core/base/ids";
import { Block, Row } from "@/ui/kit/layout";

type PhotosProps = {
  unitId: Id<"unit">;
  photos: PhotoHead[];
  canWork: boolean;
};

/** What Photos knows and does; the components below only show it. */
function usePhotos({ unitId, photos, canWork }: PhotosProps) {
  const router = useRouter();
  const input = useRef<HTMLInputElement>(null);
  const [sending, setSending] = useState(0);
  const [problem, setProblem] = useState<Refusal | null>(null);
  const remove = useDeed("photo.remove");

  async function add(files: FileList | null) {
    setProblem(null);
    const chosen = [...(files ?? [])];
    setSending(chosen.length);
    for (const file of chosen) {
      try {
        const response = await fetch(`/api/photos?unit=${unitId}`, { method: "POST", body: file });
        const reply = (await response.json()) as { ok: boolean; problem?: Refusal };
        if (!reply.ok) setProblem(reply.problem ?? { code: "busy" });
      } catch {
        setProblem({ code: "away" });
      }
      setSending((n) => n - 1);
    }
    if (input.current) input.current.value = "";
    router.refresh();
  }
  return { photos, canWork, input, sending, problem, remove, add };
}
type PhotosState = ReturnType<typeof usePhotos>;

/** Photographs of the unit: from a file, or straight from a phone's camera. */
export function Photos(props: PhotosProps) {
  const s = usePhotos(props);
  const { photos, problem, remove } = s;

  return (
    <Block before={3}>
      <PhotosHead {...s} />
      <Problem problem={problem ?? remove.problem} />
      {photos.length === 0 && <Typography color="text.secondary">{say("noneYetOpenThisPageOn")}</Typography>}
      <PhotoList {...s} />
    </Block>
  );
}

function PhotosHead({ canWork, sending, input, add }: PhotosState) {
  return (
    <Row gap={2} after={1} oneLine at="center">
      <Typography component="h2" variant="h2">
        {say("photographs")}
      </Typography>
      {canWork && (
        <Button variant="outlined" component="label" disabled={sending > 0}>
          {sending > 0 ? say("sendingSending", { sending }) : say("addPhotographs")}
          <input
            ref={input}
            type="file"
            accept="image/*"
            capture="environment"
            multiple
            hidden
            aria-label={say("addPhotographs")}
            onChange={(e) => void add(e.target.files)}
          />
        </Button>
      )}
    </Row>
  );
}

function PhotoList({ photos, canWork, remove }: PhotosState) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "repeat(auto-fill, minmax(130px, 1fr))", gap: 1 }}>
      {photos.map((p, i) => (
        <Box key={p.id} sx={{ position: "relative" }}>
          <a href={`/api/photos/${p.id}`} target="_blank" rel="noreferrer">
            {/* eslint-disable-next-line @next/next/no-img-element -- kept in the database, already cut to size */}
            <img
              src={`/api/photos/${p.id}?small`}
              alt={p.caption || say("photographI", { i: i + 1 })}
              style={{
                width: "100%",
                aspectRatio: "1",
                objectFit: "cover",
                borderRadius: 4,
                display: "block",
              }}
            />
          </a>
          {canWork && (
            <Button size="small" onClick={() => void remove.run({ photoId: p.id })} sx={{ minHeight: 32 }}>
              {say("remove")}
            </Button>
          )}
        </Box>
      ))}
    </Box>
  );
}
