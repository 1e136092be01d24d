// Cut-outs: fresh ones, and colours picked in them.
import type { components } from "@/api/schema";
import type { Described } from "./parts";

export type Cut = NonNullable<components["schemas"]["PictureSource"]["cut"]>;
export interface Pick {
  x: number;
  y: number;
}

/** A cut to begin with; a cut by colours begins with its first pick, not before. */
export function freshCut(kind: string, told: Described): Cut | null {
  return kind === "screen" ? ({ kind, ...standards("screen", told) } as Cut) : null;
}

/** One more colour; without a cut, the first. */
export function withPick(cut: Cut | null, place: Pick, told: Described): Cut {
  const pick = { x: thousandth(place.x), y: thousandth(place.y) };
  if (cut?.kind === "colours") return { ...cut, picks: [...cut.picks, pick].slice(0, 64) };
  return { kind: "colours", picks: [pick], ...standards("colours", told) } as Cut;
}
function standards(kind: string, told: Described): Record<string, unknown> {
  return Object.fromEntries(told.model(`cut.${kind}`).map((each) => [each.name, each.default]));
}
function thousandth(value: number): number {
  return Math.round(Math.min(Math.max(value, 0), 1) * 1000) / 1000;
}
