// Colour codes and gradients in the page; the engine's own results are what counts.
import type { Stop } from "./title";

const CODE = /^#?([0-9a-f]{3}|[0-9a-f]{6}|[0-9a-f]{8})$/i;

/** A typed code in the document's form, or null where it is none. */
export function asCode(words: string): string | null {
  const found = CODE.exec(words.trim());
  if (!found?.[1]) return null;
  const digits = found[1].toLowerCase();
  return "#" + (digits.length === 3 ? [...digits].map((d) => d + d).join("") : digits);
}

export function channels(code: string): [number, number, number] {
  const digits = (asCode(code) ?? "#000000").slice(1);
  return [0, 2, 4].map((i) => parseInt(digits.slice(i, i + 2), 16)) as [number, number, number];
}

/** Colour of a gradient at a place, with its midpoints, mixed in sRGB. */
export function colourAt(stops: readonly Stop[], place: number): string {
  const after = stops.findIndex((stop) => stop.place > place);
  const first = stops[0];
  if (!first) return "#000000";
  if (after === 0) return first.colour;
  const before = stops[after < 0 ? stops.length - 1 : after - 1] ?? first;
  const next = after < 0 ? before : (stops[after] ?? before);
  const gap = next.place - before.place;
  const share = gap <= 0 ? 0 : ((place - before.place) / gap) ** (Math.log(0.5) / Math.log(before.midpoint));
  const [a, b] = [channels(before.colour), channels(next.colour)];
  return "#" + a.map((x, i) => Math.round(x + ((b[i] ?? x) - x) * share).toString(16).padStart(2, "0")).join("");
}

/** CSS for the bar of a gradient, through slide and repeats. */
export function gradientCss(stops: readonly Stop[], slide = 0, repeats = 1): string {
  const parts = Array.from({ length: 129 }, (_, i) => {
    const at = i / 128;
    return `${colourAt(stops, folded(at, slide, repeats))} ${(at * 100).toFixed(2)}%`;
  });
  return `linear-gradient(to right, ${parts.join(", ")})`;
}

/** Where on the stops a brightness comes to lie: there and back again. */
export function folded(brightness: number, slide = 0, repeats = 1): number {
  const place = brightness * repeats + slide;
  return Math.abs(place - 2 * Math.round(place / 2));
}
