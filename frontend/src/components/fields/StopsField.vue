<script setup lang="ts">
// The stops of a gradient: on the bar and in numbers, spread, reversed, copied and pasted as CSS.
import { computed, ref, watch } from "vue";
import { stopsAsCss, stopsFromCss } from "@/model/cssGradient";
import type { Stop } from "@/model/title";
import { text } from "@/text";
import ColourField from "./ColourField.vue";
import { useFieldContext } from "./context";
import NumberField from "./NumberField.vue";
import StopsBar from "./StopsBar.vue";

const props = defineProps<{
  modelValue: Stop[];
  histogram?: number[] | null;
  /** Brightness under the pointer, 0 to 1. */
  pointer?: number | null;
  slide?: number;
  repeats?: number;
}>();
const emit = defineEmits<{ "update:modelValue": [value: Stop[]]; done: []; start: [] }>();
const { say } = useFieldContext();

const chosen = ref(0);
const pasting = ref(false);
const wrong = ref(false);
watch(
  () => props.modelValue.length,
  (count) => (chosen.value = Math.min(chosen.value, count - 1)),
);
const stop = computed(() => props.modelValue[chosen.value]);

function change(changes: Partial<Stop>) {
  if (!stop.value) return;
  const next = { ...stop.value, ...changes };
  const order = props.modelValue.map((each, i) => (i === chosen.value ? next : each)).sort((a, b) => a.place - b.place);
  chosen.value = order.indexOf(next);
  emit("update:modelValue", order);
}
function remove() {
  if (props.modelValue.length <= 1) return;
  emit("update:modelValue", props.modelValue.filter((_, i) => i !== chosen.value));
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
async function copy() {
  const css = stopsAsCss(props.modelValue);
  try {
    await navigator.clipboard.writeText(css);
    say(text.stops.copied);
  } catch {
    say(css); // a browser that gives no clipboard: to be copied by hand
  }
}
function paste(words: string) {
  const stops = stopsFromCss(words);
  wrong.value = stops === null;
  if (!stops) return;
  emit("update:modelValue", stops);
  emit("done");
  pasting.value = false;
}
</script>

<template>
  <div class="stops">
    <StopsBar
      v-model:chosen="chosen"
      :stops="modelValue"
      :histogram="histogram"
      :pointer="pointer"
      :slide="slide"
      :repeats="repeats"
      @change="emit('update:modelValue', $event)"
      @start="emit('start')"
      @done="emit('done')"
      @remove="remove"
    />
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
      <div class="acts links">
        <button class="plain" type="button" @click="spread">{{ text.stops.spread }}</button>
        <button class="plain" type="button" @click="reverse">{{ text.stops.reverse }}</button>
        <button class="plain" type="button" @click="copy">{{ text.stops.copy }}</button>
        <button class="plain" type="button" @click="pasting = !pasting">{{ text.stops.paste }}</button>
        <button class="plain" type="button" :disabled="modelValue.length <= 1" @click="remove">
          {{ text.stops.remove }}
        </button>
      </div>
    </template>
    <textarea
      v-if="pasting"
      class="mono paste"
      rows="3"
      :placeholder="text.stops.pasteHere"
      :aria-label="text.stops.pasteHere"
      @vue:mounted="($event.el as HTMLTextAreaElement).focus()"
      @input="paste(($event.target as HTMLTextAreaElement).value)"
    ></textarea>
    <p v-if="wrong" class="wrong" role="alert">{{ text.stops.notCss }}</p>
  </div>
</template>

<style scoped>
.line {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  font-size: 12px;
  padding: 4px 0 6px;
}
.acts button:disabled {
  opacity: 0.45;
}
.paste {
  width: 100%;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--raised);
  color: inherit;
  padding: 4px 6px;
}
.wrong {
  color: var(--accent);
}
</style>
