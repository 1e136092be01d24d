<script setup lang="ts">
// Letters, words or lines that move by themselves, one after the other.
import { computed } from "vue";
import ModelFields from "@/components/fields/ModelFields.vue";
import SwitchField from "@/components/fields/SwitchField.vue";
import type { Lettering } from "@/model/title";
import { useCatalogue } from "@/stores/catalogue";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

const props = defineProps<{ layer: Lettering }>();
const opened = useOpened();
const catalogue = useCatalogue();
const settings = computed(() => catalogue.model("in_turn"));

function toggle(on: boolean) {
  const standards = Object.fromEntries(settings.value.map((each) => [each.name, each.default]));
  opened.setLayer(props.layer.id, { source: { ...props.layer.source, in_turn: on ? standards : null } });
}
</script>

<template>
  <SwitchField
    :label="text.motion.inTurn"
    :help="text.motion.inTurnHelp"
    :model-value="layer.source.in_turn !== null"
    @update:model-value="toggle"
  />
  <ModelFields
    v-if="layer.source.in_turn"
    :of="['layers', layer.id, 'source', 'in_turn']"
    :settings="settings"
  />
</template>
