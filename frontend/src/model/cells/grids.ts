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

/** Which side of a body a grid lies on. */
export type Side = NonNullable<CellGrid["side"]>;

/** Where a place in a grid lies, in frame pixels from the layer's centre; in whole cells. */
export function onCard(grid: CellGrid, column: number, row: number): Point {
  const [a = 1, b = 0, c = 0, d = 1] = grid.turned;
  const [g = 0, h = 0] = grid.vanish;
  const x = grid.corner[0]! + column * grid.across;
  const y = grid.corner[1]! + row * grid.down;
  const away = 1 + g * x + h * y;
  return { x: (a * x + b * y + grid.shift[0]!) / away, y: (c * x + d * y + grid.shift[1]!) / away };
}

/** The place in a grid that lies there, in whole cells. */
export function inGrid(grid: CellGrid, { x, y }: Point): Point {
  const [g = 0, h = 0] = grid.vanish;
  const [a, b] = [(grid.turned[0] ?? 1) - x * g, (grid.turned[1] ?? 0) - x * h];
  const [c, d] = [(grid.turned[2] ?? 0) - y * g, (grid.turned[3] ?? 1) - y * h];
  const [u, v] = [x - grid.shift[0]!, y - grid.shift[1]!];
  const whole = a * d - b * c || 1;
  const [set, down] = [(d * u - b * v) / whole, (a * v - c * u) / whole];
  return { x: (set - grid.corner[0]!) / grid.across, y: (down - grid.corner[1]!) / grid.down };
}

/** The cell with ink under a place on the card; null where none is. */
export function cellAt(grids: readonly CellGrid[], place: Point, divided: number): Cell | null {
  for (const [index, grid] of grids.entries()) {
    const { x, y } = inGrid(grid, place);
    const [column, row] = [Math.floor(x * divided), Math.floor(y * divided)];
    if (hasInk(grid, column, row, divided)) return { grid: index, column, row };
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

/** Left, right, up or down, as one sees it: one of the two is 0. */
export type Way = readonly [number, number];

/** The next cell with ink that way: in its own grid, or else in the grid that lies next. */
export function beside(grids: readonly CellGrid[], from: Cell, way: Way, divided: number): Cell {
  const grid = grids[from.grid];
  if (!grid) return from;
  const [x, y] = inCells(grid, way);
  const [left, top] = [grid.left * divided, grid.top * divided];
  let [column, row] = [from.column + x, from.row + y];
  while (column >= left && column < left + grid.columns * divided && row >= top && row < top + grid.rows * divided) {
    if (hasInk(grid, column, row, divided)) return { grid: from.grid, column, row };
    column += x;
    row += y;
  }
  return beyond(grids, from, way, divided) ?? from;
}

/** The same way in columns and rows. On a side these run aslant: both ways have one of their own. */
function inCells(grid: CellGrid, [x, y]: Way): Way {
  if (!grid.side) return [x, y];
  const start = onCard(grid, grid.left, grid.top);
  const unit = (end: Point): Point => {
    const length = Math.hypot(end.x - start.x, end.y - start.y) || 1;
    return { x: (end.x - start.x) / length, y: (end.y - start.y) / length };
  };
  const column = unit(onCard(grid, grid.left + 1, grid.top));
  const row = unit(onCard(grid, grid.left, grid.top + 1));
  const columnsAcross = Math.abs(column.x) + Math.abs(row.y) >= Math.abs(column.y) + Math.abs(row.x);
  const [across, down] = columnsAcross ? [column.x, row.y] : [row.x, column.y];
  const [first, second] = [x * (Math.sign(across) || 1), y * (Math.sign(down) || 1)];
  return columnsAcross ? [first, second] : [second, first];
}

const ASTRAY = 1e5; // pixels: beyond all that lie the right way

/** The cell with ink in another grid that lies next that way; of those that lie further aside than
 * away, only if there is no other, and up and down none. */
function beyond(grids: readonly CellGrid[], from: Cell, [x, y]: Way, divided: number): Cell | null {
  const start = middle(grids[from.grid]!, from.column, from.row, divided);
  let found: Cell | null = null;
  let least = Infinity;
  for (const cell of inked(grids, divided)) {
    if (cell.grid === from.grid) continue;
    const there = middle(grids[cell.grid]!, cell.column, cell.row, divided);
    const [right, down] = [there.x - start.x, there.y - start.y];
    const [away, aside] = [right * x + down * y, Math.abs(right * y) + Math.abs(down * x)];
    const astray = aside > away;
    if (away < 1e-6 || (y && astray)) continue;
    const far = away + 3 * aside + (astray ? ASTRAY : 0);
    if (far < least) [found, least] = [cell, far];
  }
  return found;
}

function middle(grid: CellGrid, column: number, row: number, divided: number): Point {
  return onCard(grid, (column + 0.5) / divided, (row + 0.5) / divided);
}

/** All cells with ink. */
function* inked(grids: readonly CellGrid[], divided: number): Generator<Cell> {
  for (const [index, grid] of grids.entries()) {
    for (const [down, line] of grid.ink.entries()) {
      for (let across = 0; across < line.length; across += 1) {
        if (line[across] !== "#") continue;
        yield { grid: index, column: across + grid.left * divided, row: down + grid.top * divided };
      }
    }
  }
}

/** The first cell of all that has ink. */
export function firstCell(grids: readonly CellGrid[], divided: number): Cell | null {
  for (const cell of inked(grids, divided)) return cell;
  return null;
}
