// Smooth random wandering: the engine's own (mabrel/title/drifting.py) in the page.
import { channelsOf, codeOf } from "./codes";

export interface Drift {
  amount: number;
  rate: number;
  seed: number;
}
/** What `amount` may be at most. */
export const LARGEST_DRIFT = 100_000;
export const FRESH_DRIFT: Drift = { amount: 0, rate: 1, seed: 1 };

/** A number, colour or point after it wandered; after `loop` seconds it is where it was. */
export function drifted(base: unknown, drift: Drift, time: number, loop: number | null): unknown {
  if (typeof base === "string") {
    const [r = 0, g = 0, b = 0, alpha = 255] = channelsOf(base);
    return codeOf([...[r, g, b].map((hue, salt) => hue + 255 * way(drift, time, loop, salt)), alpha]);
  }
  if (Array.isArray(base)) return base.map((part, salt) => Number(part) + way(drift, time, loop, salt));
  return Number(base) + way(drift, time, loop, 0);
}

function way({ amount, rate, seed }: Drift, time: number, loop: number | null, salt: number): number {
  const draw = seed + 7919 * salt;
  if (loop === null) return amount * wander(time * rate, draw, null);
  const turns = Math.max(Math.round(rate * loop), 1);
  return amount * wander((time / loop) * turns, draw, turns);
}

function wander(place: number, seed: number, turns: number | null): number {
  const cell = Math.floor(place);
  const t = place - cell;
  const fade = t * t * t * (t * (6 * t - 15) + 10);
  const around = (at: number) => (turns === null ? at : ((at % turns) + turns) % turns);
  const before = chance(around(cell), seed) * t;
  const after = chance(around(cell + 1), seed) * (t - 1);
  return Math.max(-1, Math.min(1, 2 * (before + (after - before) * fade)));
}

/** A number from −1 to 1 for each whole one: the integer hash of Wellons (2018). */
export function chance(cell: number, seed: number): number {
  let x = (Math.imul(cell, 0x9e3779b1) + Math.imul(seed, 0x85ebca6b)) >>> 0;
  x = Math.imul(x ^ (x >>> 16), 0x7feb352d) >>> 0;
  x = Math.imul(x ^ (x >>> 15), 0x846ca68b) >>> 0;
  return (((x ^ (x >>> 16)) >>> 0) / 0xffffffff) * 2 - 1;
}
