<script setup lang="ts">
// Where a layer's card stands, how it is turned, and its scale.
import BenchNumber from "./BenchNumber.vue";
import type { PlacedLayer } from "@/model/title";
import { useBench } from "@/stores/bench";
import { text } from "@/text";

const props = defineProps<{ layer: PlacedLayer }>();
const bench = useBench();

function setPlacement(changes: object, gesture: string) {
  bench.setLayer(props.layer.id, { placement: { ...props.layer.placement, ...changes } }, gesture);
}
const placed = [
  ["x", -2000, 2000, "px"], ["y", -2000, 2000, "px"], ["z", -2000, 1500, "px"],
  ["turn_x", -60, 60, "°"], ["turn_y", -60, 60, "°"], ["turn_z", -180, 180, "°"],
] as const;
</script>

<template>
  <h3>{{ text.lettering.placement }}</h3>
  <BenchNumber
    v-for="[name, low, high, unit] in placed"
    :key="name"
    :label="text.lettering.placed[name]"
    :value="layer.placement[name]"
    :low="unit === '°' ? -3600 : -100000"
    :high="unit === '°' ? 3600 : 100000"
    :usual="[low, high]"
    :standard="0"
    :unit="unit"
    @change="setPlacement({ [name]: $event }, `placement.${name}`)"
  />
  <BenchNumber
    :label="text.lettering.scale"
    :value="layer.placement.scale"
    :otherwise="1"
    :low="0"
    :high="100"
    :usual="[0, 3]"
    :standard="1"
    unit="%"
    @change="setPlacement({ scale: $event }, 'placement.scale')"
  />
</template>

<style scoped>
h3 {
  margin-top: 10px;
}
</style>
