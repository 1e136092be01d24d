// Pegs on the clipboard, as text.
import { isVarying, type Peg } from "./varying";

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
  const pegs = lane.pegs ?? [];
  return typeof kind === "string" && pegs.length > 0 && pegs.every((peg) => Number.isFinite(peg.at) && "value" in peg);
}
