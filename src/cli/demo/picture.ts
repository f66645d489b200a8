import sharp from "sharp";

import type { ModelProfile } from "@/core/profile/profile";

/** A made-up photograph for the demo: the model's outline on a bench mat, so that no real thing is shown. */
export async function demoPicture(profile: ModelProfile, seed: number): Promise<Buffer> {
  const { width, height, outlines } = profile.plan;
  const shapes = outlines
    .map(
      (o) =>
        `<polygon points="${o.points.map((p) => p.join(",")).join(" ")}" fill="#3c4543" stroke="#20282a" stroke-width="2"/>`,
    )
    .join("");
  const dots = profile.controls
    .map((c) => `<circle cx="${c.at.x}" cy="${c.at.y}" r="4" fill="#7d8a86"/>`)
    .join("");
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="1200" height="900" viewBox="-30 -30 ${width + 60} ${height + 60}">
    <rect x="-200" y="-200" width="900" height="900" fill="#b9b39b"/>
    <g transform="rotate(${((seed * 37) % 24) - 12} ${width / 2} ${height / 2})">${shapes}${dots}</g></svg>`;
  return sharp(Buffer.from(svg)).jpeg({ quality: 80 }).toBuffer();
}
