<script setup lang="ts">
// A number over time as a line; between two pegs it can be taken hold of; drift is a band around it.
import { computed } from "vue";
import type { Peg } from "@/model/time/varying";
import { useTimeline } from "@/stores/timeline";
import { text } from "@/text";

const props = defineProps<{
  line: [number, number][];
  y: (value: number) => number;
  drift: number;
  base: (time: number) => number;
  pegs: Peg[];
  label: string;
}>();
const emit = defineEmits<{ piece: [event: PointerEvent, number: number]; drift: [event: PointerEvent, way: 1 | -1] }>();
const timeline = useTimeline();

const pathOf = (points: [number, number][]) =>
  points.map(([time, value], i) => `${i ? "L" : "M"}${timeline.x(time).toFixed(1)} ${props.y(value).toFixed(1)}`).join("");
const path = computed(() => pathOf(props.line));
const pieces = computed(() =>
  props.pegs.slice(1).map((peg, i) => pathOf(props.line.filter(([time]) => time >= props.pegs[i]!.at - 1e-9 && time <= peg.at + 1e-9))),
);
const bands = computed(() => {
  if (!props.drift) return null;
  const middle = props.line.map(([time]) => [time, props.base(time)] as [number, number]);
  const up = middle.map(([time, value]) => [time, value + props.drift] as [number, number]);
  const down = middle.map(([time, value]) => [time, value - props.drift] as [number, number]);
  return { up: pathOf(up), down: pathOf(down), area: `${pathOf(up)}${pathOf(down.reverse()).replace("M", "L")}Z` };
});
</script>

<template>
  <g>
    <path v-if="bands" class="area" :d="bands.area" />
    <path class="line" :d="path" />
    <path
      v-for="(piece, i) in pieces"
      :key="i"
      class="piece"
      :d="piece"
      @pointerdown="emit('piece', $event, i)"
    ><title>{{ text.timing.piece }}</title></path>
    <template v-if="bands">
      <path class="band" :d="bands.up" @pointerdown="emit('drift', $event, 1)"><title>{{ text.timing.driftBand(label) }}</title></path>
      <path class="band" :d="bands.down" @pointerdown="emit('drift', $event, -1)"><title>{{ text.timing.driftBand(label) }}</title></path>
    </template>
  </g>
</template>

<style scoped>
.line {
  fill: none;
  stroke: var(--accent);
  stroke-width: 1.5;
}
.piece,
.band {
  fill: none;
  stroke: transparent;
  stroke-width: 12;
  cursor: ns-resize;
}
.piece {
  cursor: crosshair;
}
.piece:hover {
  stroke: color-mix(in srgb, var(--accent) 18%, transparent);
}
.band:hover {
  stroke: color-mix(in srgb, var(--accent) 22%, transparent);
}
.area {
  fill: color-mix(in srgb, var(--accent) 10%, transparent);
}
</style>
