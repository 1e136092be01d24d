<script setup lang="ts">
// What every layer has: blend mode, opacity, and the face of what has one.
import { computed } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import ModelFields from "@/components/fields/ModelFields.vue";
import { stable } from "@/composables/stable";
import { layersToShow } from "@/model/references";
import { useCatalogue } from "@/stores/catalogue";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

const opened = useOpened();
const chosen = useChosen();
const catalogue = useCatalogue();
const layer = computed(() => chosen.layer!);
/** What a floor has of its own stands with its source. */
const COMMON = ["blend", "opacity", "face_opacity"];
const settings = computed(() =>
  catalogue.model(`layer.${layer.value.kind}`).filter((each) => COMMON.includes(each.name)),
);
/** Layers whose shape can hold this one: none that needs it. */
const mattes = stable(() => [
  { value: "", title: "–" },
  ...layersToShow(opened.title, layer.value.id, catalogue.entry),
]);
</script>

<template>
  <section :aria-label="layer.name">
    <h3>{{ layer.name || layer.kind }}</h3>
    <ChoiceField
      :label="text.bench.matteFrom"
      :help="text.bench.matteFromHelp"
      :model-value="layer.matte_from ?? ''"
      :choices="mattes"
      @update:model-value="opened.setLayer(layer.id, { matte_from: $event || null })"
    />
    <ModelFields :of="['layers', layer.id]" :settings="settings" />
  </section>
</template>

<style scoped>
section {
  margin-top: 14px;
  padding-top: 8px;
  border-top: 1px solid var(--line);
}
</style>
