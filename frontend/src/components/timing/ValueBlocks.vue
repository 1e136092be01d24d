<script setup lang="ts">
// What is no number over time: a bar of colours, small pictures of stops and curves, a place's two
// lines, or names that hold until the next peg.
import { computed } from "vue";
import { curvePath } from "@/model/curve";
import { shownValue } from "@/model/time/shown";
import { pegsOf } from "@/model/time/varying";
import type { CurvePoint, Stop } from "@/model/title";
import { useMotion, type Lane } from "@/stores/motion";
import { useTimeline } from "@/stores/timeline";

const props = defineProps<{ lane: Lane; tall: number }>();
const motion = useMotion();
const timeline = useTimeline();
const kind = computed(() => props.lane.setting.kind);
const at = (time: number) => motion.at(props.lane.value, time, props.lane.setting);
const CELL = 6; // pixels of one colour
const WIDE = 34;

const ends = computed(() => [timeline.x(Math.max(timeline.start, 0)), timeline.x(timeline.start + timeline.span)] as const);
const colours = computed(() => {
  if (kind.value !== "colour") return [];
  const [from, to] = ends.value;
  const count = Math.max(Math.ceil((to - from) / CELL), 1);
  return Array.from({ length: count }, (_, i) => {
    const x = from + (i * (to - from)) / count;
    return { x, wide: (to - from) / count + 0.5, colour: String(at(timeline.timeAt(x))) };
  });
});
const axes = computed(() => {
  if (kind.value !== "point") return [];
  const [from, to] = ends.value;
  const count = Math.max(Math.ceil((to - from) / 4), 2);
  const times = Array.from({ length: count + 1 }, (_, i) => timeline.timeAt(from + (i * (to - from)) / count));
  const points = times.map((time) => at(time) as [number, number]);
  const all = points.flat();
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const y = (value: number) => props.tall - 6 - ((value - low) / Math.max(high - low, 1)) * (props.tall - 12);
  return ([0, 1] as const).map((axis) =>
    times.map((time, i) => `${i ? "L" : "M"}${timeline.x(time).toFixed(1)} ${y(points[i]![axis]).toFixed(1)}`).join(""),
  );
});
const blocks = computed(() => {
  if (["colour", "point"].includes(kind.value)) return [];
  const pegs = pegsOf(props.lane.value);
  return pegs.map((peg, i) => ({
    x: i ? timeline.x(peg.at) : ends.value[0],
    end: pegs[i + 1] ? timeline.x(pegs[i + 1]!.at) : ends.value[1],
    at: timeline.x(peg.at),
    value: peg.value,
    words: shownValue(peg.value, props.lane.setting),
  }));
});
const gradient = (stops: unknown) =>
  (stops as Stop[]).map((stop, i, all) => ({
    x: stop.place, wide: (all[i + 1]?.place ?? 1) - stop.place + 0.02, colour: stop.colour,
  }));
</script>

<template>
  <g>
    <rect v-for="(cell, i) in colours" :key="i" :x="cell.x" :width="cell.wide" :y="tall / 2 - 6" height="12" :fill="cell.colour" />
    <path v-for="(axis, i) in axes" :key="i" class="axis" :class="i ? 'down' : 'across'" :d="axis" />
    <template v-for="(block, i) in blocks" :key="i">
      <g v-if="kind === 'stops'" :transform="`translate(${block.at + 8} ${tall / 2 - 7})`">
        <rect v-for="(stop, n) in gradient(block.value)" :key="n" :x="stop.x * WIDE" :width="Math.max(stop.wide * WIDE, 0)" height="14" :fill="stop.colour" />
      </g>
      <g v-else-if="kind === 'curve'" :transform="`translate(${block.at + 8} ${tall / 2 - 11})`">
        <rect class="board" width="22" height="22" />
        <path class="curve" :d="curvePath(block.value as CurvePoint[], 22, 22)" />
      </g>
      <g v-else>
        <rect class="name" :class="{ odd: i % 2 }" :x="block.x" y="7" :width="Math.max(block.end - block.x, 0)" :height="tall - 14" />
        <text :x="block.x + 10" :y="tall / 2 + 4">{{ block.words }}</text>
      </g>
    </template>
  </g>
</template>

<style scoped>
.axis,
.curve {
  fill: none;
  stroke: var(--accent);
  stroke-width: 1.5;
}
.axis.down {
  stroke: var(--active);
}
.board {
  fill: var(--raised);
  stroke: var(--line);
}
.name {
  fill: color-mix(in srgb, var(--ink) 8%, transparent);
}
.name.odd {
  fill: color-mix(in srgb, var(--ink) 15%, transparent);
}
text {
  fill: var(--ink);
  font-size: 12px;
}
</style>
