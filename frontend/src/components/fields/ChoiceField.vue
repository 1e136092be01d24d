<script setup lang="ts">
// One of a few (side by side) or of many (a list).
import { computed } from "vue";
import type { Choice } from "@/model/references";
import { text } from "@/text";

const props = defineProps<{ label: string; modelValue: string; choices: (string | Choice)[]; help?: string }>();
const emit = defineEmits<{ "update:modelValue": [value: string]; done: [] }>();

const items = computed(() =>
  props.choices.map((choice) => (typeof choice === "string" ? { value: choice, title: named(choice) } : choice)),
);
// What refers to something has names of any length, and more of them tomorrow.
const few = computed(() => {
  const words = props.choices.filter((choice) => typeof choice === "string");
  return words.length === props.choices.length && words.length <= 3 && words.join("").length <= 20;
});

function named(value: string): string {
  const own = text.choices[value];
  if (own) return own;
  const words = value.replaceAll("-", " ").replaceAll("_", " ");
  return words.charAt(0).toUpperCase() + words.slice(1);
}
function choose(value: string) {
  emit("update:modelValue", value);
  emit("done");
}
</script>

<template>
  <div class="choice">
    <span :title="help">{{ label }}</span>
    <div v-if="few" class="few" role="radiogroup" :aria-label="label">
      <button
        v-for="item in items"
        :key="item.value"
        type="button"
        role="radio"
        :aria-checked="item.value === modelValue"
        @click="choose(item.value)"
      >
        {{ item.title }}
      </button>
    </div>
    <v-select
      v-else
      :model-value="modelValue"
      :items="items"
      :aria-label="label"
      @update:model-value="choose($event)"
    />
  </div>
</template>

<style scoped>
.choice {
  display: grid;
  grid-template-columns: 96px 1fr;
  align-items: center;
  gap: 8px;
  min-height: 32px;
}
.few {
  display: flex;
  border: 1px solid var(--line);
  border-radius: 4px;
  overflow: hidden;
}
.few button {
  flex: 1;
  border: 0;
  background: var(--raised);
  color: inherit;
  font: inherit;
  padding: 3px 6px;
  cursor: pointer;
}
.few button[aria-checked="true"] {
  background: var(--ink);
  color: var(--panel);
}
</style>
