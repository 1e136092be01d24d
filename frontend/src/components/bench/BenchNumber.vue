<script setup lang="ts">
// A number of the title: a whole drag is one step of undo. Limits and labels are NumberField's.
import NumberField from "@/components/fields/NumberField.vue";
import { numberOf } from "@/model/title";
import { useBench } from "@/stores/bench";

/** `value` may change over time; `otherwise` stands for one that isn't there. */
const props = defineProps<{ value: unknown; label: string; low: number; high: number; otherwise?: number }>();
const emit = defineEmits<{ change: [value: number] }>();
const bench = useBench();
</script>

<template>
  <NumberField
    :label="label"
    :model-value="numberOf(props.value, otherwise)"
    :low="low"
    :high="high"
    @update:model-value="emit('change', $event)"
    @start="bench.dragging = true"
    @done="bench.endGesture()"
  />
</template>
