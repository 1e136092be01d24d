// Curves: their line, presets, points typed as pairs, and drawn lines made into points.
import type { CurvePoint } from "./title";

export const MOST_POINTS = 64;
export const GAP = 0.004;

export const CURVES: { name: "straight" | "rounded" | "hollow" | "stepped" | "contrast" | "inverted" | "twoPeaks" | "threePeaks"; points: CurvePoint[] }[] = [
  { name: "straight", points: [[0, 0], [1, 1]] },
  { name: "rounded", points: [[0, 0], [0.15, 0.53], [0.4, 0.8], [0.7, 0.95], [1, 1]] },
  { name: "hollow", points: [[0, 0], [0.3, 0.05], [0.6, 0.2], [0.85, 0.47], [1, 1]] },
  { name: "stepped", points: [[0, 0], [0.3, 0], [0.34, 0.5], [0.64, 0.5], [0.68, 1], [1, 1]] },
  { name: "contrast", points: [[0, 0], [0.25, 0.12], [0.75, 0.88], [1, 1]] },
  { name: "inverted", points: [[0, 1], [1, 0]] },
  { name: "twoPeaks", points: [[0, 0], [0.25, 1], [0.5, 0.08], [0.75, 1], [1, 0.1]] },
  { name: "threePeaks", points: [[0, 0], [0.17, 1], [0.34, 0.05], [0.5, 1], [0.67, 0.05], [0.84, 1], [1, 0.3]] },
];

/** The engine's own slopes (Fritsch and Butland's), which never overshoot. */
export function slopesOf(points: readonly CurvePoint[]): number[] {
  const steps = points.slice(1).map(([x, y], i) => {
    const [x0, y0] = points[i] ?? [0, 0];
    return { h: x - x0, d: (y - y0) / (x - x0) };
  });
  return points.map((_, i) => {
    const before = steps[i - 1];
    const after = steps[i];
    if (!before || !after) return (before ?? after)?.d ?? 0;
    if (before.d * after.d <= 0) return 0;
    const [w1, w2] = [2 * after.h + before.h, after.h + 2 * before.h];
    return (w1 + w2) / (w1 / before.d + w2 / after.d);
  });
}

/** As an SVG path of cubic Béziers in a box of this size, level beyond its ends. */
export function curvePath(points: readonly CurvePoint[], wide: number, tall: number): string {
  const down = (y: number) => (1 - y) * tall;
  const slopes = slopesOf(points);
  let path = "";
  points.forEach(([x, y], i) => {
    const before = points[i - 1];
    if (!before) {
      path = `M 0 ${down(y)} L ${x * wide} ${down(y)}`;
      return;
    }
    const third = (x - before[0]) / 3;
    path +=
      ` C ${(before[0] + third) * wide} ${down(before[1] + (slopes[i - 1] ?? 0) * third)}` +
      ` ${(x - third) * wide} ${down(y - (slopes[i] ?? 0) * third)} ${x * wide} ${down(y)}`;
  });
  return `${path} L ${wide} ${down(points.at(-1)?.[1] ?? 0)}`;
}

/** The curve's value at x: cubic Hermite between the points. */
export function valueAt(points: readonly CurvePoint[], x: number): number {
  const after = points.findIndex((point) => point[0] >= x);
  if (after < 0) return points.at(-1)?.[1] ?? 0;
  const [x1, y1] = points[after]!;
  const before = points[after - 1];
  if (!before) return y1;
  const slopes = slopesOf(points);
  const h = x1 - before[0];
  const t = (x - before[0]) / h;
  return (
    before[1] * (1 + 2 * t) * (1 - t) ** 2 + slopes[after - 1]! * h * t * (1 - t) ** 2 +
    y1 * t * t * (3 - 2 * t) + slopes[after]! * h * t * t * (t - 1)
  );
}

/** "0 0, 0.25 1, 1 0.3", a pair a line, or JSON; null where it is no curve. */
export function curveFromText(words: string): CurvePoint[] | null {
  const numbers = words.match(/-?\d*\.?\d+(?:e[+-]?\d+)?\s*%?/gi);
  if (!numbers || numbers.length % 2 || numbers.length < 4) return null;
  const values = numbers.map((each) => (each.endsWith("%") ? parseFloat(each) / 100 : parseFloat(each)));
  // Levels from 0 to 255 are typed as often as shares.
  const whole = values.some((value) => value > 1) ? 255 : 1;
  const points = Array.from({ length: values.length / 2 }, (_, i): CurvePoint => [
    unit(values[2 * i]! / whole), unit(values[2 * i + 1]! / whole),
  ]).sort((a, b) => a[0] - b[0]);
  const apart = points.every(([x], i) => i === 0 || x > points[i - 1]![0]);
  return apart && points.length <= MOST_POINTS ? points : null;
}
export function curveAsText(points: readonly CurvePoint[]): string {
  return points.map(([x, y]) => `${x} ${y}`).join(", ");
}

const MOST_DRAWN = 24;

/** As few points as keep the curve within `tolerance` of a drawn line: where it is farthest off, the
 * line's own point is added. */
export function simplified(drawn: readonly CurvePoint[], tolerance = 0.02): CurvePoint[] {
  const line = ordered(drawn);
  let points = line.length < 2 ? [...line] : [line[0]!, line.at(-1)!];
  while (points.length > 1 && points.length < MOST_DRAWN) {
    let farthest: CurvePoint | null = null;
    let off = tolerance;
    for (const point of line) {
      const error = Math.abs(valueAt(points, point[0]) - point[1]);
      if (error > off) [farthest, off] = [point, error];
    }
    if (!farthest) break;
    const next = farthest;
    points = [...points, next].sort((a, b) => a[0] - b[0]);
  }
  return points;
}
/** From left to right, no two at one place: the later of them counts. */
function ordered(drawn: readonly CurvePoint[]): CurvePoint[] {
  const byPlace = new Map(drawn.map(([x, y]) => [Math.round(unit(x) / GAP), [unit(x), unit(y)] as CurvePoint]));
  return [...byPlace.values()].sort((a, b) => a[0] - b[0]).filter(([x], i, all) => i === 0 || x - all[i - 1]![0] >= GAP / 2);
}
export function unit(value: number): number {
  return Math.round(Math.min(Math.max(value, 0), 1) * 1000) / 1000;
}
