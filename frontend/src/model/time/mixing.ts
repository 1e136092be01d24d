// Between two values of one kind: the engine's own (mabrel/title/mixing.py) in the page.
import { valueAt as curveAt } from "@/model/curve";
import type { Spot, Stop } from "@/model/title";
import { mixedCodes } from "./codes";

type Pair = [number, number, ...number[]];

/** What mixes how, by the kind of a setting; anything else holds until the later peg. */
export function mix(kind: string, a: unknown, b: unknown, share: number): unknown {
  if (NUMBERS.has(kind)) return number(a as number, b as number, share);
  switch (kind) {
    case "colour":
      return mixedCodes(a as string, b as string, share);
    case "point":
      return pair(a as Pair, b as Pair, share);
    case "points":
      return pairs(a as Pair[], b as Pair[], share, withCorner);
    case "curve":
      return pairs(a as Pair[], b as Pair[], held(share), withPoint);
    case "stops":
      return stops(a as Stop[], b as Stop[], held(share));
    case "spots":
      return spots(a as Spot[], b as Spot[], held(share));
    default:
      return a;
  }
}
const NUMBERS = new Set(["length", "angle", "fraction", "number", "count", "seed"]);
export const isNumeric = (kind: string): boolean => NUMBERS.has(kind);
/** Of these kinds values may drift. */
export const drifts = (kind: string): boolean => isNumeric(kind) || kind === "colour" || kind === "point";

const number = (a: number, b: number, share: number) => a + (b - a) * share;
const held = (share: number) => Math.min(Math.max(share, 0), 1);
const pair = (a: Pair, b: Pair, share: number) => a.map((each, i) => number(each, b[i]!, share)) as Pair;

function filled<T>(short: T[], long: readonly unknown[], oneMore: (list: T[]) => T[]): T[] {
  let list = short;
  while (list.length < long.length) list = oneMore(list);
  return list;
}
function pairs(a: Pair[], b: Pair[], share: number, oneMore: (list: Pair[]) => Pair[]): Pair[] {
  const [from, to] = [filled(a, b, oneMore), filled(b, a, oneMore)];
  return from.map((each, i) => pair(each, to[i]!, share));
}
function stops(a: Stop[], b: Stop[], share: number): Stop[] {
  const [from, to] = [filled(a, b, withStop), filled(b, a, withStop)];
  return from.map((each, i) => ({
    place: number(each.place, to[i]!.place, share),
    colour: mixedCodes(each.colour, to[i]!.colour, share),
    midpoint: number(each.midpoint ?? 0.5, to[i]!.midpoint ?? 0.5, share),
  }));
}
function spots(a: Spot[], b: Spot[], share: number): Spot[] {
  const nearest = (spot: Spot, others: Spot[]) =>
    others.reduce((best, each) => (away(each, spot) < away(best, spot) ? each : best));
  const count = Math.max(a.length, b.length);
  return Array.from({ length: count }, (_, i) => {
    const from = a[i] ?? nearest(b[i]!, a);
    const to = b[i] ?? nearest(a[i]!, b);
    return {
      x: number(from.x, to.x, share), y: number(from.y, to.y, share), colour: mixedCodes(from.colour, to.colour, share),
    };
  });
}
const away = (a: Spot, b: Spot) => Math.hypot(a.x - b.x, a.y - b.y);

function widest(gaps: number[]): number {
  return gaps.indexOf(Math.max(...gaps));
}
function withCorner(corners: Pair[]): Pair[] {
  const next = (i: number) => corners[(i + 1) % corners.length]!;
  const at = widest(corners.map((each, i) => Math.hypot(...each.map((part, axis) => next(i)[axis]! - part))));
  return [...corners.slice(0, at + 1), pair(corners[at]!, next(at), 0.5), ...corners.slice(at + 1)];
}
function withPoint(points: Pair[]): Pair[] {
  const at = widest(points.slice(1).map((each, i) => each[0] - points[i]![0]));
  const place = (points[at]![0] + points[at + 1]![0]) / 2;
  return [...points.slice(0, at + 1), [place, curveAt(points.map(([x, y]) => [x, y]), place)], ...points.slice(at + 1)];
}
function withStop(list: Stop[]): Stop[] {
  if (list.length === 1) return [...list, list[0]!];
  const gaps = list.slice(1).map((each, i) => each.place - list[i]!.place);
  const at = widest(gaps);
  const [before, after] = [list[at]!, list[at + 1]!];
  const there = {
    place: before.place + gaps[at]! * (before.midpoint ?? 0.5),
    colour: mixedCodes(before.colour, after.colour, 0.5), midpoint: 0.5,
  };
  return [...list.slice(0, at), { ...before, midpoint: 0.5 }, there, ...list.slice(at + 1)];
}
