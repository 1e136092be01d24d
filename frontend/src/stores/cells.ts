// Painting in the cells of the selected step.
import { defineStore } from "pinia";
import { useCells } from "@/composables/useCells";
import { connected, inside, line, mirrored, rectangle, type Pair } from "@/model/cells/gestures";
import type { Cell } from "@/model/cells/grids";
import { inkAt, onLetters, patchesOn, sheetOf, withCells, withoutInk, type Ink, type Painted } from "@/model/cells/painted";
import { coloursOf } from "@/model/palette";
import { useBrush } from "./brush";
import { useMotion } from "./motion";
import { useOpened } from "./opened";

const FRESH: Ink = { colour: "#fff6dc" };

export const useCellPainting = defineStore("cell painting", () => {
  const brush = useBrush();
  const motion = useMotion();
  const opened = useOpened();
  const { painted, place, grids, divided } = useCells();
  let last: Cell | null = null;
  let strokes = 0;

  const pair = (cell: Cell): Pair => [cell.column, cell.row];
  const gesture = () => `cells ${strokes}`;

  function write(next: Painted): void {
    if (place.value) motion.set(place.value, next, gesture());
  }
  /** What is painted, on the letters of now, with at least one ink. */
  function ready(): Painted {
    const now = onLetters(painted.value ?? {}, grids.value);
    return now.inks?.length ? now : { ...now, inks: [{ colour: coloursOf(opened.title)[0] ?? FRESH.colour }] };
  }
  function put(at: number, cells: readonly Pair[], ink: number): void {
    const grid = grids.value[at];
    if (!grid) return;
    const all = inside(grid, mirrored(grid, cells, divided.value, brush.mirrors), divided.value);
    write(withCells(ready(), grids.value, at, all, divided.value, ink));
  }
  function sheet(at: number) {
    const grid = grids.value[at]!;
    return sheetOf(grid, patchesOn(grid, ready().letters ?? []), divided.value);
  }
  /** The number of the ink in a cell, from 1 on; 0 for none. */
  function inkOf(cell: Cell): number {
    return grids.value[cell.grid] ? inkAt(sheet(cell.grid), cell.column, cell.row, divided.value) : 0;
  }
  const paint = () => (brush.tool === "erase" ? 0 : brush.ink + 1);

  /** A stroke begins in a cell. */
  function begin(cell: Cell): void {
    strokes += 1;
    last = cell;
    brush.cursor = cell;
    brush.painting = true;
    const { tool } = brush;
    if (tool === "paint" || tool === "erase") put(cell.grid, [pair(cell)], paint());
    else if (tool === "rectangle") brush.corner = cell;
    else if (tool === "fill") put(cell.grid, connected(grids.value[cell.grid]!, sheet(cell.grid), pair(cell), divided.value), paint());
    else if (tool === "pick") pick(cell);
  }
  /** It goes on to another cell. */
  function go(cell: Cell): void {
    if (!last || !brush.painting) return;
    brush.cursor = cell;
    if (brush.tool === "paint" || brush.tool === "erase") {
      put(cell.grid, last.grid === cell.grid ? line(pair(last), pair(cell)) : [pair(cell)], paint());
      last = cell;
    }
  }
  /** It ends, where it was last. */
  function end(): void {
    if (brush.tool === "rectangle" && brush.corner && brush.cursor?.grid === brush.corner.grid) {
      put(brush.corner.grid, rectangle(pair(brush.corner), pair(brush.cursor)), paint());
    }
    brush.corner = null;
    brush.painting = false;
    last = null;
    opened.endGesture();
  }
  function pick(cell: Cell): void {
    const ink = inkOf(cell);
    if (ink) brush.ink = ink - 1;
    brush.take("paint");
  }

  function setInk(at: number, changes: Partial<Ink>): void {
    const now = ready();
    write({ ...now, inks: now.inks!.map((each, index) => (index === at ? { ...each, ...changes } : each)) });
  }
  function addInk(colour: string): void {
    const now = painted.value?.inks?.length ? ready() : { ...onLetters(painted.value ?? {}, grids.value), inks: [] };
    write({ ...now, inks: [...(now.inks ?? []), { colour }] });
    opened.endGesture();
    brush.ink = now.inks?.length ?? 0;
  }
  function removeInk(at: number): void {
    strokes += 1;
    write(withoutInk(ready(), at));
    opened.endGesture();
    brush.ink = Math.max(0, Math.min(brush.ink, (painted.value?.inks?.length ?? 1) - 1));
  }
  function clear(): void {
    strokes += 1;
    write({ ...ready(), letters: [] });
    opened.endGesture();
  }
  return { begin, go, end, inkOf, setInk, addInk, removeInk, clear };
});
