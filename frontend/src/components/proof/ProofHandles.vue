<script setup lang="ts">
// The handles of what is selected: a light, the layer itself, or a step.
import { computed } from "vue";
import CellsBoard from "./handles/CellsBoard.vue";
import LayerHandles from "./handles/LayerHandles.vue";
import LightHandles from "./handles/LightHandles.vue";
import StepHandles from "./handles/StepHandles.vue";
import HalfPlaneHandles from "./handles/HalfPlaneHandles.vue";
import PartsBoard from "./handles/PartsBoard.vue";
import PathHandles from "./handles/PathHandles.vue";
import ShapeHandles from "./handles/ShapeHandles.vue";
import WhereHandles from "./handles/WhereHandles.vue";
import { useBoxes } from "@/composables/useBoxes";
import type { PlacedLayer } from "@/model/title";
import { useChosen } from "@/stores/chosen";
import { useShapes } from "@/stores/shapes";

const chosen = useChosen();
const shapes = useShapes();
const { layers, given } = useBoxes();
const placed = computed(() => (chosen.layer && "placement" in chosen.layer ? (chosen.layer as PlacedLayer) : null));
const box = computed(() => (chosen.layer ? layers.value.get(chosen.layer.id) : undefined));
</script>

<template>
  <LightHandles v-if="chosen.light" />
  <template v-else-if="chosen.step">
    <WhereHandles />
    <HalfPlaneHandles />
    <CellsBoard />
    <PartsBoard />
    <StepHandles :box="given ?? box ?? null" />
  </template>
  <template v-else-if="placed && box">
    <LayerHandles v-if="!shapes.pen" :layer="placed" :box="box" />
    <ShapeHandles />
    <PathHandles />
  </template>
</template>
