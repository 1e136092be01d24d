// Which cells a gesture paints: pairs of column and row.
import { hasInk, type CellGrid } from "./grids";
import { inkAt, type Sheet } from "./painted";

export type Pair = readonly [number, number];

/** From one cell to another without a gap: Bresenham's line (IBM Systems Journal 4, 1965). */
export function line([x0, y0]: Pair, [x1, y1]: Pair): Pair[] {
  const [dx, dy] = [Math.abs(x1 - x0), -Math.abs(y1 - y0)];
  const [sx, sy] = [x0 < x1 ? 1 : -1, y0 < y1 ? 1 : -1];
  const found: Pair[] = [];
  let [x, y, off] = [x0, y0, dx + dy];
  for (;;) {
    found.push([x, y]);
    if (x === x1 && y === y1) return found;
    const twice = 2 * off;
    if (twice >= dy) {
      off += dy;
      x += sx;
    }
    if (twice <= dx) {
      off += dx;
      y += sy;
    }
  }
}

/** All cells between two corners. */
export function rectangle([x0, y0]: Pair, [x1, y1]: Pair): Pair[] {
  const [left, top] = [Math.min(x0, x1), Math.min(y0, y1)];
  const [wide, high] = [Math.abs(x1 - x0) + 1, Math.abs(y1 - y0) + 1];
  return Array.from({ length: wide * high }, (_, at) => [left + (at % wide), top + Math.floor(at / wide)] as const);
}

/** All cells of the same ink that hang together with one, side by side. */
export function connected(grid: CellGrid, sheet: Sheet, from: Pair, divided: number): Pair[] {
  const ink = inkAt(sheet, from[0], from[1], divided);
  const found: Pair[] = [];
  const seen = new Set<string>();
  const waiting: Pair[] = [from];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const [x, y] = next;
    const key = `${x} ${y}`;
    if (seen.has(key) || !hasInk(grid, x, y, divided) || inkAt(sheet, x, y, divided) !== ink) continue;
    seen.add(key);
    found.push(next);
    waiting.push([x + 1, y], [x - 1, y], [x, y + 1], [x, y - 1]);
  }
  return found;
}

export interface Mirrors {
  across: boolean;
  down: boolean;
}

/** The same cells, and those on the other side of the letter's middle. */
export function mirrored(grid: CellGrid, cells: readonly Pair[], divided: number, { across, down }: Mirrors): Pair[] {
  const right = (2 * grid.left + grid.columns) * divided - 1;
  const foot = (2 * grid.top + grid.rows) * divided - 1;
  let found: Pair[] = [...cells];
  if (across) found = [...found, ...found.map(([x, y]) => [right - x, y] as const)];
  if (down) found = [...found, ...found.map(([x, y]) => [x, foot - y] as const)];
  return found;
}

/** Those that have ink. */
export function inside(grid: CellGrid, cells: readonly Pair[], divided: number): Pair[] {
  return cells.filter(([x, y]) => hasInk(grid, x, y, divided));
}
