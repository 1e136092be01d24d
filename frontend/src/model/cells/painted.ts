// Cells painted by hand, as a document has them (mabrel/title/painted.py), and as sheets to paint on.
import type { CellGrid, Side } from "./grids";

export interface Ink {
  colour: string;
  height?: number;
}
export interface Patch {
  letter?: number;
  side?: Side | null;
  divided?: number;
  left?: number;
  top?: number;
  rows: string[];
}
export interface Painted {
  words?: string;
  inks?: Ink[];
  letters?: Patch[];
}
export const INKS = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789";
const NONE = ".";

/** The cells of one letter: numbers of inks from 1 on, 0 for none. */
export interface Sheet {
  divided: number;
  /** Of the first cell, in parts. */
  left: number;
  top: number;
  columns: number;
  rows: number;
  cells: Uint8Array;
}

function blank(divided: number, left: number, top: number, columns: number, rows: number): Sheet {
  return { divided, left, top, columns, rows, cells: new Uint8Array(columns * rows) };
}

/** A sheet over all of a grid and all that is painted there, divided at least so far. */
export function sheetOf(grid: CellGrid, patches: readonly Patch[], divided: number): Sheet {
  const fine = Math.max(divided, ...patches.map((each) => each.divided ?? 1));
  const boxes = patches.map((each) => {
    const parts = fine / (each.divided ?? 1);
    const [left, top] = [(each.left ?? 0) * parts, (each.top ?? 0) * parts];
    return [left, top, left + each.rows[0]!.length * parts, top + each.rows.length * parts] as const;
  });
  const [x, y] = [grid.left * fine, grid.top * fine];
  const left = Math.min(x, ...boxes.map((each) => each[0]));
  const top = Math.min(y, ...boxes.map((each) => each[1]));
  const right = Math.max(x + grid.columns * fine, ...boxes.map((each) => each[2]));
  const foot = Math.max(y + grid.rows * fine, ...boxes.map((each) => each[3]));
  const sheet = blank(fine, left, top, right - left, foot - top);
  for (const patch of patches) lay(sheet, patch);
  return sheet;
}

function lay(sheet: Sheet, patch: Patch): void {
  const divided = patch.divided ?? 1;
  for (const [row, line] of patch.rows.entries()) {
    for (let column = 0; column < line.length; column += 1) {
      const ink = INKS.indexOf(line[column]!) + 1;
      if (ink) put(sheet, (patch.left ?? 0) + column, (patch.top ?? 0) + row, divided, ink);
    }
  }
}

/** Another ink in one cell, which may be a coarse one. */
function put(sheet: Sheet, column: number, row: number, divided: number, ink: number): void {
  const parts = sheet.divided / divided;
  for (let y = row * parts; y < (row + 1) * parts; y += 1) {
    for (let x = column * parts; x < (column + 1) * parts; x += 1) {
      const [across, down] = [x - sheet.left, y - sheet.top];
      if (across >= 0 && down >= 0 && across < sheet.columns && down < sheet.rows) {
        sheet.cells[down * sheet.columns + across] = ink;
      }
    }
  }
}

/** The ink of a cell: that in its upper left part; 0 for none. */
export function inkAt(sheet: Sheet, column: number, row: number, divided: number): number {
  const parts = sheet.divided / divided;
  const [across, down] = [column * parts - sheet.left, row * parts - sheet.top];
  if (across < 0 || down < 0 || across >= sheet.columns || down >= sheet.rows) return 0;
  return sheet.cells[down * sheet.columns + across] ?? 0;
}

function same(a: Side, b: Side): boolean {
  return a.facing === b.facing && a.place[0] === b.place[0] && a.place[1] === b.place[1] && (a.letter ?? "") === (b.letter ?? "");
}

/** What is painted on one grid: on the face of its letter, or on one side. */
export function patchesOn(grid: CellGrid, patches: readonly Patch[]): Patch[] {
  return patches.filter((each) => (each.letter ?? 0) === grid.of && (grid.side ? !!each.side && same(each.side, grid.side) : !each.side));
}

/** A sheet as a document has it: cut to what is painted, no finer than it must be; null if blank. */
export function patchOf(sheet: Sheet, { of, side }: CellGrid): Patch | null {
  const coarse = coarsest(sheet);
  let [left, top, right, foot] = [Infinity, Infinity, -Infinity, -Infinity];
  coarse.cells.forEach((ink, at) => {
    if (!ink) return;
    const [x, y] = [at % coarse.columns, Math.floor(at / coarse.columns)];
    [left, top, right, foot] = [Math.min(left, x), Math.min(top, y), Math.max(right, x), Math.max(foot, y)];
  });
  if (right < left) return null;
  const rows = Array.from({ length: foot - top + 1 }, (_, y) =>
    Array.from({ length: right - left + 1 }, (__, x) => {
      const ink = coarse.cells[(y + top) * coarse.columns + x + left]!;
      return ink ? INKS[ink - 1]! : NONE;
    }).join(""),
  );
  const letter = side ? { letter: of, side } : { letter: of };
  return { ...letter, divided: coarse.divided, left: coarse.left + left, top: coarse.top + top, rows };
}

/** The same in fewer parts, as long as nothing is lost. */
function coarsest(sheet: Sheet): Sheet {
  const even = sheet.divided > 1 && [sheet.left, sheet.top, sheet.columns, sheet.rows].every((each) => each % 2 === 0);
  if (!even) return sheet;
  const half = blank(sheet.divided / 2, sheet.left / 2, sheet.top / 2, sheet.columns / 2, sheet.rows / 2);
  for (let y = 0; y < half.rows; y += 1) {
    for (let x = 0; x < half.columns; x += 1) {
      const at = 2 * y * sheet.columns + 2 * x;
      const four = [at, at + 1, at + sheet.columns, at + sheet.columns + 1].map((each) => sheet.cells[each]!);
      if (four.some((ink) => ink !== four[0])) return sheet;
      half.cells[y * half.columns + x] = four[0]!;
    }
  }
  return coarsest(half);
}

/** The letters whose faces have grids. */
export function facesOf(grids: readonly CellGrid[]): CellGrid[] {
  return grids.filter((grid) => !grid.side);
}

/** What is painted, as it lies on the letters that are there now: what has none is gone. Sides that
 * are not seen keep what they have. */
export function onLetters(painted: Painted, grids: readonly CellGrid[]): Painted {
  const words = facesOf(grids).map((grid) => grid.letter).join("");
  const others = words !== (painted.words ?? "");
  const now = new Map(facesOf(grids).flatMap((grid) => (grid.painted == null ? [] : [[grid.painted, grid.of] as const])));
  const letters = (painted.letters ?? []).flatMap((patch) => {
    const was = patch.letter ?? 0;
    const letter = others ? now.get(was) : was;
    if (letter === undefined) return [];
    const grid = patch.side && grids.find((each) => each.kept && each.painted === was && same(each.kept, patch.side!));
    return [grid ? { ...patch, letter, side: grid.side } : { ...patch, letter }];
  });
  return { ...painted, words, letters };
}

/** One of each side on which any are painted, without its cells: enough to ask where they lie now. */
export function sidesOf(painted: Painted): Patch[] {
  const found = new Map<string, Patch>();
  for (const { letter = 0, side } of painted.letters ?? []) {
    if (side) found.set(JSON.stringify([letter, side]), { letter, side, rows: [NONE] });
  }
  return [...found.values()];
}

/** With other cells on one grid. `cells` are (column, row) in parts; ink 0 takes away. */
export function withCells(
  painted: Painted, grids: readonly CellGrid[], at: number, cells: readonly (readonly [number, number])[], divided: number,
  ink: number,
): Painted {
  const grid = grids[at];
  if (!grid || !cells.length) return painted;
  const own = patchesOn(grid, painted.letters ?? []);
  const sheet = sheetOf(grid, own, divided);
  for (const [column, row] of cells) put(sheet, column, row, divided, ink);
  const patch = patchOf(sheet, grid);
  const others = (painted.letters ?? []).filter((each) => !own.includes(each));
  const letters = [...others, ...(patch ? [patch] : [])].sort((a, b) => (a.letter ?? 0) - (b.letter ?? 0));
  return { ...painted, letters };
}

/** Without one ink: its cells are none, those of later ones keep theirs. */
export function withoutInk(painted: Painted, at: number): Painted {
  const renamed = (code: string) => {
    const place = INKS.indexOf(code);
    if (place < 0) return code;
    return place === at ? NONE : INKS[place > at ? place - 1 : place]!;
  };
  const letters = (painted.letters ?? []).map((each) => ({
    ...each, rows: each.rows.map((row) => [...row].map(renamed).join("")),
  }));
  return {
    ...painted,
    inks: (painted.inks ?? []).filter((_, index) => index !== at),
    letters: letters.filter((each) => each.rows.some((row) => /[^.]/.test(row))),
  };
}

/** How many cells are painted. */
export function countOf(painted: Painted): number {
  return (painted.letters ?? []).reduce(
    (sum, each) => sum + each.rows.reduce((row, line) => row + line.replaceAll(NONE, "").length, 0), 0,
  );
}
