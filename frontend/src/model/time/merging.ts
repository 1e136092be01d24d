// What was changed in a title as it stands at a time, put into its document: where a value moves,
// as a peg at that time.
import { isVarying, withPeg } from "./varying";

type Entry = Record<string, unknown>;

/** `document` with what makes `next` differ from `shown`, which is the document at `time`. */
export function merged<T>(document: T, shown: T, next: T, time: number, near?: number): T {
  return merge(document, shown, next, { time, near }) as T;
}

function merge(raw: unknown, shown: unknown, next: unknown, when: { time: number; near?: number }): unknown {
  if (next === shown || same(next, shown)) return raw;
  if (raw === shown) return next;
  if (isVarying(raw)) return isVarying(next) ? next : withPeg(raw, when.time, next, undefined, when.near);
  if (Array.isArray(raw) && Array.isArray(shown) && Array.isArray(next)) {
    if (!next.every(isEntry)) return next;
    return next.map((each) => {
      const id = (each as Entry)["id"];
      const of = (list: unknown[]) => list.find((other) => isEntry(other) && other["id"] === id);
      const [before, was] = [of(raw), of(shown)];
      return before === undefined ? each : merge(before, was, each, when);
    });
  }
  if (isObject(raw) && isObject(shown) && isObject(next)) {
    const fields = Object.entries(next).map(([name, value]) => [
      name, name in raw ? merge(raw[name], shown[name], value, when) : value,
    ]);
    return Object.fromEntries(fields) as Entry;
  }
  return next;
}

function isObject(value: unknown): value is Entry {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
function isEntry(value: unknown): value is Entry {
  return isObject(value) && typeof value["id"] === "string";
}
function same(a: unknown, b: unknown): boolean {
  if (typeof a !== "object" || typeof b !== "object" || a === null || b === null) return a === b;
  return a === b || JSON.stringify(a) === JSON.stringify(b);
}
