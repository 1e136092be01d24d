<script setup lang="ts">
// The handles of what is selected: a light, the layer itself, or a step.
import { computed } from "vue";
import LayerHandles from "./handles/LayerHandles.vue";
import LightHandles from "./handles/LightHandles.vue";
import StepHandles from "./handles/StepHandles.vue";
import WhereHandles from "./handles/WhereHandles.vue";
import { useBoxes } from "@/composables/useBoxes";
import type { PlacedLayer } from "@/model/title";
import { useBench } from "@/stores/bench";

const bench = useBench();
const { layers, given } = useBoxes();
const placed = computed(() => (bench.layer && "placement" in bench.layer ? (bench.layer as PlacedLayer) : null));
const box = computed(() => (bench.layer ? layers.value.get(bench.layer.id) : undefined));
</script>

<template>
  <LightHandles v-if="bench.light" />
  <template v-else-if="bench.step">
    <WhereHandles />
    <StepHandles :box="given ?? box ?? null" />
  </template>
  <LayerHandles v-else-if="placed && box" :layer="placed" :box="box" />
</template>
