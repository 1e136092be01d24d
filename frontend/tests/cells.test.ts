import { describe, expect, it } from "vitest";
import { connected, inside, line, mirrored, rectangle } from "@/model/cells/gestures";
import { beside, cellAt, corners, firstCell, inGrid, onCard, type CellGrid } from "@/model/cells/grids";
import { countOf, inkAt, onLetters, patchOf, sheetOf, withCells, withoutInk, type Painted } from "@/model/cells/painted";

function grid(letter: string, rows: string[], changes: Partial<CellGrid> = {}): CellGrid {
  return {
    letter, corner: [10, 20], across: 5, down: 4, left: 0, top: -rows.length, columns: rows[0]!.length, rows: rows.length,
    turned: [1, 0, 0, 1], shift: [0, 0], ink: rows, painted: null, ...changes,
  };
}
const L = grid("L", ["#...", "#...", "####"]);
const I = grid("I", ["#", "#", "#"], { corner: [40, 20] });

describe("grids", () => {
  it("finds the cell under a place on the card, and the way back, turned letters too", () => {
    const turned = grid("L", L.ink, { turned: [0.6, -0.8, 0.8, 0.6], shift: [3, -7] });
    const place = onCard(turned, 1.6, -0.4);
    expect(inGrid(turned, place).x).toBeCloseTo(1.6);
    expect(inGrid(turned, place).y).toBeCloseTo(-0.4);
    expect(cellAt([turned], place, 2)).toEqual({ grid: 0, column: 3, row: -1 });
    expect(cellAt([turned], onCard(turned, 9, 9), 2)).toBeNull();
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
    expect(patchOf(sheetOf(I, [], 1), 1)).toBeNull();
  });
  it("follows its letters to other words", () => {
    const there = withCells(bare, [L, I], 1, [[0, -1]], 1, 1);
    const now = onLetters(there, [{ ...I, painted: 1 }, { ...L, painted: 0 }]);
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
