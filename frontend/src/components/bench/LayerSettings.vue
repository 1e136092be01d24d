<script setup lang="ts">
// What every layer has: blend mode, opacity, and the fill of what has a face.
import { computed } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import NumberField from "@/components/fields/NumberField.vue";
import { numberOf } from "@/model/title";
import { useBench } from "@/stores/bench";
import { useCatalogue } from "@/stores/catalogue";
import { text } from "@/text";

const bench = useBench();
const catalogue = useCatalogue();
const layer = computed(() => bench.layer!);
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
    <NumberField
      :label="text.bench.opacity"
      :model-value="numberOf(layer.opacity, 1)"
      :low="0"
      :high="1"
      :standard="1"
      unit="%"
      @update:model-value="bench.setLayer(layer.id, { opacity: $event }, 'opacity')"
      @start="bench.dragging = true"
      @done="bench.endGesture()"
    />
    <NumberField
      v-if="'face_opacity' in layer"
      :label="text.bench.faceOpacity"
      :help="text.bench.faceOpacityHelp"
      :model-value="numberOf(layer.face_opacity, 1)"
      :low="0"
      :high="1"
      :standard="1"
      unit="%"
      @update:model-value="bench.setLayer(layer.id, { face_opacity: $event }, 'face_opacity')"
      @start="bench.dragging = true"
      @done="bench.endGesture()"
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
