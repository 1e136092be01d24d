// Pegs on the clipboard, as text.
import { isEase } from "./easing";
import { isVarying, LATEST, type Peg } from "./varying";

export interface CopiedLane {
  kind: string;
  pegs: Peg[];
}

export function pegsToText(lanes: CopiedLane[]): string {
  return JSON.stringify({ mabrel_pegs: 1, lanes }, null, 1);
}

/** Null where the text holds no pegs. */
export function pegsFromText(words: string): CopiedLane[] | null {
  let read: unknown;
  try {
    read = JSON.parse(words);
  } catch {
    return null;
  }
  if (typeof read !== "object" || read === null || !("mabrel_pegs" in read) || !("lanes" in read)) return null;
  const lanes = Array.isArray(read.lanes) ? (read.lanes as unknown[]) : [];
  const good = lanes.filter(isLane);
  return good.length ? good : null;
}
function isLane(lane: unknown): lane is CopiedLane {
  if (typeof lane !== "object" || lane === null || !isVarying(lane)) return false;
  const { kind } = lane as { kind?: unknown };
  const pegs: unknown = lane.pegs;
  return typeof kind === "string" && Array.isArray(pegs) && pegs.length > 0 && pegs.every(isPeg);
}
function isPeg(peg: unknown): peg is Peg {
  if (typeof peg !== "object" || peg === null) return false;
  const { at, value, ease } = peg as Record<string, unknown>;
  return typeof at === "number" && at >= 0 && at <= LATEST && value !== undefined && (ease === undefined || isEase(ease));
}
/** Whether a value from elsewhere is made like one that is there: numbers for numbers, a list of such for a list. */
export function isLike(value: unknown, example: unknown): boolean {
  if (Array.isArray(example)) {
    return Array.isArray(value) && value.length >= Math.min(example.length, 2) && value.every((each) => isLike(each, example[0]));
  }
  if (example === null) return typeof value !== "number";
  if (value === null) return typeof example === "string"; // a choice may be none
  if (typeof example === "number") return Number.isFinite(value);
  if (typeof example !== "object") return typeof value === typeof example;
  return typeof value === "object"
    && Object.entries(example).every(([key, of]) => isLike((value as Record<string, unknown>)[key], of));
}
