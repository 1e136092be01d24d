<script setup lang="ts">
// Takes over the value of another setting with the same unit, or the default.
import { mdiEqual } from "@mdi/js";
import { computed, ref } from "vue";
import { text } from "@/text";
import { useFieldContext } from "./context";

const props = defineProps<{ label: string; unit: string; standard?: number }>();
const emit = defineEmits<{ take: [value: number] }>();
const context = useFieldContext();
const open = ref(false);
// The list is made when it is looked at, not while something is dragged.
const others = computed(() => (open.value ? context.sameAs(props.unit) : []));
const factor = computed(() => (props.unit === "%" ? 100 : 1));
const shown = (value: number) => `${Math.round(value * factor.value * 100) / 100} ${props.unit}`.trim();
</script>

<template>
  <v-menu v-model="open" max-height="320">
    <template #activator="{ props: activator }">
      <button v-bind="activator" type="button" class="same" :aria-label="text.same.open(label)" :title="text.same.title">
        <v-icon :icon="mdiEqual" size="11" />
      </button>
    </template>
    <v-list density="compact">
      <v-list-item v-if="standard !== undefined" :title="`${text.same.standard}: ${shown(standard)}`" @click="emit('take', standard)" />
      <v-list-item
        v-for="other in others"
        :key="other.key"
        :title="`${other.step}, ${other.label.toLowerCase()}: ${shown(other.value)}`"
        :subtitle="other.layer"
        @click="emit('take', other.value)"
      />
      <v-list-item v-if="!others.length" disabled :title="text.same.none" />
    </v-list>
  </v-menu>
</template>

<style scoped>
.same {
  display: none;
  border: 0;
  padding: 0 0 0 3px;
  background: none;
  color: var(--quiet);
  cursor: pointer;
}
:global(.number:hover .same),
:global(.number:focus-within .same) {
  display: block;
}
</style>
