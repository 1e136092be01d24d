<script setup lang="ts">
// A curve through points. Click adds, drag moves, double click or Delete removes.
import { computed, ref } from "vue";
import { startDrag } from "@/composables/useDrag";
import type { CurvePoint } from "@/model/title";
import { text } from "@/text";

const props = defineProps<{ label: string; modelValue: CurvePoint[]; help?: string }>();
const emit = defineEmits<{ "update:modelValue": [value: CurvePoint[]]; done: [] }>();

const SIZE = 120;
const WIDE = 250;
const GAP = 0.004;
const board = ref<SVGSVGElement | null>(null);

// The engine's own curve (Fritsch and Butland's slopes), drawn as cubic Béziers.
const line = computed(() => {
  const points = props.modelValue;
  const slopes = slopesOf(points);
  let path = "";
  points.forEach(([x, y], i) => {
    const before = points[i - 1];
    if (!before) {
      path = `M 0 ${down(y)} L ${x * WIDE} ${down(y)}`;
      return;
    }
    const third = (x - before[0]) / 3;
    path +=
      ` C ${(before[0] + third) * WIDE} ${down(before[1] + (slopes[i - 1] ?? 0) * third)}` +
      ` ${(x - third) * WIDE} ${down(y - (slopes[i] ?? 0) * third)} ${x * WIDE} ${down(y)}`;
  });
  return `${path} L ${WIDE} ${down(points.at(-1)?.[1] ?? 0)}`;
});

function slopesOf(points: CurvePoint[]): number[] {
  const steps = points.slice(1).map(([x, y], i) => {
    const [x0, y0] = points[i] ?? [0, 0];
    return { h: x - x0, d: (y - y0) / (x - x0) };
  });
  return points.map((_, i) => {
    const before = steps[i - 1];
    const after = steps[i];
    if (!before || !after) return (before ?? after)?.d ?? 0;
    if (before.d * after.d <= 0) return 0;
    const [w1, w2] = [2 * after.h + before.h, after.h + 2 * before.h];
    return (w1 + w2) / (w1 / before.d + w2 / after.d);
  });
}

function down(y: number): number {
  return (1 - y) * SIZE;
}
function place(event: { clientX: number; clientY: number }): CurvePoint {
  const box = board.value!.getBoundingClientRect();
  return [unit((event.clientX - box.left) / box.width), unit(1 - (event.clientY - box.top) / box.height)];
}
function unit(value: number): number {
  return Math.round(Math.min(Math.max(value, 0), 1) * 1000) / 1000;
}

function add(event: PointerEvent) {
  const point = place(event);
  const points = [...props.modelValue];
  const at = points.findIndex(([x]) => x > point[0]);
  points.splice(at < 0 ? points.length : at, 0, point);
  if (points.some(([x], i) => i > 0 && x - (points[i - 1]?.[0] ?? 0) < GAP)) return;
  emit("update:modelValue", points);
  grab(event, at < 0 ? points.length - 1 : at);
}
function grab(event: PointerEvent, index: number) {
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
  const move_: Record<string, [number, number]> = {
    ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, by], ArrowDown: [0, -by],
  };
  const step = move_[event.key];
  if (!point || !step) return;
  event.preventDefault();
  move(index, [point[0] + step[0], point[1] + step[1]]);
  emit("done");
}
</script>

<template>
  <div class="curve">
    <span :title="help">{{ label }}</span>
    <svg
      ref="board"
      :viewBox="`0 0 ${WIDE} ${SIZE}`"
      preserveAspectRatio="none"
      role="group"
      :aria-label="`${label}. ${text.curve.help}`"
      @pointerdown.self="add"
    >
      <path class="grid" :d="`M0 ${SIZE / 2}H${WIDE}M${WIDE / 2} 0V${SIZE}`" />
      <path class="line" :d="line" />
      <circle
        v-for="([x, y], index) in modelValue"
        :key="index"
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
  </div>
</template>

<style scoped>
.curve {
  display: grid;
  gap: 4px;
  padding: 4px 0;
}
svg {
  width: 100%;
  height: 120px;
  overflow: visible;
  background: var(--raised);
  border: 1px solid var(--line);
  border-radius: 4px;
  touch-action: none;
  cursor: crosshair;
}
.grid {
  stroke: var(--line);
  fill: none;
  pointer-events: none;
}
.line {
  stroke: var(--accent);
  stroke-width: 2;
  fill: none;
  vector-effect: non-scaling-stroke;
  pointer-events: none;
}
circle {
  fill: var(--ink);
  cursor: grab;
}
</style>
