<script setup lang="ts">
// Words along a circle, a drawn line, or the edge of a layer of shapes.
import { computed } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import ModelFields from "@/components/fields/ModelFields.vue";
import PeggedField from "@/components/fields/PeggedField.vue";
import SwitchField from "@/components/fields/SwitchField.vue";
import { stable } from "@/composables/stable";
import type { Lettering } from "@/model/title";
import { useCatalogue } from "@/stores/catalogue";
import { useOpened } from "@/stores/opened";
import { useShapes } from "@/stores/shapes";
import { text } from "@/text";

const props = defineProps<{ layer: Lettering }>();
const opened = useOpened();
const catalogue = useCatalogue();
const shapes = useShapes();
const settings = computed(() => catalogue.model("along").filter(({ name }) => name !== "nodes"));
const nodes = computed(() => catalogue.model("along").find(({ name }) => name === "nodes"));
const others = stable(() => [
  { value: "", title: text.lettering.nothing },
  ...opened.title.layers
    .filter((each) => each.kind === "shapes" && !each.source.shapes.some((shape) => shape.around === props.layer.id))
    .map((each) => ({ value: each.id, title: each.name })),
]);

function set(along: object | null) {
  opened.setLayer(props.layer.id, { source: { ...props.layer.source, along } });
}
function toggle(on: boolean) {
  const told = catalogue.model("along").map((each) => [each.name, each.default] as const);
  set(on ? { ...Object.fromEntries(told), layer: null } : null);
}
</script>

<template>
  <SwitchField
    :label="text.shapes.along"
    :help="text.shapes.alongHelp"
    :model-value="layer.source.along !== null"
    @update:model-value="toggle"
  />
  <template v-if="layer.source.along">
    <ModelFields :of="['layers', layer.id, 'source', 'along']" :settings="settings" />
    <ChoiceField
      v-if="layer.source.along.on === 'shapes'"
      :label="text.shapes.alongLayer"
      :model-value="layer.source.along.layer ?? ''"
      :choices="others"
      @update:model-value="set({ ...layer.source.along, layer: $event || null })"
    />
    <PeggedField v-if="layer.source.along.on === 'line'" :of="['layers', layer.id, 'source', 'along']" :setting="nodes">
      <v-btn size="small" :active="shapes.pen" @click="shapes.startPen()">{{ text.shapes.pen }}</v-btn>
    </PeggedField>
  </template>
</template>
