<script setup lang="ts">
// A floor: its colour, where it lies, how far one sees it, and whether it hides what is beneath.
import { computed } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import ModelFields from "@/components/fields/ModelFields.vue";
import type { Layer } from "@/model/title";
import { useCatalogue } from "@/stores/catalogue";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

const props = defineProps<{ layer: Extract<Layer, { kind: "floor" }> }>();
const opened = useOpened();
const catalogue = useCatalogue();
const WAYS = [
  { value: "auto", title: text.floor.auto },
  { value: "level", title: text.floor.level },
];
const own = computed(() => {
  const hidden = ["blend", "opacity", ...(props.layer.level === null ? ["level"] : [])];
  return catalogue.model("layer.floor").filter((each) => !hidden.includes(each.name));
});
function lie(way: string) {
  const level = way === "auto" ? null : Math.round(opened.title.frame.height / 4);
  opened.setLayer(props.layer.id, { level });
}
</script>

<template>
  <section :aria-label="text.floor.title">
    <h2>{{ text.floor.title }}</h2>
    <ModelFields :of="['layers', layer.id, 'source']" :settings="catalogue.model('source.floor')" />
    <ChoiceField
      :label="text.floor.meets"
      :model-value="layer.level === null ? 'auto' : 'level'"
      :choices="WAYS"
      @update:model-value="lie"
    />
    <ModelFields :of="['layers', layer.id]" :settings="own" />
  </section>
</template>
