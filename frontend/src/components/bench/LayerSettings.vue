<script setup lang="ts">
// What every layer has: blend mode, opacity, and the fill of what has a face.
import { computed } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import BenchNumber from "./BenchNumber.vue";
import { stable } from "@/composables/stable";
import { layersToShow } from "@/model/references";
import { useBench } from "@/stores/bench";
import { useCatalogue } from "@/stores/catalogue";
import { text } from "@/text";

const bench = useBench();
const catalogue = useCatalogue();
const layer = computed(() => bench.layer!);
/** Layers whose shape can hold this one: none that needs it. */
const mattes = stable(() => [
  { value: "", title: "–" },
  ...layersToShow(bench.title, layer.value.id, catalogue.entry),
]);
</script>

<template>
  <section :aria-label="layer.name">
    <h3>{{ layer.name || layer.kind }}</h3>
    <ChoiceField
      :label="text.bench.blend"
      :model-value="layer.blend"
      :choices="catalogue.all?.blend_modes ?? []"
      @update:model-value="bench.setLayer(layer.id, { blend: $event })"
    />
    <ChoiceField
      :label="text.bench.matteFrom"
      :help="text.bench.matteFromHelp"
      :model-value="layer.matte_from ?? ''"
      :choices="mattes"
      @update:model-value="bench.setLayer(layer.id, { matte_from: $event || null })"
    />
    <BenchNumber
      :label="text.bench.opacity"
      :value="layer.opacity"
      :otherwise="1"
      :low="0"
      :high="1"
      :standard="1"
      unit="%"
      @change="bench.setLayer(layer.id, { opacity: $event }, 'opacity')"
    />
    <BenchNumber
      v-if="'face_opacity' in layer"
      :label="text.bench.faceOpacity"
      :help="text.bench.faceOpacityHelp"
      :value="layer.face_opacity"
      :otherwise="1"
      :low="0"
      :high="1"
      :standard="1"
      unit="%"
      @change="bench.setLayer(layer.id, { face_opacity: $event }, 'face_opacity')"
    />
  </section>
</template>

<style scoped>
section {
  margin-top: 14px;
  padding-top: 8px;
  border-top: 1px solid var(--line);
}
</style>
