<script setup lang="ts">
// A place on the proof that can be dragged, or moved with the arrow keys.
import { startDrag } from "@/composables/useDrag";
import type { Point } from "@/model/card";
import { useOpened } from "@/stores/opened";
import { useProof } from "@/stores/proof";

const props = withDefaults(
  defineProps<{ at: Point; label: string; shape?: "round" | "square" | "small"; fill?: string }>(),
  { shape: "round", fill: "#ffffff" },
);
/** `to` is in the pane's pixels. */
const emit = defineEmits<{ to: [point: Point, alt: boolean]; remove: [] }>();
const opened = useOpened();
const proof = useProof();

function press(event: PointerEvent) {
  if (event.button !== 0) return;
  (event.currentTarget as SVGElement).focus();
  const from = { ...props.at };
  opened.dragging = true;
  startDrag(
    event,
    ({ dx, dy }, { altKey }) => emit("to", { x: from.x + dx, y: from.y + dy }, altKey),
    () => opened.endGesture(),
  );
}
function keys(event: KeyboardEvent) {
  const by = proof.scale * (event.shiftKey ? 10 : 1);
  const ways: Record<string, [number, number]> = {
    ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by],
  };
  const way = ways[event.key];
  if (way) {
    emit("to", { x: props.at.x + way[0], y: props.at.y + way[1] }, event.altKey);
    opened.endGesture();
  } else if (event.key === "Delete") emit("remove");
  else return;
  event.preventDefault();
  event.stopPropagation();
}
const RADIUS = { round: 6, square: 5, small: 4 };
</script>

<template>
  <g class="handle" tabindex="0" role="button" :aria-label="label" @pointerdown.stop="press" @keydown="keys">
    <title>{{ label }}</title>
    <circle class="reach" :cx="at.x" :cy="at.y" r="11" />
    <rect v-if="shape === 'square'" :x="at.x - 5" :y="at.y - 5" width="10" height="10" rx="1.5" :fill="fill" />
    <circle v-else :cx="at.x" :cy="at.y" :r="RADIUS[shape]" :fill="fill" />
  </g>
</template>

<style scoped>
.handle {
  pointer-events: auto;
  cursor: grab;
  touch-action: none;
  outline: none !important;
}
.handle > :not(.reach) {
  stroke: #101314;
  stroke-width: 1.5;
}
.reach {
  fill: transparent;
}
.handle:focus-visible .reach {
  stroke: var(--focus);
  stroke-width: 2;
}
</style>
