// The colours that a title uses, each once.
import type { Title } from "./title";

const CODE = /^#[0-9a-f]{6}([0-9a-f]{2})?$/i;
const MOST = 32;

export function coloursOf(title: Title): string[] {
  const found = new Set<string>();
  collect([title.lights, title.layers], found);
  return [...found].slice(0, MOST);
}

function collect(value: unknown, found: Set<string>): void {
  if (typeof value === "string") {
    if (CODE.test(value)) found.add(value.toLowerCase());
  } else if (typeof value === "object" && value !== null) {
    for (const each of Object.values(value)) collect(each, found);
  }
}
