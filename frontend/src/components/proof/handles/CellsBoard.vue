<script setup lang="ts">
// The cells of the selected step on the tilted face: painted with the pointer, or with the keys.
import { computed, ref, watchEffect } from "vue";
import Outline from "./Outline.vue";
import { useCard } from "@/composables/useCard";
import { useCells } from "@/composables/useCells";
import { startDrag } from "@/composables/useDrag";
import { rectangle } from "@/model/cells/gestures";
import { beside, cellAt, corners, firstCell, hasInk, onCard, type Cell, type CellGrid } from "@/model/cells/grids";
import type { Point } from "@/model/card";
import { useBrush } from "@/stores/brush";
import { useCellPainting } from "@/stores/cells";
import { useProof } from "@/stores/proof";
import { text } from "@/text";

const brush = useBrush();
const painting = useCellPainting();
const proof = useProof();
const { painted, grids, divided } = useCells();
const { toPane, fromPane } = useCard();
const over = ref<Cell | null>(null);

const path = (points: readonly Point[]) => `M${points.map(({ x, y }) => `${x.toFixed(2)} ${y.toFixed(2)}`).join("L")}Z`;
const cellPath = (cell: Cell) => {
  const grid = grids.value[cell.grid];
  return grid ? path(corners(grid, cell.column, cell.row, divided.value).map(toPane)) : "";
};
function edge({ left, top, columns, rows }: CellGrid): [number, number][] {
  return [[left, top], [left + columns, top], [left + columns, top + rows], [left, top + rows]];
}
const areas = computed(() =>
  grids.value.map((grid) => path(edge(grid).map(([x, y]) => toPane(onCard(grid, x, y))))),
);
/** Lines between cells, of the letters that are painted on; whole cells where parts are too small. */
const lines = computed(() => grids.value.map((grid) => {
  const wide = toPane(onCard(grid, grid.left + 1, grid.top)).x - toPane(onCard(grid, grid.left, grid.top)).x;
  const parts = Math.abs(wide) / divided.value < 5 ? 1 : divided.value;
  const [right, foot] = [grid.left + grid.columns, grid.top + grid.rows];
  const between = (from: Point, to: Point) => `M${from.x.toFixed(1)} ${from.y.toFixed(1)}L${to.x.toFixed(1)} ${to.y.toFixed(1)}`;
  const at = (x: number, y: number) => toPane(onCard(grid, x, y));
  const upright = Array.from({ length: grid.columns * parts + 1 }, (_, i) => grid.left + i / parts);
  const level = Array.from({ length: grid.rows * parts + 1 }, (_, i) => grid.top + i / parts);
  return [...upright.map((x) => between(at(x, grid.top), at(x, foot))), ...level.map((y) => between(at(grid.left, y), at(right, y)))].join("");
}));
const colour = computed(() => (brush.tool === "erase" ? "none" : (painted.value?.inks?.[brush.ink]?.colour ?? "#fff6dc")));
/** What a rectangle will paint, while it is drawn. */
const boxed = computed(() => {
  const [from, to] = [brush.corner, brush.cursor];
  const grid = from && grids.value[from.grid];
  if (!grid || to?.grid !== from.grid) return "";
  return rectangle([from.column, from.row], [to.column, to.row])
    .filter(([x, y]) => hasInk(grid, x, y, divided.value))
    .map(([x, y]) => path(corners(grid, x, y, divided.value).map(toPane)))
    .join("");
});
const said = computed(() => {
  const cell = brush.cursor;
  const grid = cell && grids.value[cell.grid];
  if (!cell || !grid) return "";
  const ink = painting.inkOf(cell);
  const column = cell.column - grid.left * divided.value + 1;
  const row = cell.row - grid.top * divided.value + 1;
  return text.cells.at(grid, column, row, ink ? (painted.value?.inks?.[ink - 1]?.colour ?? "") : "");
});
watchEffect(() => (brush.said = said.value));

function under(event: PointerEvent): Cell | null {
  const box = (event.currentTarget as SVGElement | null)?.ownerSVGElement?.getBoundingClientRect() ?? pane?.getBoundingClientRect();
  const place = box && fromPane({ x: event.clientX - box.left, y: event.clientY - box.top });
  return place ? cellAt(grids.value, place, divided.value) : null;
}
let pane: SVGSVGElement | null = null;
function hover(event: PointerEvent) {
  over.value = under(event);
}
function press(event: PointerEvent) {
  if (event.button !== 0) return;
  const board = event.currentTarget as SVGElement;
  pane = board.ownerSVGElement;
  board.focus();
  const cell = under(event);
  if (!cell) return;
  painting.begin(cell);
  startDrag(
    event,
    (_, moved) => {
      const next = under(moved);
      over.value = next;
      if (next) painting.go(next);
    },
    () => painting.end(),
  );
}

const WAYS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1],
};
function move(way: [number, number], paints: boolean) {
  const from = brush.cursor ?? firstCell(grids.value, divided.value);
  if (!from) return;
  const to = brush.cursor ? beside(grids.value, from, way, divided.value) : from;
  if (paints && !brush.painting) painting.begin(from);
  if (paints) painting.go(to);
  brush.cursor = to;
}
function use(cell: Cell) {
  if (brush.tool === "rectangle" && !brush.corner) {
    brush.corner = cell;
    return;
  }
  if (brush.tool !== "rectangle") painting.begin(cell);
  painting.end();
}
function keys(event: KeyboardEvent) {
  const way = WAYS[event.key];
  if (way) move(way, event.shiftKey && brush.tool !== "rectangle");
  else if ((event.key === " " || event.key === "Enter") && brush.cursor) use(brush.cursor);
  else if (event.key === "Escape") leave();
  else return;
  event.preventDefault();
  event.stopPropagation();
}
function lift(event: KeyboardEvent) {
  if (event.key === "Shift" && brush.painting) painting.end();
}
function leave() {
  if (brush.painting) painting.end();
  if (brush.corner) brush.corner = null;
  else brush.take(null);
}
function focused() {
  const grid = brush.cursor && grids.value[brush.cursor.grid];
  if (!grid || !hasInk(grid, brush.cursor!.column, brush.cursor!.row, divided.value)) {
    brush.cursor = firstCell(grids.value, divided.value);
  }
}
</script>

<template>
  <g
    v-if="brush.active && grids.length"
    class="board"
    tabindex="0"
    role="application"
    :aria-label="text.cells.board"
    @pointerdown.stop="press"
    @pointermove="hover"
    @pointerleave="over = null"
    @keydown="keys"
    @keyup="lift"
    @focus="focused"
    @blur="brush.painting && painting.end()"
  >
    <path v-for="(area, index) in areas" :key="`area ${index}`" class="area" :d="area" />
    <template v-if="proof.scale > 0">
      <path v-for="(line, index) in lines" :key="`lines ${index}`" class="lines" :d="line" />
    </template>
    <path v-if="boxed" class="boxed" :d="boxed" :fill="colour" />
    <path v-if="over" class="over" :d="cellPath(over)" :fill="colour" />
    <Outline v-if="brush.cursor" class="cursor" :d="cellPath(brush.cursor)" />
  </g>
</template>

<style scoped>
.board {
  pointer-events: auto;
  cursor: crosshair;
  touch-action: none;
  outline: none !important;
}
.area {
  fill: transparent;
}
.lines {
  fill: none;
  stroke: #fff;
  stroke-opacity: 0.28;
  stroke-width: 0.75;
  pointer-events: none;
}
.boxed,
.over {
  fill-opacity: 0.75;
  stroke: #101314;
  stroke-width: 0.75;
  pointer-events: none;
}
.cursor {
  display: none;
}
.board:focus-visible .cursor,
.board:focus .cursor {
  display: inline;
}
</style>
