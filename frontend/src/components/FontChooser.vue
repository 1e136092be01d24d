<script setup lang="ts">
// Each font in its own shape, with the current word.
import { computed, ref } from "vue";
import { useFontSamples } from "@/composables/useFontSamples";
import { useCatalogue } from "@/stores/catalogue";
import { text } from "@/text";

const props = defineProps<{
  modelValue: string;
  word: string;
  label: string;
  /** What it says where none is chosen; without it, one always is. */
  unchosen?: string;
}>();
const shown = computed(() => props.modelValue || props.unchosen || "");
const emit = defineEmits<{ "update:modelValue": [family: string] }>();

const open = ref(false);
const catalogue = useCatalogue();
const { answer: samples } = useFontSamples(computed(() => props.word), open);
const kinds = computed(() => new Map(catalogue.all?.fonts.map((font) => [font.family, font.kind])));

function view(box: number[]): string {
  const [left = 0, top = 0, right = 1, bottom = 1] = box;
  return `${left} ${top} ${Math.max(right - left, 1)} ${Math.max(bottom - top, 1)}`;
}
function choose(family: string) {
  emit("update:modelValue", family);
  open.value = false;
}
</script>

<template>
  <v-menu v-model="open" :close-on-content-click="false" max-height="460">
    <template #activator="{ props: activator }">
      <button v-bind="activator" class="plain asked" type="button" :aria-label="`${label}: ${shown}`">
        {{ shown }}
      </button>
    </template>
    <v-card class="list" role="listbox" :aria-label="text.fonts.title">
      <button
        v-if="unchosen"
        type="button"
        class="plain font"
        role="option"
        :aria-selected="modelValue === ''"
        @click="choose('')"
      >
        <span>{{ unchosen }}</span>
      </button>
      <button
        v-for="sample in samples ?? []"
        :key="sample.family"
        type="button"
        class="plain font"
        role="option"
        :aria-selected="sample.family === modelValue"
        :aria-label="sample.family"
        @click="choose(sample.family)"
      >
        <svg :viewBox="view(sample.box)" preserveAspectRatio="xMinYMid meet" aria-hidden="true">
          <path :d="sample.path" />
        </svg>
        <span class="quiet">
          {{ sample.family }}, {{ kinds.get(sample.family) }}
          <template v-if="!sample.complete">({{ text.fonts.lacks }})</template>
        </span>
      </button>
    </v-card>
  </v-menu>
</template>

<style scoped>
.asked {
  border-bottom: 1px dotted currentcolor;
}
.list {
  width: 380px;
  padding: 6px;
}
.font {
  display: block;
  width: 100%;
  padding: 7px 10px;
  border-radius: 4px;
}
.font:hover,
.font[aria-selected="true"] {
  background: color-mix(in srgb, var(--ink) 8%, transparent);
}
svg {
  display: block;
  width: 100%;
  height: 30px;
  fill: var(--ink);
}
</style>
