import { describe, expect, it } from "vitest";
import { connected, inside, line, mirrored, rectangle } from "@/model/cells/gestures";
import { beside, cellAt, corners, firstCell, inGrid, onCard, type CellGrid } from "@/model/cells/grids";
import {
  countOf, inkAt, onLetters, patchesOn, patchOf, sheetOf, sidesOf, withCells, withoutInk, type Painted,
} from "@/model/cells/painted";

function grid(letter: string, rows: string[], changes: Partial<CellGrid> = {}): CellGrid {
  return {
    letter, corner: [10, 20], across: 5, down: 4, left: 0, top: -rows.length, columns: rows[0]!.length, rows: rows.length,
    turned: [1, 0, 0, 1], shift: [0, 0], vanish: [0, 0], ink: rows, painted: null, side: null, of: 0, kept: null, ...changes,
  };
}
const L = grid("L", ["#...", "#...", "####"]);
const I = grid("I", ["#", "#", "#"], { corner: [40, 20], of: 1 });

describe("grids", () => {
  it("finds the cell under a place on the card, and the way back, turned letters too", () => {
    const turned = grid("L", L.ink, { turned: [0.6, -0.8, 0.8, 0.6], shift: [3, -7] });
    const place = onCard(turned, 1.6, -0.4);
    expect(inGrid(turned, place).x).toBeCloseTo(1.6);
    expect(inGrid(turned, place).y).toBeCloseTo(-0.4);
    expect(cellAt([turned], place, 1)).toEqual({ grid: 0, column: 1, row: -1 });
    expect(cellAt([turned], onCard(turned, 9, 9), 1)).toBeNull();
    expect(cellAt([turned], onCard(turned, 1.5, -2.5), 1)).toBeNull();
    expect(corners(L, 2, -2, 2)[0]).toEqual({ x: 15, y: 16 });
  });
  it("goes from cell to cell over gaps and on to the next letter", () => {
    const start = firstCell([L, I], 1)!;
    expect(start).toEqual({ grid: 0, column: 0, row: -3 });
    expect(beside([L, I], start, [0, 1], 1)).toEqual({ grid: 0, column: 0, row: -2 });
    expect(beside([L, I], start, [1, 0], 1)).toEqual({ grid: 1, column: 0, row: -3 });
    expect(beside([L, I], start, [0, -1], 1)).toEqual(start);
    expect(beside([L, I], { grid: 1, column: 0, row: -1 }, [-1, 0], 1)).toEqual({ grid: 0, column: 3, row: -1 });
  });
});

describe("sides", () => {
  const facing = (degrees: number) => ({ facing: degrees, place: [0.5, 1] as [number, number], letter: "" });
  /** Beneath L: it runs back to the right and upwards, towards where all lines meet. */
  const foot = grid("L", ["####", "####"], {
    corner: [0, 0], top: 0, turned: [1, 0.4, 0, -0.3], shift: [10, 20], vanish: [0, 0.01], side: facing(90),
  });
  const right = grid("L", ["#", "#"], {
    corner: [0, 0], top: 0, across: 4, down: 5, columns: 1, turned: [0, 0.8, 1, -0.6], shift: [30, 16], side: facing(0),
  });
  it("finds places on what is seen from aslant", () => {
    const place = onCard(foot, 2.25, 1.5);
    expect(inGrid(foot, place).x).toBeCloseTo(2.25);
    expect(inGrid(foot, place).y).toBeCloseTo(1.5);
    expect(onCard(foot, 0, 2).x).toBeLessThan(10 + 0.4 * 8);
    expect(cellAt([foot], place, 1)).toEqual({ grid: 0, column: 2, row: 1 });
  });
  it("is reached over the edge, and goes as one sees it", () => {
    const grids = [L, I, { ...foot, turned: [1, 0.4, 0, 0.3] }, right];
    const corner = { grid: 0, column: 1, row: -1 };
    expect(beside(grids, corner, [0, 1], 1)).toEqual({ grid: 2, column: 1, row: 0 });
    expect(beside(grids, { grid: 2, column: 1, row: 0 }, [0, 1], 1)).toEqual({ grid: 2, column: 1, row: 1 });
    expect(beside(grids, { grid: 2, column: 1, row: 0 }, [0, -1], 1)).toEqual(corner);
    expect(beside(grids, { grid: 0, column: 3, row: -1 }, [1, 0], 1)).toEqual({ grid: 3, column: 0, row: 0 });
    expect(beside([L, I, foot, right], { grid: 3, column: 0, row: 0 }, [1, 0], 1)).toEqual({ grid: 3, column: 0, row: 1 });
  });
  it("keeps what is painted on a side apart from the face, and follows it", () => {
    const bare: Painted = { words: "LI", inks: [{ colour: "#ffffff" }] };
    const grids = [L, I, foot];
    const painted = withCells(withCells(bare, grids, 2, [[0, 1]], 1, 1), grids, 0, [[0, -1]], 1, 1);
    expect(painted.letters).toEqual([
      { letter: 0, side: facing(90), divided: 1, left: 0, top: 1, rows: ["a"] },
      { letter: 0, divided: 1, left: 0, top: -1, rows: ["a"] },
    ]);
    expect(patchesOn(foot, painted.letters!)).toHaveLength(1);
    expect(sidesOf(painted)).toEqual([{ letter: 0, side: facing(90), rows: ["."] }]);
    const moved = { ...foot, side: facing(80), kept: facing(90), painted: 0, of: 1 };
    const now = onLetters(painted, [{ ...I, of: 0 }, { ...L, painted: 0, of: 1 }, moved]);
    expect(now.words).toBe("IL");
    expect(now.letters![0]).toMatchObject({ letter: 1, side: { facing: 80 } });
    // Turned away: it is not seen, and keeps what it has.
    expect(onLetters(painted, [L, I]).letters![0]).toMatchObject({ side: { facing: 90 } });
  });
});

describe("gestures", () => {
  it("draws lines without gaps", () => {
    const found = line([0, 0], [5, -2]);
    expect(found[0]).toEqual([0, 0]);
    expect(found.at(-1)).toEqual([5, -2]);
    expect(found).toHaveLength(6);
  });
  it("fills rectangles either way round, and what hangs together", () => {
    expect(rectangle([2, 1], [0, 0])).toHaveLength(6);
    const sheet = sheetOf(L, [], 1);
    expect(connected(L, sheet, [0, -1], 1)).toHaveLength(6);
    const parted = sheetOf(L, [{ letter: 0, top: -2, rows: ["a"] }], 1);
    expect(connected(L, parted, [0, -1], 1)).toHaveLength(4);
    expect(connected(L, parted, [1, -3], 1)).toHaveLength(0);
  });
  it("mirrors about the letter's middle and stays in its ink", () => {
    const both = mirrored(L, [[0, -3]], 1, { across: true, down: true });
    expect(both).toContainEqual([3, -1]);
    expect(inside(L, both, 1)).toEqual([[0, -3], [0, -1], [3, -1]]);
  });
});

describe("painted cells", () => {
  const bare: Painted = { words: "LI", inks: [{ colour: "#ffffff" }, { colour: "#000000" }] };
  it("keeps a letter no finer than it must be", () => {
    const whole = withCells(bare, [L, I], 0, [[0, -6], [1, -6], [0, -5], [1, -5]], 2, 1);
    expect(whole.letters).toEqual([{ letter: 0, divided: 1, left: 0, top: -3, rows: ["a"] }]);
    const part = withCells(whole, [L, I], 0, [[1, -6]], 2, 0);
    expect(part.letters![0]).toMatchObject({ divided: 2, rows: ["a.", "aa"] });
    expect(withCells(whole, [L, I], 0, [[0, -3]], 1, 0).letters).toEqual([]);
  });
  it("paints coarse cells over fine ones, and keeps the other letters", () => {
    const fine = withCells(bare, [L, I], 1, [[3, -12]], 4, 2);
    const both = withCells(withCells(fine, [L, I], 0, [[0, -1]], 1, 1), [L, I], 1, [[0, -3]], 1, 1);
    expect(both.letters!.map((each) => each.rows)).toEqual([["a"], ["a"]]);
    expect(countOf(both)).toBe(2);
    expect(inkAt(sheetOf(I, [both.letters![1]!], 1), 0, -3, 1)).toBe(1);
    expect(patchOf(sheetOf(I, [], 1), I)).toBeNull();
  });
  it("follows its letters to other words", () => {
    const there = withCells(bare, [L, I], 1, [[0, -1]], 1, 1);
    const now = onLetters(there, [{ ...I, painted: 1, of: 0 }, { ...L, painted: 0, of: 1 }]);
    expect(now.words).toBe("IL");
    expect(now.letters![0]).toMatchObject({ letter: 0, rows: ["a"] });
    expect(onLetters(there, [{ ...L, painted: 0 }]).letters).toEqual([]);
  });
  it("takes an ink away with its cells; later inks keep theirs", () => {
    const two = withCells(withCells(bare, [L, I], 0, [[0, -3]], 1, 1), [L, I], 0, [[0, -2]], 1, 2);
    const left = withoutInk(two, 0);
    expect(left.inks).toEqual([{ colour: "#000000" }]);
    expect(left.letters![0]!.rows).toEqual([".", "a"]);
  });
});
