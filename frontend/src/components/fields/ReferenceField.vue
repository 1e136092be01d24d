<script setup lang="ts">
// A picture, layer, step or light that a setting refers to.
import type { Choice } from "@/model/references";

defineProps<{ label: string; modelValue: string; choices: Choice[]; help?: string }>();
const emit = defineEmits<{ "update:modelValue": [value: string]; done: [] }>();

function choose(value: string) {
  emit("update:modelValue", value);
  emit("done");
}
</script>

<template>
  <div class="reference">
    <span :title="help">{{ label }}</span>
    <v-select
      :model-value="modelValue"
      :items="choices"
      :aria-label="label"
      @update:model-value="choose($event)"
    />
  </div>
</template>

<style scoped>
.reference {
  display: grid;
  grid-template-columns: 96px 1fr;
  align-items: center;
  gap: 8px;
  min-height: 32px;
}
</style>
