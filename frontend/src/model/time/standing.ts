// A title as it stands at a time: all that moves evaluated, the rest shared with its document.
import { withValue } from "@/model/places";
import { movingIn, type Described } from "@/model/parts";
import { plays, type Title } from "@/model/title";
import { valueOver } from "./varying";

export function standingAt(document: Title, time: number, told: Described): Title {
  const loop = loopOf(document);
  let title = document;
  for (const { place, setting, value } of moving(document, told)) {
    title = withValue(title, place, valueOver(value, time, setting, loop));
  }
  return title;
}

/** What moves in a document, looked for once. */
const known = new WeakMap<Title, Moving[]>();
type Moving = ReturnType<typeof movingIn> extends Generator<infer M> ? M : never;
function moving(document: Title, told: Described): Moving[] {
  const found = known.get(document) ?? [...movingIn(document, told)];
  known.set(document, found);
  return found;
}

/** When one picture stands for a title: half way through one that moves (mabrel/title/motion.py). */
export function stillTime(document: Title, told: Described): number {
  const { duration, fps } = document.frame;
  return moving(document, told).length || plays(document) ? Math.floor((duration * fps) / 2 + 0.5) / fps : 0;
}

/** Seconds after which a title runs round; null: it doesn't. */
export function loopOf(title: Title): number | null {
  return title.frame.loops ? title.frame.duration : null;
}
