<script setup lang="ts">
// A whole set to files of any format: asked for here, made in the background, given as one zip.
import { computed, onScopeDispose, ref, shallowRef, watch } from "vue";
import SwitchField from "@/components/fields/SwitchField.vue";
import ExportFrame from "@/components/exports/ExportFrame.vue";
import ExportList from "@/components/exports/ExportList.vue";
import ExportWays from "@/components/exports/ExportWays.vue";
import { wholeOrder, type Order } from "@/model/exporting";
import type { Title } from "@/model/title";
import { useExports } from "@/stores/exports";
import { text } from "@/text";

const open = defineModel<boolean>({ required: true });
const props = defineProps<{ documents: Title[] }>();
const exports = useExports();
const order = shallowRef<Order>(wholeOrder());
const sheet = ref(false);
const asking = ref(false);
const fault = ref("");
const first = computed(() => props.documents[0]);

watch(open, (now) => {
  exports.watchThem(now);
  if (!now) return;
  fault.value = "";
  use(exports.last);
  void exports.loadForms();
});
onScopeDispose(() => exports.watchThem(false));

/** Each of the set as it stands, and all of it. */
function use(settings: Order) {
  order.value = { ...settings, time: null, start: 0, end: null };
}
async function start() {
  asking.value = true;
  fault.value = (await exports.askSet(props.documents, order.value, sheet.value)) ?? "";
  asking.value = false;
}
</script>

<template>
  <ExportFrame
    v-model="open" :title="text.words.exportTitle(documents.length)" :order="order" :faults="fault ? [fault] : []" :disabled="asking"
    name="export-set" @use="use" @start="start"
  >
    <template #ways>
      <ExportWays v-if="exports.forms && first" v-model="order" :forms="exports.forms" :title="first" />
      <SwitchField :label="text.words.sheet" :help="text.words.sheetHelp" :model-value="sheet" @update:model-value="sheet = $event" />
    </template>
    <template #right><ExportList @reuse="use" /></template>
  </ExportFrame>
</template>
