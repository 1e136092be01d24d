// Parts of a lettering painted by hand, as a document has them (mabrel/title/part_paints.py), and
// the parts that the engine tells of.
import type { components } from "@/api/schema";
import type { Point } from "./card";

export type BrokenPart = components["schemas"]["BrokenPart"];
export type PaintKind = "front" | "facet" | "side" | "outline";
export interface Brush {
  fill?: string;
  colour?: string;
  second?: string;
  pattern?: string;
  angle?: number;
  size?: number;
  shading?: number;
}
export interface PartPaint extends Brush {
  kind?: PaintKind;
  letter?: string;
  facing?: number | null;
  place?: [number, number] | null;
}
export interface PartPaints {
  parts?: PartPaint[];
}
/** How far a paint goes: one part, what faces its way in the letter or in all, all of its kind. */
export const SCOPES = ["part", "letter", "alike", "kind"] as const;
export type Scope = (typeof SCOPES)[number];

const PAINTED: readonly string[] = ["front", "facet", "side", "outline"];
const MOST = 2000;

export const canBePainted = (part: BrokenPart): boolean => PAINTED.includes(part.kind);

/** What a paint of so much reach holds for. */
export function addressOf(part: BrokenPart, scope: Scope): PartPaint {
  const kind = part.kind as PaintKind;
  if (scope === "kind") return { kind };
  if (scope === "alike") return { kind, facing: part.facing };
  if (scope === "letter") return { kind, letter: part.letter, facing: part.facing };
  return { kind, letter: part.letter, facing: part.facing, place: [part.place[0]!, part.place[1]!] };
}
export function scopeOf(paint: PartPaint): Scope {
  if (paint.place) return "part";
  if (paint.letter) return "letter";
  return paint.facing == null ? "kind" : "alike";
}
function sameAddress(a: PartPaint, b: PartPaint): boolean {
  const told = ({ kind, letter, facing, place }: PartPaint) => JSON.stringify([kind, letter ?? "", facing ?? null, place ?? null]);
  return told(a) === told(b);
}
export function brushOf({ fill, colour, second, pattern, angle, size, shading }: PartPaint): Brush {
  const all = { fill, colour, second, pattern, angle, size, shading };
  return Object.fromEntries(Object.entries(all).filter(([, value]) => value !== undefined));
}

/** Which paint falls on a part, -1 for none: its own as it was just made, or as the engine told. */
export function ownerOf(paints: readonly PartPaint[], part: BrokenPart): number {
  const own = addressOf(part, "part");
  const made = paints.findIndex((each) => sameAddress(each, own));
  if (made >= 0 || part.painted === null) return made;
  const told = paints[part.painted];
  return told && mayFallOn(told, part) ? part.painted : -1; // else the list has changed since
}
function mayFallOn(paint: PartPaint, part: BrokenPart): boolean {
  if ((paint.kind ?? "front") !== part.kind || (paint.letter && paint.letter !== part.letter)) return false;
  return paint.facing == null || part.facing === null || degreesApart(paint.facing, part.facing) <= 60;
}
/** Between two ways, 0..180. */
export function degreesApart(a: number, b: number): number {
  return Math.abs(((((a - b) % 360) + 540) % 360) - 180);
}

/** With a brush for each of these parts, as far as `scope` goes; paints for one alone stay. */
export function withBrush(paints: readonly PartPaint[], parts: readonly BrokenPart[], scope: Scope, brush: Brush): PartPaint[] {
  const next = [...paints];
  for (const part of parts) {
    const owner = paints[ownerOf(paints, part)];
    // The part's own paint is found again where it lies; one that goes further by what it holds for.
    const own = owner && scopeOf(owner) === scope ? owner : addressOf(part, scope);
    const at = next.findIndex((each) => sameAddress(each, own));
    const paint = { ...brush, ...addressed(own) };
    if (at >= 0) next[at] = paint;
    else if (next.length < MOST) next.push(paint);
  }
  return next;
}
function addressed({ kind, letter, facing, place }: PartPaint): PartPaint {
  return { kind, ...(letter ? { letter } : {}), ...(facing == null ? {} : { facing }), ...(place ? { place } : {}) };
}
/** Without the paints that fall on these parts. */
export function withoutPaint(paints: readonly PartPaint[], parts: readonly BrokenPart[]): PartPaint[] {
  const gone = new Set(parts.map((part) => ownerOf(paints, part)));
  return paints.filter((_, index) => !gone.has(index));
}

/** The part that lies nearest to a place in a direction; null where there is none. */
export function towards(parts: readonly BrokenPart[], from: BrokenPart, [dx, dy]: readonly [number, number]): BrokenPart | null {
  let best: BrokenPart | null = null;
  let least = Infinity;
  for (const part of parts) {
    const x = part.middle[0]! - from.middle[0]!;
    const y = part.middle[1]! - from.middle[1]!;
    const along = x * dx + y * dy;
    const aside = Math.abs(x * dy - y * dx);
    if (part === from || along <= 0.5) continue;
    const away = along + 2.5 * aside;
    if (away < least) [best, least] = [part, away];
  }
  return best;
}

const BELOW: Record<string, number> = { shadow: 0.9, back: 0.7, outline: 0.5 };
const LETTERS_GO = 0.9;
const PARTS_GO = 0.7;
export interface Spread {
  /** How far each part moves, in frame pixels. */
  moves: Point[];
  /** What everything shrinks to about the middle, so that it stays in sight. */
  middle: Point;
  size: number;
}
/** Parts spread by a share: away from their letter, which moves away from all; what lies beneath,
 * downwards. */
export function spreadOf(parts: readonly BrokenPart[], share: number): Spread {
  const mean = (of: readonly BrokenPart[], axis: number) => of.reduce((sum, each) => sum + each.middle[axis]!, 0) / Math.max(of.length, 1);
  const lettered = parts.filter((each) => each.letter);
  const whole = lettered.length ? lettered : parts;
  const middle = { x: mean(whole, 0), y: mean(whole, 1) };
  const letters = new Map<string, Point>();
  for (const letter of new Set(whole.map((each) => each.letter))) {
    const own = whole.filter((each) => each.letter === letter);
    letters.set(letter, { x: mean(own, 0), y: mean(own, 1) });
  }
  const levels = whole.map((each) => each.middle[1]!);
  const high = Math.max(...levels) - Math.min(...levels);
  const moves = parts.map((part) => {
    const from = letters.get(part.letter);
    if (!from) return { x: 0, y: (BELOW[part.kind] ?? 0) * share * high };
    return {
      x: share * ((from.x - middle.x) * LETTERS_GO + (part.middle[0]! - from.x) * PARTS_GO),
      y: share * ((from.y - middle.y) * LETTERS_GO + (part.middle[1]! - from.y) * PARTS_GO),
    };
  });
  return { moves, middle, size: 1 / (1 + LETTERS_GO * share) };
}
