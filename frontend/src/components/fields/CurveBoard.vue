<script setup lang="ts">
// A curve on a board: click adds a point, drag moves it, double click or Delete removes it; or the
// line is drawn with the pointer.
import { computed, ref } from "vue";
import { startDrag } from "@/composables/useDrag";
import { curvePath, GAP, simplified, unit, valueAt } from "@/model/curve";
import type { CurvePoint } from "@/model/title";
import { text } from "@/text";

const props = defineProps<{
  label: string;
  modelValue: CurvePoint[];
  drawing?: boolean;
  colour?: string;
  histogram?: number[] | null;
  /** Input under the pointer, 0 to 1. */
  pointer?: number | null;
}>();
const emit = defineEmits<{ "update:modelValue": [value: CurvePoint[]]; done: []; start: []; drawn: [] }>();

const SIZE = 120;
const WIDE = 250;
const board = ref<SVGSVGElement | null>(null);
const trail = ref<CurvePoint[]>([]);
const line = computed(() => curvePath(props.modelValue, WIDE, SIZE));
const tallest = computed(() => {
  const sorted = [...(props.histogram ?? [])].sort((a, b) => b - a);
  return Math.max((sorted[2] ?? 0) * 1.15, 1e-6);
});
const down = (y: number) => (1 - y) * SIZE;

function place(event: { clientX: number; clientY: number }): CurvePoint {
  const box = board.value!.getBoundingClientRect();
  return [unit((event.clientX - box.left) / box.width), unit(1 - (event.clientY - box.top) / box.height)];
}
function press(event: PointerEvent) {
  if (props.drawing) draw(event);
  else add(event);
}
function draw(event: PointerEvent) {
  trail.value = [place(event)];
  startDrag(
    event,
    ({ x, y }) => (trail.value = [...trail.value, place({ clientX: x, clientY: y })]),
    () => {
      const points = simplified(trail.value);
      trail.value = [];
      if (points.length > 1) emit("update:modelValue", points);
      emit("done");
      emit("drawn");
    },
  );
}
function add(event: PointerEvent) {
  const point = place(event);
  const points = [...props.modelValue];
  const at = points.findIndex(([x]) => x > point[0]);
  points.splice(at < 0 ? points.length : at, 0, point);
  if (points.some(([x], i) => i > 0 && x - (points[i - 1]?.[0] ?? 0) < GAP)) return;
  emit("start");
  emit("update:modelValue", points);
  grab(event, at < 0 ? points.length - 1 : at);
}
function grab(event: PointerEvent, index: number) {
  emit("start");
  startDrag(event, (step) => move(index, place({ clientX: step.x, clientY: step.y })), () => emit("done"));
}
function move(index: number, [x, y]: CurvePoint) {
  const points = props.modelValue.map((point) => [...point] as CurvePoint);
  const low = (points[index - 1]?.[0] ?? -GAP) + GAP;
  const high = (points[index + 1]?.[0] ?? 1 + GAP) - GAP;
  points[index] = [unit(Math.min(Math.max(x, low), high)), y];
  emit("update:modelValue", points);
}
function remove(index: number) {
  if (props.modelValue.length <= 2) return;
  emit("update:modelValue", props.modelValue.filter((_, i) => i !== index));
  emit("done");
}
function nudge(index: number, event: KeyboardEvent) {
  const point = props.modelValue[index];
  const by = event.shiftKey ? 0.05 : 0.01;
  const ways: Record<string, [number, number]> = {
    ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, by], ArrowDown: [0, -by],
  };
  const way = ways[event.key];
  if (!point || !way) return;
  event.preventDefault();
  move(index, [point[0] + way[0], unit(point[1] + way[1])]);
  emit("done");
}
</script>

<template>
  <svg
    ref="board"
    class="board"
    :class="{ drawing }"
    :viewBox="`0 0 ${WIDE} ${SIZE}`"
    preserveAspectRatio="none"
    role="group"
    :aria-label="`${label}. ${text.curve.help}`"
    @pointerdown.self="press"
  >
    <g v-if="histogram" class="histogram">
      <rect
        v-for="(share, i) in histogram"
        :key="i"
        :x="(i / histogram.length) * WIDE"
        :width="WIDE / histogram.length - 0.5"
        :y="SIZE - Math.min((share / tallest) * SIZE, SIZE)"
        :height="Math.min((share / tallest) * SIZE, SIZE)"
      />
    </g>
    <path class="grid" :d="`M0 ${SIZE / 2}H${WIDE}M${WIDE / 2} 0V${SIZE}`" />
    <path class="line" :d="line" :style="{ stroke: colour }" />
    <polyline v-if="trail.length" class="line trail" :points="trail.map(([x, y]) => `${x * WIDE},${down(y)}`).join(' ')" />
    <g v-if="pointer != null" class="pointer">
      <path :d="`M${pointer * WIDE} 0V${SIZE}`" />
      <circle :cx="pointer * WIDE" :cy="down(valueAt(modelValue, pointer))" r="4" />
    </g>
    <circle
      v-for="([x, y], index) in modelValue"
      :key="index"
      class="point"
      :cx="x * WIDE"
      :cy="down(y)"
      r="5"
      tabindex="0"
      role="slider"
      :aria-label="`${label} ${index + 1}`"
      :aria-valuenow="y"
      :aria-valuetext="`${x}, ${y}`"
      @pointerdown.stop="grab($event, index)"
      @dblclick="remove(index)"
      @keydown="nudge(index, $event)"
      @keydown.delete="remove(index)"
    />
  </svg>
</template>

<style scoped>
.board {
  width: 100%;
  height: 120px;
  overflow: visible;
  background: var(--raised);
  border: 1px solid var(--line);
  border-radius: 4px;
  touch-action: none;
  cursor: crosshair;
}
.histogram,
.grid,
.line,
.pointer {
  pointer-events: none;
}
.histogram rect {
  fill: color-mix(in srgb, var(--ink) 16%, transparent);
}
.grid {
  stroke: var(--line);
  fill: none;
}
.line {
  stroke: var(--accent);
  stroke-width: 2;
  fill: none;
  vector-effect: non-scaling-stroke;
}
.trail {
  stroke: var(--active);
}
.pointer path {
  stroke: var(--active);
  stroke-width: 1.5;
  vector-effect: non-scaling-stroke;
}
.pointer circle {
  fill: var(--active);
}
.point {
  fill: var(--ink);
  cursor: grab;
}
.board.drawing .point {
  pointer-events: none;
  opacity: 0.3;
}
</style>
