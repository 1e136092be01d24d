<script setup lang="ts">
// The stops of a gradient, with the histogram of what they will colour and the pointer's mark.
import { computed, ref, watch } from "vue";
import { startDrag } from "@/composables/useDrag";
import { colourAt, folded, gradientCss } from "@/model/colour";
import type { Stop } from "@/model/title";
import { text } from "@/text";
import ColourField from "./ColourField.vue";
import NumberField from "./NumberField.vue";

const props = defineProps<{
  modelValue: Stop[];
  histogram?: number[] | null;
  /** Brightness under the pointer, 0 to 1. */
  pointer?: number | null;
  slide?: number;
  repeats?: number;
}>();
const emit = defineEmits<{ "update:modelValue": [value: Stop[]]; done: []; start: [] }>();

const bar = ref<HTMLElement | null>(null);
const chosen = ref(0);
watch(
  () => props.modelValue.length,
  (count) => (chosen.value = Math.min(chosen.value, count - 1)),
);
const stop = computed(() => props.modelValue[chosen.value]);
const background = computed(() => gradientCss(props.modelValue));
const result = computed(() => gradientCss(props.modelValue, props.slide, props.repeats));
const turned = computed(() => Boolean(props.slide) || (props.repeats ?? 1) !== 1);
const tallest = computed(() => {
  // One full bin, such as a flat face, must not press the others flat.
  const sorted = [...(props.histogram ?? [])].sort((a, b) => b - a);
  return Math.max((sorted[2] ?? 0) * 1.15, 1e-6);
});
const mark = computed(() =>
  props.pointer == null ? null : folded(props.pointer, props.slide, props.repeats),
);

function placeOf(x: number): number {
  const box = bar.value!.getBoundingClientRect();
  return Math.round(Math.min(Math.max((x - box.left) / box.width, 0), 1) * 1000) / 1000;
}
function sorted(stops: Stop[], follow: Stop): Stop[] {
  const order = [...stops].sort((a, b) => a.place - b.place);
  chosen.value = order.indexOf(follow);
  return order;
}
function change(changes: Partial<Stop>) {
  if (!stop.value) return;
  const next = { ...stop.value, ...changes };
  emit("update:modelValue", sorted(props.modelValue.map((each, i) => (i === chosen.value ? next : each)), next));
}
function add(event: PointerEvent) {
  const place = placeOf(event.clientX);
  const next = { place, colour: colourAt(props.modelValue, place), midpoint: 0.5 };
  emit("update:modelValue", sorted([...props.modelValue, next], next));
  startDrag(event, (step) => change({ place: placeOf(step.x) }), () => emit("done"));
}
function grab(event: PointerEvent, index: number) {
  chosen.value = index;
  emit("start");
  startDrag(event, (step) => change({ place: placeOf(step.x) }), () => emit("done"));
}
function remove() {
  if (props.modelValue.length <= 1) return;
  emit("update:modelValue", props.modelValue.filter((_, i) => i !== chosen.value));
  emit("done");
}
function nudge(event: KeyboardEvent, by: number) {
  event.preventDefault();
  const place = (stop.value?.place ?? 0) + by * (event.shiftKey ? 0.1 : 0.01);
  change({ place: Math.round(Math.min(Math.max(place, 0), 1) * 1000) / 1000 });
  emit("done");
}
function reverse() {
  const stops = props.modelValue;
  const turnedOver = [...stops].reverse().map((each, i) => ({
    ...each,
    place: Math.round((1 - each.place) * 1000) / 1000,
    midpoint: 1 - (stops[stops.length - 2 - i]?.midpoint ?? 0.5),
  }));
  emit("update:modelValue", turnedOver);
  emit("done");
}
function spread() {
  const last = Math.max(props.modelValue.length - 1, 1);
  emit("update:modelValue", props.modelValue.map((each, i) => ({ ...each, place: Math.round((i / last) * 1000) / 1000 })));
  emit("done");
}
</script>

<template>
  <div class="stops">
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
          v-for="(each, index) in modelValue"
          :key="index"
          type="button"
          class="peg"
          :class="{ chosen: index === chosen }"
          :style="{ left: `${each.place * 100}%`, '--colour': each.colour }"
          :aria-label="`${text.stops.stop(index + 1, modelValue.length)}, ${each.colour}`"
          :aria-pressed="index === chosen"
          @pointerdown="grab($event, index)"
          @focus="chosen = index"
          @keydown.left="nudge($event, -1)"
          @keydown.right="nudge($event, 1)"
          @keydown.delete="remove"
        ></button>
      </div>
    </div>
    <template v-if="stop">
      <div class="line">
        <span class="quiet">{{ text.stops.stop(chosen + 1, modelValue.length) }}</span>
        <ColourField
          bare
          :label="text.stops.stop(chosen + 1, modelValue.length)"
          :model-value="stop.colour"
          @update:model-value="change({ colour: $event })"
          @done="emit('done')"
        />
      </div>
      <NumberField
        :label="text.stops.place"
        :model-value="stop.place"
        :low="0"
        :high="1"
        unit="%"
        @update:model-value="change({ place: $event })"
        @done="emit('done')"
        @start="emit('start')"
      />
      <NumberField
        :label="text.stops.midpoint"
        :model-value="stop.midpoint"
        :low="0.01"
        :high="0.99"
        :standard="0.5"
        unit="%"
        @update:model-value="change({ midpoint: $event })"
        @done="emit('done')"
        @start="emit('start')"
      />
      <div class="acts">
        <button class="plain" type="button" @click="spread">{{ text.stops.spread }}</button>
        <button class="plain" type="button" @click="reverse">{{ text.stops.reverse }}</button>
        <button class="plain" type="button" :disabled="modelValue.length <= 1" @click="remove">
          {{ text.stops.remove }}
        </button>
      </div>
    </template>
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
.line {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
.acts {
  display: flex;
  gap: 14px;
  font-size: 12px;
  padding: 4px 0 6px;
}
.acts button {
  text-decoration: underline;
  text-underline-offset: 3px;
  text-decoration-color: var(--line);
}
.acts button:disabled {
  opacity: 0.45;
}
</style>
