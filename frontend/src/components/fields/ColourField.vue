<script setup lang="ts">
// A colour code: typed, pasted, or picked.
import { ref, watch } from "vue";
import { asCode } from "@/model/colour";

const props = defineProps<{ label: string; modelValue: string; help?: string; bare?: boolean }>();
const emit = defineEmits<{ "update:modelValue": [value: string]; done: [] }>();

const words = ref(props.modelValue);
watch(() => props.modelValue, (code) => (words.value = code.toUpperCase()), { immediate: true });

function finish() {
  const code = asCode(words.value);
  if (code) emit("update:modelValue", code);
  else words.value = props.modelValue.toUpperCase();
  emit("done");
}
function picked(event: Event) {
  const alpha = props.modelValue.length === 9 ? props.modelValue.slice(7) : "";
  emit("update:modelValue", (event.target as HTMLInputElement).value + alpha);
}
</script>

<template>
  <div class="colour" :class="{ bare }">
    <span v-if="!bare" :title="help">{{ label }}</span>
    <input
      type="color"
      :value="modelValue.slice(0, 7)"
      :aria-label="label"
      @input="picked"
      @change="emit('done')"
    />
    <input
      v-model="words"
      class="mono code"
      :aria-label="`${label}, code`"
      spellcheck="false"
      @blur="finish"
      @keydown.enter="finish"
    />
  </div>
</template>

<style scoped>
.colour {
  display: grid;
  grid-template-columns: 96px 1fr 92px;
  align-items: center;
  gap: 8px;
  min-height: 30px;
}
.colour.bare {
  grid-template-columns: 44px 92px;
}
input[type="color"] {
  width: 100%;
  height: 22px;
  padding: 0;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: none;
  cursor: pointer;
}
input[type="color"]::-webkit-color-swatch-wrapper {
  padding: 0;
}
input[type="color"]::-webkit-color-swatch {
  border: 0;
  border-radius: 2px;
}
.code {
  width: 100%;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--raised);
  color: inherit;
  padding: 2px 6px;
}
</style>
