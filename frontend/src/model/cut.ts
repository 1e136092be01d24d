// Cut-outs: fresh ones, and colours picked in them.
import type { components } from "@/api/schema";

export type Cut = NonNullable<components["schemas"]["PictureSource"]["cut"]>;
export interface Pick {
  x: number;
  y: number;
}

/** A cut to begin with; a cut by colours begins with its first pick, not before. */
export function freshCut(kind: string): Cut | null {
  if (kind === "screen") return { kind, colour: "#00b140", tolerance: 0.1, softness: 1, spill: 1 };
  return null;
}

/** One more colour; without a cut, the first. */
export function withPick(cut: Cut | null, place: Pick): Cut {
  const pick = { x: thousandth(place.x), y: thousandth(place.y) };
  if (cut?.kind === "colours") return { ...cut, picks: [...cut.picks, pick].slice(0, 64) };
  return { kind: "colours", picks: [pick], tolerance: 0.1, contiguous: true, soft: 0, keep: "picked" };
}
function thousandth(value: number): number {
  return Math.round(Math.min(Math.max(value, 0), 1) * 1000) / 1000;
}
