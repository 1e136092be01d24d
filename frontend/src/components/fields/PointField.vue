<script setup lang="ts">
// A place: two numbers side by side.
import { ref, watch } from "vue";
import { calculate } from "@/model/arithmetic";

const props = defineProps<{ label: string; modelValue: [number, number]; help?: string }>();
const emit = defineEmits<{ "update:modelValue": [value: [number, number]]; done: [] }>();

const words = ref(["", ""]);
watch(
  () => props.modelValue,
  (point) => (words.value = point.map((axis) => String(Math.round(axis * 10) / 10))),
  { immediate: true },
);

function finish(axis: 0 | 1) {
  const value = calculate(words.value[axis] ?? "");
  const point: [number, number] = [...props.modelValue];
  if (value !== null) point[axis] = value;
  emit("update:modelValue", point);
  emit("done");
}
function nudge(axis: 0 | 1, event: KeyboardEvent, by: number) {
  event.preventDefault();
  const point: [number, number] = [...props.modelValue];
  point[axis] += by * (event.shiftKey ? 10 : 1);
  emit("update:modelValue", point);
  emit("done");
}
</script>

<template>
  <div class="point">
    <span :title="help">{{ label }}</span>
    <label v-for="axis in [0, 1] as const" :key="axis" class="mono">
      <span class="quiet">{{ axis ? "y" : "x" }}</span>
      <input
        v-model="words[axis]"
        class="mono"
        inputmode="decimal"
        :aria-label="`${label}, ${axis ? 'y' : 'x'}`"
        @blur="finish(axis)"
        @keydown.enter="finish(axis)"
        @keydown.up="nudge(axis, $event, 1)"
        @keydown.down="nudge(axis, $event, -1)"
      />
    </label>
  </div>
</template>

<style scoped>
.point {
  display: grid;
  grid-template-columns: 96px 1fr 1fr;
  align-items: center;
  gap: 8px;
  min-height: 30px;
}
label {
  display: flex;
  gap: 5px;
  align-items: center;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--raised);
  padding: 1px 6px;
}
input {
  width: 100%;
  min-width: 0;
  border: 0;
  background: none;
  color: inherit;
  text-align: right;
}
</style>
