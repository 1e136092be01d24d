<script setup lang="ts">
// A number: slider, typed sums and units, arrow keys, drag on the label (Shift: fine, Ctrl: coarse),
// double click: default, and the value of another setting.
import { computed, ref, watch } from "vue";
import { startDrag } from "@/composables/useDrag";
import { measured } from "@/model/units";
import SameAs from "./SameAs.vue";
import { useFieldContext } from "./context";
import { text } from "@/text";

const props = withDefaults(
  defineProps<{
    label: string;
    modelValue: number;
    low: number;
    high: number;
    /** The slider's own range, where the limits are wider than what is usual. */
    usual?: [number, number];
    unit?: string;
    standard?: number;
    whole?: boolean;
    help?: string;
  }>(),
  { usual: undefined, unit: "", standard: undefined, whole: false, help: "" },
);
const emit = defineEmits<{ "update:modelValue": [value: number]; done: []; start: [] }>();

const { em } = useFieldContext();
const factor = computed(() => (props.unit === "%" ? 100 : 1));
const range = computed<[number, number]>(() => {
  const [low, high] = props.usual ?? [props.low, props.high];
  return [Math.min(low, props.modelValue), Math.max(high, props.modelValue)];
});
const stepSize = computed(() => {
  if (props.whole) return 1;
  const span = (range.value[1] - range.value[0]) * factor.value;
  return (span > 150 ? 1 : span > 15 ? 0.1 : 0.01) / factor.value;
});

const words = ref("");
const editing = ref(false);
const wrong = ref(false);
watch(() => props.modelValue, show, { immediate: true });

function show() {
  if (editing.value) return;
  const shown = props.modelValue * factor.value;
  const places = Math.abs(shown) < 10 ? 100 : 10;
  words.value = String(Math.round(shown * places) / places);
}

function held(value: number): number {
  const within = Math.min(Math.max(value, props.low), props.high);
  return props.whole ? Math.round(within) : Math.round(within * 1e4) / 1e4;
}

function give(value: number) {
  if (Number.isFinite(value)) emit("update:modelValue", held(value));
}

let before = "";
function begin(event: FocusEvent) {
  editing.value = true;
  before = words.value;
  (event.target as HTMLInputElement).select();
}
/** What was only looked at keeps the digits that are not shown. */
function finish() {
  editing.value = false;
  if (words.value === before) return;
  const value = measured(words.value, props.unit, em.value);
  wrong.value = value === null;
  if (value !== null) give(value / factor.value);
  show();
  emit("done");
}

function nudge(event: KeyboardEvent, direction: number) {
  event.preventDefault();
  const size = stepSize.value * (event.shiftKey ? 10 : 1);
  editing.value = false;
  give(props.modelValue + direction * size);
  emit("done");
}

function scrub(press: PointerEvent) {
  const before = props.modelValue;
  const span = range.value[1] - range.value[0];
  emit("start");
  startDrag(
    press,
    ({ dx, fine, coarse }) => give(before + (dx * span) / (fine ? 2000 : coarse ? 40 : 220)),
    () => emit("done"),
  );
}

function reset() {
  if (props.standard === undefined) return;
  give(props.standard);
  emit("done");
}
</script>

<template>
  <div class="number">
    <span class="label" :title="help" @pointerdown="scrub" @dblclick="reset">{{ label }}</span>
    <v-slider
      :model-value="modelValue"
      :min="range[0]"
      :max="range[1]"
      :step="stepSize"
      :aria-label="label"
      @update:model-value="give($event)"
      @start="emit('start')"
      @end="emit('done')"
      @dblclick="reset"
    />
    <span class="typed" :class="{ wrong }">
      <input
        v-model="words"
        class="mono"
        inputmode="decimal"
        :aria-label="`${label}, ${unit || text.bench.size}`"
        @focus="begin"
        @blur="finish"
        @keydown.enter="($event.target as HTMLInputElement).blur()"
        @keydown.up="nudge($event, 1)"
        @keydown.down="nudge($event, -1)"
      />
      <span v-if="unit" class="unit mono">{{ unit }}</span>
      <SameAs :label="label" :unit="unit" :standard="standard" @take="give($event); emit('done')" />
    </span>
  </div>
</template>

<style scoped>
.number {
  display: grid;
  grid-template-columns: 92px 1fr 78px;
  align-items: center;
  gap: 8px;
  min-height: 27px;
}
.label {
  cursor: ew-resize;
  user-select: none;
  touch-action: none;
  overflow-wrap: anywhere;
  line-height: 1.15;
}
.typed {
  display: flex;
  align-items: center;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--raised);
  padding: 1px 5px;
}
.typed:focus-within {
  border-color: var(--accent);
}
.typed.wrong {
  border-color: #a3271b;
}
input {
  width: 100%;
  min-width: 0;
  border: 0;
  outline: none !important;
  background: none;
  color: inherit;
  text-align: right;
}
.unit {
  color: var(--quiet);
  padding-left: 3px;
}
.number :deep(.v-slider.v-input--horizontal) {
  margin: 0;
}
</style>
