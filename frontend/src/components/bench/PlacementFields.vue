<script setup lang="ts">
// Place, turn and scale of a card or a handle.
import BenchNumber from "./BenchNumber.vue";
import type { Placement } from "@/model/title";
import { text } from "@/text";

defineProps<{ placement: Placement }>();
const emit = defineEmits<{ change: [changes: object, name: string] }>();
const placed = [
  ["x", -2000, 2000, "px"], ["y", -2000, 2000, "px"], ["z", -2000, 1500, "px"],
  ["turn_x", -60, 60, "°"], ["turn_y", -60, 60, "°"], ["turn_z", -180, 180, "°"],
] as const;
</script>

<template>
  <BenchNumber
    v-for="[name, low, high, unit] in placed"
    :key="name"
    :label="text.lettering.placed[name]"
    :value="placement[name]"
    :low="unit === '°' ? -3600 : -100000"
    :high="unit === '°' ? 3600 : 100000"
    :usual="[low, high]"
    :standard="0"
    :unit="unit"
    @change="emit('change', { [name]: $event }, name)"
  />
  <BenchNumber
    :label="text.lettering.scale"
    :value="placement.scale"
    :otherwise="1"
    :low="0"
    :high="100"
    :usual="[0, 3]"
    :standard="1"
    unit="%"
    @change="emit('change', { scale: $event }, 'scale')"
  />
</template>
