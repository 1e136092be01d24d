<script setup lang="ts">
// A number that is typed; sums are worked out.
import { ref, watch } from "vue";
import { calculate } from "@/model/arithmetic";

const props = defineProps<{ label: string; value: number; unit?: string; bare?: boolean }>();
const emit = defineEmits<{ change: [value: number] }>();
const shown = () => String(Math.round(props.value * 1000) / 1000);
const words = ref(shown());
const editing = ref(false);
watch(() => props.value, () => !editing.value && (words.value = shown()));

function take() {
  editing.value = false;
  const value = calculate(words.value);
  if (value !== null && Number.isFinite(value) && words.value !== shown()) emit("change", value);
  words.value = shown();
}
</script>

<template>
  <label class="typed">
    <span v-if="!bare" class="quiet">{{ label }}</span>
    <input
      v-model="words"
      class="mono"
      :aria-label="label"
      :title="bare ? label : undefined"
      :size="Math.min(Math.max(words.length, 4), 8)"
      @focus="editing = true; ($event.target as HTMLInputElement).select()"
      @blur="take"
      @keydown.enter="($event.target as HTMLInputElement).blur()"
    />
    <span v-if="unit" class="quiet mono">{{ unit }}</span>
  </label>
</template>

<style scoped>
.typed {
  display: inline-flex;
  align-items: center;
  gap: 4px;
  white-space: nowrap;
}
input {
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 2px 4px;
  background: var(--panel);
  color: inherit;
  text-align: right;
}
</style>
