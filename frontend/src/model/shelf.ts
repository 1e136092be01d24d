// How the titles stand on the shelf: found, sorted, in their series.

export interface Shelved {
  id: string;
  name: string;
  series: string;
  changed_at: string;
  width: number;
  height: number;
}
export type Order = "changed" | "name" | "size";
export interface Series<T> {
  name: string;
  titles: T[];
}

/** Those that fit, in order, by series; titles without one come first. */
export function shelved<T extends Shelved>(titles: readonly T[], sought: string, order: Order): Series<T>[] {
  const words = sought.trim().toLowerCase();
  const found = titles.filter((title) => `${title.name} ${title.series}`.toLowerCase().includes(words));
  const sorted = [...found].sort(COMPARE[order]);
  const groups = new Map<string, T[]>();
  for (const title of sorted) groups.set(title.series, [...(groups.get(title.series) ?? []), title]);
  return [...groups]
    .map(([name, list]) => ({ name, titles: list }))
    .sort((a, b) => Number(a.name !== "") - Number(b.name !== "") || a.name.localeCompare(b.name));
}

const COMPARE: Record<Order, (a: Shelved, b: Shelved) => number> = {
  changed: (a, b) => b.changed_at.localeCompare(a.changed_at),
  name: (a, b) => a.name.localeCompare(b.name, "en", { numeric: true }),
  size: (a, b) => b.width * b.height - a.width * a.height,
};
