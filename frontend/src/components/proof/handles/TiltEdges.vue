<script setup lang="ts">
// The edges of a card: pushed inwards, an edge goes back and the card tilts.
import { computed } from "vue";
import { startDrag } from "@/composables/useDrag";
import type { Point } from "@/model/card";
import { numberOf, type PlacedLayer } from "@/model/title";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

const props = defineProps<{ layer: PlacedLayer; corners: Point[] }>();
const emit = defineEmits<{ turn: [changes: object] }>();
const opened = useOpened();

const STEEPEST = 85;
/** Upper, right, lower and left: which angle each turns, and to which side. */
const WAYS = [
  { turn: "turn_x", sign: 1 }, { turn: "turn_y", sign: 1 }, { turn: "turn_x", sign: -1 }, { turn: "turn_y", sign: -1 },
] as const;
const edges = computed(() =>
  WAYS.map((way, index) => {
    const [from, to] = [props.corners[index]!, props.corners[(index + 1) % 4]!];
    const opposite = props.corners[(index + 2) % 4]!;
    const half = Math.max(Math.hypot(opposite.x - to.x, opposite.y - to.y) / 2, 20);
    // Its ends stay free for the corners.
    const cut = (a: Point, b: Point) => ({ x: a.x + (b.x - a.x) * 0.12, y: a.y + (b.y - a.y) * 0.12 });
    const inwards = { x: (opposite.x - to.x) / (2 * half), y: (opposite.y - to.y) / (2 * half) };
    return { ...way, from: cut(from, to), to: cut(to, from), half, inwards };
  }),
);
type Edge = (typeof edges.value)[number];

function turn(edge: Edge, from: number, by: number) {
  const angle = Math.min(Math.max(from + edge.sign * by, -STEEPEST), STEEPEST);
  emit("turn", { [edge.turn]: Math.round(angle * 10) / 10 });
}
function press(event: PointerEvent, edge: Edge) {
  if (event.button !== 0) return;
  (event.currentTarget as SVGElement).focus();
  const from = numberOf(props.layer.placement[edge.turn]);
  opened.dragging = true;
  startDrag(
    event,
    ({ dx, dy, fine }) => {
      const pushed = dx * edge.inwards.x + dy * edge.inwards.y;
      turn(edge, from, ((pushed / edge.half) * 90) / (fine ? 10 : 1));
    },
    () => opened.endGesture(),
  );
}
function keys(event: KeyboardEvent, edge: Edge) {
  const way = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key];
  if (!way) return;
  event.preventDefault();
  event.stopPropagation();
  turn(edge, numberOf(props.layer.placement[edge.turn]), way * (event.shiftKey ? 10 : 1));
  opened.endGesture();
}
</script>

<template>
  <g>
    <path
      v-for="(edge, index) in edges"
      :key="index"
      class="edge"
      :class="edge.turn"
      :d="`M${edge.from.x} ${edge.from.y}L${edge.to.x} ${edge.to.y}`"
      tabindex="0"
      role="slider"
      :aria-label="text.handles.tilt(layer.name, text.handles.edges[index]!)"
      :aria-valuenow="numberOf(layer.placement[edge.turn])"
      :aria-valuemin="-STEEPEST"
      :aria-valuemax="STEEPEST"
      @pointerdown.stop="press($event, edge)"
      @keydown="keys($event, edge)"
    >
      <title>{{ text.handles.tilt(layer.name, text.handles.edges[index]!) }}</title>
    </path>
  </g>
</template>

<style scoped>
.edge {
  stroke: transparent;
  stroke-width: 12;
  pointer-events: stroke;
  cursor: ns-resize;
  touch-action: none;
  outline: none !important;
}
.turn_y {
  cursor: ew-resize;
}
.edge:hover {
  stroke: rgb(255 255 255 / 45%);
  stroke-width: 5;
}
.edge:focus-visible {
  stroke: var(--focus);
  stroke-width: 4;
}
</style>
