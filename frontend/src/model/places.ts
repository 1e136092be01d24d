// Where a value stands in a document: names of fields, and in lists the ids of entries.
import type { Title } from "./title";

export type Place = readonly string[];

type Entry = Record<string, unknown>;

export const keyOf = (place: Place): string => place.join("/");
export const placeOf = (key: string): Place => key.split("/");

function entryOf(list: readonly Entry[], id: string): number {
  return list.findIndex((each) => each["id"] === id);
}

/** What stands there; undefined where nothing does. */
export function valueAt(title: Title, place: Place): unknown {
  let value: unknown = title;
  for (const name of place) {
    if (Array.isArray(value)) value = value[entryOf(value as Entry[], name)];
    else if (typeof value === "object" && value !== null) value = (value as Entry)[name];
    else return undefined;
  }
  return value;
}

/** The title with another value there; itself where there is no such place. */
export function withValue(title: Title, place: Place, value: unknown): Title {
  return changed(title, place, value) as Title;
}

function changed(node: unknown, [name, ...rest]: Place, value: unknown): unknown {
  if (name === undefined) return value;
  if (Array.isArray(node)) {
    const at = entryOf(node as Entry[], name);
    return at < 0 ? node : node.map((each, index) => (index === at ? changed(each, rest, value) : each) as unknown);
  }
  const before = (node ?? {}) as Entry;
  return { ...before, [name]: changed(before[name], rest, value) };
}
