// The grids in which a step paints cells, and where their cells lie on the card.
import type { components } from "@/api/schema";
import type { Point } from "@/model/card";

export type CellGrid = components["schemas"]["CellGrid"];

/** A cell of one grid: column and row in parts of whole cells, counted from where the grid begins. */
export interface Cell {
  grid: number;
  column: number;
  row: number;
}

/** Where a place in a grid lies, in frame pixels from the layer's centre; in whole cells. */
export function onCard(grid: CellGrid, column: number, row: number): Point {
  const [a = 1, b = 0, c = 0, d = 1] = grid.turned;
  const x = grid.corner[0]! + column * grid.across;
  const y = grid.corner[1]! + row * grid.down;
  return { x: a * x + b * y + grid.shift[0]!, y: c * x + d * y + grid.shift[1]! };
}

/** The place in a grid that lies there, in whole cells. */
export function inGrid(grid: CellGrid, { x, y }: Point): Point {
  const [a = 1, b = 0, c = 0, d = 1] = grid.turned;
  const [u, v] = [x - grid.shift[0]!, y - grid.shift[1]!];
  const whole = a * d - b * c || 1;
  const [set, down] = [(d * u - b * v) / whole, (a * v - c * u) / whole];
  return { x: (set - grid.corner[0]!) / grid.across, y: (down - grid.corner[1]!) / grid.down };
}

/** The cell under a place on the card; null outside all grids. */
export function cellAt(grids: readonly CellGrid[], place: Point, divided: number): Cell | null {
  for (const [index, grid] of grids.entries()) {
    const { x, y } = inGrid(grid, place);
    if (x >= grid.left && x < grid.left + grid.columns && y >= grid.top && y < grid.top + grid.rows) {
      return { grid: index, column: Math.floor(x * divided), row: Math.floor(y * divided) };
    }
  }
  return null;
}

/** Whether a cell has any ink: outside the letters nothing is painted. */
export function hasInk(grid: CellGrid, column: number, row: number, divided: number): boolean {
  return grid.ink[row - grid.top * divided]?.[column - grid.left * divided] === "#";
}

/** The four corners of a cell on the card. */
export function corners(grid: CellGrid, column: number, row: number, divided: number): Point[] {
  const ends: [number, number][] = [[0, 0], [1, 0], [1, 1], [0, 1]];
  return ends.map(([x, y]) => onCard(grid, (column + x) / divided, (row + y) / divided));
}

/** The next cell with ink that way; beyond a letter's end that of the letter beside it. */
export function beside(grids: readonly CellGrid[], from: Cell, [x, y]: [number, number], divided: number): Cell {
  const grid = grids[from.grid];
  if (!grid) return from;
  const [left, top] = [grid.left * divided, grid.top * divided];
  let [column, row] = [from.column + x, from.row + y];
  while (column >= left && column < left + grid.columns * divided && row >= top && row < top + grid.rows * divided) {
    if (hasInk(grid, column, row, divided)) return { grid: from.grid, column, row };
    column += x;
    row += y;
  }
  const next = grids[from.grid + x];
  if (!x || !next) return from;
  return nearest(next, from.grid + x, x > 0 ? next.left * divided : (next.left + next.columns) * divided - 1, from.row, divided) ?? from;
}

/** The first cell of all that has ink. */
export function firstCell(grids: readonly CellGrid[], divided: number): Cell | null {
  for (const [index, grid] of grids.entries()) {
    const found = nearest(grid, index, grid.left * divided, grid.top * divided, divided);
    if (found) return found;
  }
  return null;
}

/** The cell with ink that is nearest to a place in a grid. */
function nearest(grid: CellGrid, index: number, column: number, row: number, divided: number): Cell | null {
  let found: Cell | null = null;
  let least = Infinity;
  for (const [down, line] of grid.ink.entries()) {
    for (let across = 0; across < line.length; across += 1) {
      if (line[across] !== "#") continue;
      const at = { grid: index, column: across + grid.left * divided, row: down + grid.top * divided };
      const away = Math.abs(at.column - column) + Math.abs(at.row - row) * 2;
      if (away < least) [found, least] = [at, away];
    }
  }
  return found;
}
