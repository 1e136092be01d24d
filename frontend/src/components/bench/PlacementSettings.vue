<script setup lang="ts">
// Where a layer's card stands, how it is turned, its scale, and the handle that it hangs on.
import { computed } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import PlacementFields from "./PlacementFields.vue";
import type { PlacedLayer } from "@/model/title";
import { useBench } from "@/stores/bench";
import { text } from "@/text";

const props = defineProps<{ layer: PlacedLayer }>();
const bench = useBench();
const handles = computed(() => [
  { value: "", title: text.lettering.nothing },
  ...bench.title.handles.map(({ id, name }) => ({ value: id, title: name })),
]);

function setPlacement(changes: object, name: string) {
  const placement = { ...props.layer.placement, ...changes };
  bench.setLayer(props.layer.id, { placement }, `placement.${name}`);
}
</script>

<template>
  <h3>{{ text.lettering.placement }}</h3>
  <PlacementFields :placement="layer.placement" @change="setPlacement" />
  <ChoiceField
    v-if="handles.length > 1"
    :label="text.lettering.hangsOn"
    :help="text.lettering.hangsOnHelp"
    :model-value="layer.handle ?? ''"
    :choices="handles"
    @update:model-value="bench.setLayer(layer.id, { handle: $event || null })"
  />
</template>

<style scoped>
h3 {
  margin-top: 10px;
}
</style>
