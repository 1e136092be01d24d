<script setup lang="ts">
// Keeps how a layer moves within the loop, as an arrival or a departure of one's own.
import { ref, watch } from "vue";
import KeepDialog from "./KeepDialog.vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import { useArrivals, type ArrivalEntry } from "@/stores/arrivals";
import { text } from "@/text";

const layer = defineModel<string | null>({ required: true });
const props = defineProps<{ way: ArrivalEntry["way"] }>();
const arrivals = useArrivals();
const meant = ref<ArrivalEntry["way"]>("arrival");
watch(layer, () => (meant.value = props.way));
const WAYS = Object.entries(text.arrivals.views).map(([value, title]) => ({ value, title }));
</script>

<template>
  <KeepDialog
    v-model="layer"
    :title="text.arrivals.keepTitle"
    :explain="text.arrivals.keepExplain"
    :name="text.arrivals.name"
    :keep="(of, label) => arrivals.keep(of, label, meant)"
    :kept="text.arrivals.kept"
  >
    <ChoiceField :label="text.arrivals.title" :model-value="meant" :choices="WAYS" @update:model-value="meant = $event as ArrivalEntry['way']" />
  </KeepDialog>
</template>
