// Values that change over time: what they are at a time, and their pegs.
import type { Setting } from "@/model/title";
import { drifted, type Drift } from "./drifting";
import { eased, USUAL_EASE, type Ease } from "./easing";
import { isNumeric, mix } from "./mixing";

export interface Peg {
  at: number;
  value: unknown;
  ease?: Ease;
}
export interface Varying {
  value?: unknown;
  pegs?: Peg[] | null;
  drift?: Drift | null;
}
/** What the value of a setting needs to know of it. */
export type Kind = Pick<Setting, "kind" | "low" | "high">;

const NEAR = 1e-4; // seconds
/** When a peg may stand at most, in seconds: a day. */
export const LATEST = 86_400;

export function isVarying(value: unknown): value is Varying {
  return (
    typeof value === "object" && value !== null && !Array.isArray(value) && ("pegs" in value || "drift" in value)
  );
}
export const pegsOf = (value: unknown): Peg[] => (isVarying(value) ? (value.pegs ?? []) : []);
export const driftOf = (value: unknown): Drift | null => (isVarying(value) ? (value.drift ?? null) : null);
export const easeOf = (peg: Peg): Ease => peg.ease ?? USUAL_EASE;

/** The plain value at a time; in a title that loops drift closes after `loop` seconds. */
export function valueOver(value: unknown, time: number, kind: Kind, loop: number | null): unknown {
  if (!isVarying(value)) return value;
  let found = value.pegs?.length ? between(value.pegs, time, kind.kind) : value.value;
  if (value.drift?.amount) found = drifted(found, value.drift, time, loop);
  return typeof found === "number" ? held(found, kind) : found;
}

function between(pegs: Peg[], time: number, kind: string): unknown {
  if (time <= pegs[0]!.at) return pegs[0]!.value;
  const next = pegs.findIndex((peg) => peg.at > time);
  if (next < 0) return pegs.at(-1)!.value;
  const [before, after] = [pegs[next - 1]!, pegs[next]!];
  const share = (time - before.at) / (after.at - before.at);
  if (share === 0 || before.value === after.value) return before.value;
  return mix(kind, before.value, after.value, eased(easeOf(before), share));
}

export function held(value: number, { kind, low, high }: Kind): number {
  const within = Math.min(Math.max(value, low ?? -Infinity), high ?? Infinity);
  return kind === "count" || kind === "seed" ? Math.round(within) : within;
}

/** The number of the peg at a time; −1 where there is none. */
export function pegAt(value: unknown, time: number, near = NEAR): number {
  return pegsOf(value).findIndex((peg) => Math.abs(peg.at - time) < near);
}

/** With a peg there; the pegs beside it keep their easing. */
export function withPeg(value: unknown, time: number, to: unknown, ease?: Ease, near = NEAR): Varying {
  const pegs = pegsOf(value);
  const at = pegAt(value, time, near);
  if (at >= 0) {
    const changed = pegs.map((peg, i) => (i === at ? { ...peg, value: to, ...(ease && { ease }) } : peg));
    return rebuilt(value, changed);
  }
  const before = [...pegs].reverse().find((peg) => peg.at < time);
  const fresh: Peg = { at: Math.max(time, 0), value: to, ease: ease ?? (before ? easeOf(before) : USUAL_EASE) };
  return rebuilt(value, [...pegs, fresh].sort((a, b) => a.at - b.at));
}

/** Without some of its pegs; without any of them what it was at `time`. */
export function withoutPegs(value: unknown, gone: readonly number[], time: number, kind: Kind): unknown {
  const pegs = pegsOf(value);
  const left = pegs.filter((_, i) => !gone.includes(i));
  if (left.length) return rebuilt(value, left);
  const rest = between(pegs, time, kind.kind);
  const drift = driftOf(value);
  return drift?.amount ? { value: rest, drift } : rest;
}

/** Its pegs after `change`, in order of their time; of two at one time the changed one stays. */
export function withChangedPegs(
  value: unknown, which: readonly number[], change: (peg: Peg) => Peg,
): { value: Varying; which: number[] } {
  const moved = pegsOf(value).map((peg, i) => ({ peg: which.includes(i) ? change(peg) : peg, picked: which.includes(i) }));
  const pickedTimes = moved.filter(({ picked }) => picked).map(({ peg }) => peg.at);
  const kept = moved
    .filter(({ peg, picked }) => picked || !pickedTimes.some((time) => Math.abs(time - peg.at) < NEAR))
    .sort((a, b) => a.peg.at - b.peg.at);
  const unique = kept.filter(({ peg }, i) => i === 0 || peg.at - kept[i - 1]!.peg.at >= NEAR);
  return {
    value: rebuilt(value, unique.map(({ peg }) => peg)),
    which: unique.flatMap(({ picked }, i) => (picked ? [i] : [])),
  };
}

/** With drift; an amount of 0 ends it. */
export function withDrift(value: unknown, drift: Drift | null): unknown {
  const pegs = pegsOf(value);
  if (pegs.length) return drift ? { pegs, drift } : { pegs };
  const base = isVarying(value) ? value.value : value;
  return drift ? { value: base, drift } : base;
}

function rebuilt(value: unknown, pegs: Peg[]): Varying {
  const drift = driftOf(value);
  return drift ? { pegs, drift } : { pegs };
}

/** Times and values of a number from `start` to `end`: every so many seconds, and at its pegs. */
export function samples(
  value: unknown, kind: Kind, loop: number | null, start: number, end: number, every: number,
): [number, number][] {
  const times = new Set<number>();
  for (let t = start; t < end; t += every) times.add(t);
  for (const peg of pegsOf(value)) {
    if (peg.at > start && peg.at < end) times.add(peg.at - 1e-6).add(peg.at);
  }
  times.add(end);
  return [...times]
    .sort((a, b) => a - b)
    .map((time) => [time, Number(valueOver(value, time, kind, loop))]);
}

export { isNumeric };
