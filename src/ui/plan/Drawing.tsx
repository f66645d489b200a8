"use client";

import Box from "@mui/material/Box";
import IconButton from "@mui/material/IconButton";
import Flip from "@mui/icons-material/Flip";
import Add from "@mui/icons-material/Add";
import FitScreen from "@mui/icons-material/FitScreen";
import Remove from "@mui/icons-material/Remove";
import type { KeyboardEvent, PointerEvent, ReactNode } from "react";
import { TransformComponent, TransformWrapper, useControls } from "react-zoom-pan-pinch";

import { say } from "@/words/kit";
import { useScale } from "./scale";

/** Where a drawing begins and how far it goes, in its own lengths. */
export type Extent = { x: number; y: number; width: number; height: number };

type DrawingProps = {
  extent: Extent;
  label: string;
  /** a picture is one thing to whoever listens to the page; a group has parts that can be reached */
  role: "img" | "group";
  /** can be brought nearer: by hand, pinch, wheel with Control, and by + - 0 while it has the focus */
  zoom?: boolean;
  /** it has another side: by hand, and by t while it has the focus */
  onTurn?: () => void;
  cursor?: string;
  onPointerDown?: (e: PointerEvent<SVGSVGElement>) => void;
  /** what is drawn, by how many pixels a unit of length takes */
  children: (scale: number) => ReactNode;
};

/** The one frame of every drawing: of a unit, a face of it, a board. It knows its scale, and can be brought nearer. */
export function Drawing({
  extent,
  label,
  role,
  zoom = false,
  onTurn,
  cursor,
  onPointerDown,
  children,
}: DrawingProps) {
  const [ref, scale] = useScale(extent.width, extent.height);
  const drawn = (
    <svg
      ref={ref}
      viewBox={`${extent.x} ${extent.y} ${extent.width} ${extent.height}`}
      role={role}
      aria-label={label}
      style={{ width: "100%", height: "100%", display: "block", touchAction: "manipulation", cursor }}
      onPointerDown={onPointerDown}
    >
      {children(scale)}
    </svg>
  );
  return zoom ? <Nearer onTurn={onTurn}>{drawn}</Nearer> : drawn;
}

const MOST = 6;
const FILL = { width: "100%", height: "100%" } as const;
/** The keys of nearness lie over the drawing: they stay out of its way until a hand or the focus is on it. */
const UNSEEN_UNTIL_NEEDED = {
  "@media (hover: hover)": { "& .nearer": { opacity: 0 } },
  "&:hover .nearer, &:focus-within .nearer": { opacity: 1 },
} as const;

type NearerProps = { onTurn: (() => void) | undefined; children: ReactNode };

function Nearer({ onTurn, children }: NearerProps) {
  return (
    <TransformWrapper
      minScale={1}
      maxScale={MOST}
      centerZoomedOut
      wheel={{ activationKeys: ["Control"] }}
      doubleClick={{ mode: "toggle" }}
    >
      <WithKeys onTurn={onTurn}>
        <TransformComponent wrapperStyle={FILL} contentStyle={FILL}>
          {children}
        </TransformComponent>
      </WithKeys>
    </TransformWrapper>
  );
}

function WithKeys({ onTurn, children }: NearerProps) {
  const { zoomIn, zoomOut, resetTransform } = useControls();
  const acts: Record<string, () => unknown> = {
    "+": () => zoomIn(),
    "-": () => zoomOut(),
    "0": () => resetTransform(),
    ...(onTurn ? { t: onTurn } : {}),
  };
  const onKeyDown = (e: KeyboardEvent) => {
    const act = acts[e.key];
    if (!act) return;
    e.preventDefault();
    e.stopPropagation(); // its keys are its own while it has the focus
    act();
  };
  return (
    <Box onKeyDown={onKeyDown} sx={{ position: "relative", ...FILL, ...UNSEEN_UNTIL_NEEDED }}>
      {children}
      <Box className="no-print" sx={{ position: "absolute", right: 4, top: 4, display: "grid" }}>
        {onTurn && (
          <IconButton size="small" aria-label={say("turnItOver")} onClick={onTurn}>
            <Flip fontSize="small" />
          </IconButton>
        )}
        <Box className="nearer" sx={{ display: "grid" }}>
          <IconButton size="small" aria-label={say("nearer")} onClick={() => void zoomIn()}>
            <Add fontSize="small" />
          </IconButton>
          <IconButton size="small" aria-label={say("farther")} onClick={() => void zoomOut()}>
            <Remove fontSize="small" />
          </IconButton>
          <IconButton size="small" aria-label={say("theWholeOfIt")} onClick={() => void resetTransform()}>
            <FitScreen fontSize="small" />
          </IconButton>
        </Box>
      </Box>
    </Box>
  );
}
