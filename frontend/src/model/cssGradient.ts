// Stops as a CSS gradient, and back: linear-gradient(90deg, #123 0%, 30%, rgb(1 2 3) 100%).
import { asCode } from "./colour";
import type { Stop } from "./title";

/** The stops as CSS; a midpoint becomes a colour hint. */
export function stopsAsCss(stops: readonly Stop[]): string {
  const parts = stops.flatMap((stop, i) => {
    const next = stops[i + 1];
    const hint = next && stop.midpoint !== 0.5 ? [percent(stop.place + (next.place - stop.place) * stop.midpoint)] : [];
    return [`${stop.colour} ${percent(stop.place)}`, ...hint];
  });
  return `linear-gradient(90deg, ${parts.join(", ")})`;
}
function percent(share: number): string {
  return `${Math.round(share * 10000) / 100}%`;
}

/** The stops of a CSS gradient, or null where it is none. Of a list of colours alone, spread evenly. */
export function stopsFromCss(words: string): Stop[] | null {
  const inner = /gradient\s*\((.*)\)/is.exec(words)?.[1] ?? words;
  const parts = split(inner);
  const found: { colour: string | null; place: number | null }[] = [];
  for (const [i, part] of parts.entries()) {
    const places = [...part.replace(/\([^)]*\)/g, "").matchAll(/(?:^|\s)(-?[\d.]+)%/g)].map((match) => Number(match[1]) / 100);
    const colour = colourIn(part);
    if (colour === null && !places.length) {
      if (i === 0) continue; // a direction
      return null;
    }
    if (colour === null) found.push({ colour, place: places[0]! });
    else for (const place of places.length ? places : [null]) found.push({ colour, place });
  }
  return placed(found);
}

/** Commas part the stops, but not those within a colour's own brackets. */
function split(words: string): string[] {
  return words.split(/,(?![^(]*\))/).map((part) => part.trim()).filter(Boolean);
}

const NAMES: Record<string, string> = {
  black: "#000000", white: "#ffffff", red: "#ff0000", gold: "#ffd700", silver: "#c0c0c0", gray: "#808080",
  grey: "#808080", blue: "#0000ff", green: "#008000", orange: "#ffa500", yellow: "#ffff00", transparent: "#00000000",
};

function colourIn(part: string): string | null {
  const code = /#[0-9a-f]{3,8}\b/i.exec(part);
  if (code) return asCode(code[0]);
  const rgb = /rgba?\(([^)]*)\)/i.exec(part);
  if (rgb) {
    const channels = rgb[1]!.split(/[\s,/]+/).filter(Boolean).slice(0, 3).map((each) =>
      each.endsWith("%") ? parseFloat(each) * 2.55 : parseFloat(each),
    );
    if (channels.length < 3 || channels.some(Number.isNaN)) return null;
    return "#" + channels.map((c) => Math.round(Math.min(Math.max(c, 0), 255)).toString(16).padStart(2, "0")).join("");
  }
  return NAMES[part.toLowerCase().split(/\s+/)[0] ?? ""] ?? null;
}

function placed(found: { colour: string | null; place: number | null }[]): Stop[] | null {
  const colours = found.filter((each) => each.colour !== null);
  if (colours.length < 2 || found[0]?.colour === null || found.at(-1)?.colour === null) return null;
  colours[0]!.place ??= 0;
  colours.at(-1)!.place ??= 1;
  spread(colours);
  const stops: Stop[] = [];
  let least = 0;
  found.forEach(({ colour, place }, i) => {
    if (colour === null) return;
    least = Math.max(least, Math.min(Math.max(place!, 0), 1));
    const hint = found[i + 1]?.colour === null ? found[i + 1]!.place! : null;
    const next = found.slice(i + 1).find((each) => each.colour !== null)?.place;
    const midpoint = hint !== null && next && next > least ? (hint - least) / (next - least) : 0.5;
    stops.push({ place: round(least), colour, midpoint: Math.min(Math.max(round(midpoint), 0.01), 0.99) });
  });
  return stops.length <= 64 ? stops : null;
}
/** Those without a place lie evenly between their neighbours. */
function spread(list: { place: number | null }[]): void {
  list.forEach((each, i) => {
    if (each.place !== null) return;
    const after = list.findIndex((other, j) => j > i && other.place !== null);
    const [from, to] = [list[i - 1]!.place!, list[after]!.place!];
    each.place = from + (to - from) / (after - i + 1);
  });
}
function round(value: number): number {
  return Math.round(value * 10000) / 10000;
}
