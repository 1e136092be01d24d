// What a frame looks like follows from this: two frames with the same key are the same picture.
import type { Described } from "@/model/parts";
import { plays, type Layer, type Title } from "@/model/title";
import { loopOf, standingAt } from "./standing";
import { isVarying, pegsOf, valueOver } from "./varying";

/** A short name for the picture of a document at a time. */
export function frameKey(document: Title, time: number, told: Described): string {
  const open = document.blur?.angle ? document.blur.angle / 360 / document.frame.fps : 0;
  const times = open ? [time - open / 2, time, time + open / 2] : [time];
  const parts = times.map((each) => seen(standingAt(document, each, told), document, each));
  // While something moves in an open shutter, no other frame can be trusted to be the same.
  if (plays(document)) parts.push(String(time));
  if (open && new Set(parts).size > 1) parts.push(String(time));
  return hashed(parts.join());
}

/** What of a title can be seen, as text. */
function seen(title: Title, document: Title, time: number): string {
  const layers = title.layers.map((layer, i) => ({ ...layer, name: "", in_turn: apart(document.layers[i], document, time) }));
  return JSON.stringify({ ...title, name: "", frame: [title.frame.width, title.frame.height], layers }, rounded);
}

/** Eased values end in digits that nobody sees. */
function rounded(_: string, value: unknown): unknown {
  return typeof value === "number" ? Math.round(value * 1e8) / 1e8 : value;
}

/** Where letters that move apart stand: what each waits for follows from how many there are. */
function apart(layer: Layer | undefined, document: Title, time: number): unknown {
  const inTurn = layer?.kind === "lettering" ? layer.source.in_turn : null;
  if (!inTurn || layer?.kind !== "lettering") return null;
  const loop = loopOf(document);
  const moving = Object.values(inTurn).filter(isVarying);
  const waits = Array.from({ length: 2 * longest(layer.source.text) }, (_, i) => (inTurn.delay * i) / 2);
  return moving.map((value) => waits.map((wait) => valueOver(value, time - wait, { kind: "number", low: null, high: null }, loop)));
}

/** Characters of the longest of the words that a text has over time. */
function longest(said: unknown): number {
  const all = isVarying(said) ? pegsOf(said).map((peg) => peg.value) : [said];
  return Math.max(...all.map((each) => String(each).length));
}

/** cyrb53, a hash of 53 bits, twice with different seeds. */
function hashed(words: string): string {
  return `${cyrb(words, 1).toString(36)}${cyrb(words, 2).toString(36)}`;
}
function cyrb(words: string, seed: number): number {
  let [a, b] = [0xdeadbeef ^ seed, 0x41c6ce57 ^ seed];
  for (let i = 0; i < words.length; i += 1) {
    const code = words.charCodeAt(i);
    a = Math.imul(a ^ code, 2654435761);
    b = Math.imul(b ^ code, 1597334677);
  }
  a = Math.imul(a ^ (a >>> 16), 2246822507) ^ Math.imul(b ^ (b >>> 13), 3266489909);
  b = Math.imul(b ^ (b >>> 16), 2246822507) ^ Math.imul(a ^ (a >>> 13), 3266489909);
  return 4294967296 * (2097151 & b) + (a >>> 0);
}
