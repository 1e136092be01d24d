<script setup lang="ts">
// The bar of a gradient: its stops as pegs, their midpoints, the histogram of what they colour, and
// where the place under the pointer comes to lie.
import { computed, ref } from "vue";
import { startDrag } from "@/composables/useDrag";
import { colourAt, folded, gradientCss } from "@/model/colour";
import type { Stop } from "@/model/title";
import { text } from "@/text";

const props = defineProps<{
  stops: Stop[];
  histogram?: number[] | null;
  /** Brightness under the pointer, 0 to 1. */
  pointer?: number | null;
  slide?: number;
  repeats?: number;
}>();
const chosen = defineModel<number>("chosen", { required: true });
const emit = defineEmits<{ change: [stops: Stop[]]; done: []; start: []; remove: [] }>();

const bar = ref<HTMLElement | null>(null);
const background = computed(() => gradientCss(props.stops));
const result = computed(() => gradientCss(props.stops, props.slide, props.repeats));
const turned = computed(() => Boolean(props.slide) || (props.repeats ?? 1) !== 1);
const tallest = computed(() => {
  // One full bin, such as a flat face, must not press the others flat.
  const sorted = [...(props.histogram ?? [])].sort((a, b) => b - a);
  return Math.max((sorted[2] ?? 0) * 1.15, 1e-6);
});
const mark = computed(() => (props.pointer == null ? null : folded(props.pointer, props.slide, props.repeats)));
const midpoints = computed(() =>
  props.stops.slice(0, -1).map((stop, i) => stop.place + (props.stops[i + 1]!.place - stop.place) * stop.midpoint),
);

function placeOf(x: number): number {
  const box = bar.value!.getBoundingClientRect();
  return Math.round(Math.min(Math.max((x - box.left) / box.width, 0), 1) * 1000) / 1000;
}
/** Moves a stop and chooses it, wherever it comes to stand; its new index. */
function move(index: number, place: number, stops: Stop[] = props.stops): number {
  const moved = { ...stops[index]!, place };
  const order = stops.map((each, i) => (i === index ? moved : each)).sort((a, b) => a.place - b.place);
  const now = order.indexOf(moved);
  chosen.value = now;
  emit("change", order);
  return now;
}
function drag(event: PointerEvent, index: number) {
  let at = index;
  startDrag(event, (step) => (at = move(at, placeOf(step.x))), () => emit("done"));
}
function add(event: PointerEvent) {
  const place = placeOf(event.clientX);
  const stops = [...props.stops, { place, colour: colourAt(props.stops, place), midpoint: 0.5 }];
  emit("start");
  drag(event, move(stops.length - 1, place, stops));
}
function grab(event: PointerEvent, index: number) {
  chosen.value = index;
  emit("start");
  drag(event, index);
}
function nudge(event: KeyboardEvent, index: number, by: number) {
  event.preventDefault();
  const place = props.stops[index]!.place + by * (event.shiftKey ? 0.1 : 0.01);
  move(index, Math.round(Math.min(Math.max(place, 0), 1) * 1000) / 1000);
  emit("done");
}
function setMidpoint(index: number, midpoint: number) {
  const held = Math.round(Math.min(Math.max(midpoint, 0.01), 0.99) * 1000) / 1000;
  emit("change", props.stops.map((each, i) => (i === index ? { ...each, midpoint: held } : each)));
}
function grabMidpoint(event: PointerEvent, index: number) {
  chosen.value = index;
  emit("start");
  startDrag(
    event,
    (step) => {
      const [from, to] = [props.stops[index]!.place, props.stops[index + 1]!.place];
      if (to > from) setMidpoint(index, (placeOf(step.x) - from) / (to - from));
    },
    () => emit("done"),
  );
}
function nudgeMidpoint(index: number, by: number) {
  setMidpoint(index, props.stops[index]!.midpoint + by);
  emit("done");
}
</script>

<template>
  <div class="field">
    <svg v-if="histogram" class="histogram" viewBox="0 0 64 60" preserveAspectRatio="none" aria-hidden="true">
      <rect
        v-for="(share, i) in histogram"
        :key="i"
        :x="i + 0.08"
        width="0.84"
        :y="60 - Math.min((share / tallest) * 60, 60)"
        :height="Math.min((share / tallest) * 60, 60)"
      />
    </svg>
    <span
      v-if="pointer != null"
      class="pointer"
      :class="{ left: pointer > 0.6 }"
      :style="{ left: `${pointer * 100}%` }"
    >
      <span class="said">{{ text.stops.pointer }}</span>
    </span>
    <div v-if="turned" class="bar result" :style="{ background: result }" aria-hidden="true"></div>
    <div ref="bar" class="bar" :style="{ background }" :title="text.stops.help" @pointerdown="add">
      <span v-if="mark != null" class="mark" :style="{ left: `${mark * 100}%` }"></span>
    </div>
    <div class="pegs">
      <button
        v-for="(at, index) in midpoints"
        :key="`midpoint ${index}`"
        type="button"
        class="midpoint"
        :style="{ left: `${at * 100}%` }"
        :aria-label="text.stops.midpointOf(index + 1)"
        :title="text.stops.midpointOf(index + 1)"
        @pointerdown="grabMidpoint($event, index)"
        @keydown.left.prevent="nudgeMidpoint(index, $event.shiftKey ? -0.05 : -0.01)"
        @keydown.right.prevent="nudgeMidpoint(index, $event.shiftKey ? 0.05 : 0.01)"
      ></button>
      <button
        v-for="(each, index) in stops"
        :key="index"
        type="button"
        class="peg"
        :class="{ chosen: index === chosen }"
        :style="{ left: `${each.place * 100}%`, '--colour': each.colour }"
        :aria-label="`${text.stops.stop(index + 1, stops.length)}, ${each.colour}`"
        :aria-pressed="index === chosen"
        @pointerdown="grab($event, index)"
        @focus="chosen = index"
        @keydown.left="nudge($event, index, -1)"
        @keydown.right="nudge($event, index, 1)"
        @keydown.delete="emit('remove')"
      ></button>
    </div>
  </div>
</template>

<style scoped>
.field {
  position: relative;
  padding-top: 16px;
  margin: 0 4px 4px;
}
.histogram {
  display: block;
  width: 100%;
  height: 58px;
}
.histogram rect {
  fill: color-mix(in srgb, var(--ink) 28%, transparent);
}
.bar {
  position: relative;
  height: 20px;
  cursor: copy;
  touch-action: none;
}
.bar.result {
  height: 8px;
  margin-bottom: 2px;
  cursor: default;
}
.pointer {
  position: absolute;
  top: 0;
  bottom: 24px;
  border-left: 2px solid var(--accent);
  pointer-events: none;
  z-index: 1;
}
.said {
  position: absolute;
  top: -2px;
  left: 4px;
  white-space: nowrap;
  font-size: 11px;
  color: var(--accent);
}
.pointer.left .said {
  left: auto;
  right: 6px;
}
.mark {
  position: absolute;
  top: -2px;
  bottom: -2px;
  width: 2px;
  margin-left: -1px;
  background: var(--accent);
}
.pegs {
  position: relative;
  height: 22px;
}
.peg {
  position: absolute;
  top: -2px;
  width: 16px;
  height: 22px;
  margin-left: -8px;
  border: 0;
  background: none;
  cursor: grab;
  touch-action: none;
}
.midpoint {
  position: absolute;
  top: -2px;
  width: 11px;
  height: 12px;
  margin-left: -5.5px;
  padding: 0;
  border: 0;
  background: none;
  cursor: ew-resize;
  touch-action: none;
}
.midpoint::before {
  content: "";
  position: absolute;
  left: 4.5px;
  top: 0;
  width: 2px;
  height: 7px;
  background: var(--quiet);
}
.midpoint:hover::before,
.midpoint:focus-visible::before {
  height: 11px;
  background: var(--accent);
}
.peg::before {
  content: "";
  position: absolute;
  left: 7px;
  top: 0;
  width: 2px;
  height: 10px;
  background: var(--ink);
}
.peg::after {
  content: "";
  position: absolute;
  left: 3px;
  top: 8px;
  width: 10px;
  height: 10px;
  border-radius: 50%;
  background: var(--colour);
  border: 2px solid var(--ink);
  box-sizing: border-box;
}
.peg.chosen::before {
  background: var(--accent);
}
.peg.chosen::after {
  border-color: var(--accent);
  box-shadow: 0 0 0 2px var(--panel), 0 0 0 3px var(--accent);
}
</style>
