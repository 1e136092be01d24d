<script setup lang="ts">
// Where a layer's card stands, how it is turned, and its scale.
import NumberField from "@/components/fields/NumberField.vue";
import { numberOf, type PlacedLayer } from "@/model/title";
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
  <NumberField
    v-for="[name, low, high, unit] in placed"
    :key="name"
    :label="text.lettering.placed[name]"
    :model-value="numberOf(layer.placement[name])"
    :low="unit === '°' ? -3600 : -100000"
    :high="unit === '°' ? 3600 : 100000"
    :usual="[low, high]"
    :standard="0"
    :unit="unit"
    @update:model-value="setPlacement({ [name]: $event }, `placement.${name}`)"
    @start="bench.dragging = true"
    @done="bench.endGesture()"
  />
  <NumberField
    :label="text.lettering.scale"
    :model-value="numberOf(layer.placement.scale, 1)"
    :low="0"
    :high="100"
    :usual="[0, 3]"
    :standard="1"
    unit="%"
    @update:model-value="setPlacement({ scale: $event }, 'placement.scale')"
    @start="bench.dragging = true"
    @done="bench.endGesture()"
  />
</template>

<style scoped>
h3 {
  margin-top: 10px;
}
</style>
