import { type RefObject, useEffect, useRef, useState } from "react";

/** Pixels a millimetre before the page is laid out: about what a plan of a third of a page has. */
const AT_FIRST = 3;

/**
 * How many pixels a unit of a drawing takes as it is laid out, so that what must not be smaller than some pixels is not.
 * Width and height: those of its view box.
 */
export function useScale(width: number, height: number): [RefObject<SVGSVGElement | null>, number] {
  const drawing = useRef<SVGSVGElement>(null);
  const [scale, setScale] = useState(AT_FIRST);
  useEffect(() => {
    const box = drawing.current;
    if (!box || typeof ResizeObserver === "undefined") return;
    const look = new ResizeObserver(([entry]) => {
      const { width: w, height: h } = entry!.contentRect;
      if (w > 0 && h > 0) setScale(Math.min(w / width, h / height));
    });
    look.observe(box);
    return () => look.disconnect();
  }, [width, height]);
  return [drawing, scale];
}
