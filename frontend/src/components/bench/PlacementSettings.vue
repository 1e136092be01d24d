<script setup lang="ts">
// Where a layer's card stands, how it is turned, its scale, and the handle that it hangs on.
import { computed } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import ModelFields from "@/components/fields/ModelFields.vue";
import type { PlacedLayer } from "@/model/title";
import { useCatalogue } from "@/stores/catalogue";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

defineProps<{ layer: PlacedLayer }>();
const opened = useOpened();
const catalogue = useCatalogue();
const handles = computed(() => [
  { value: "", title: text.lettering.nothing },
  ...opened.title.handles.map(({ id, name }) => ({ value: id, title: name })),
]);
</script>

<template>
  <h3>{{ text.lettering.placement }}</h3>
  <ModelFields :of="['layers', layer.id, 'placement']" :settings="catalogue.model('placement')" />
  <ChoiceField
    v-if="handles.length > 1"
    :label="text.lettering.hangsOn"
    :help="text.lettering.hangsOnHelp"
    :model-value="layer.handle ?? ''"
    :choices="handles"
    @update:model-value="opened.setLayer(layer.id, { handle: $event || null })"
  />
</template>

<style scoped>
h3 {
  margin-top: 10px;
}
</style>
