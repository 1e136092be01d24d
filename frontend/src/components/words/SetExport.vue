<script setup lang="ts">
// A whole set to files of any format: asked for here, made in the background, given as one zip.
import { computed, onScopeDispose, ref, shallowRef, watch } from "vue";
import SwitchField from "@/components/fields/SwitchField.vue";
import ExportList from "@/components/exports/ExportList.vue";
import ExportPresets from "@/components/exports/ExportPresets.vue";
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
  <v-dialog v-model="open" :aria-label="text.words.exportTitle(documents.length)" max-width="1020" scrollable>
    <v-card :title="text.words.exportTitle(documents.length)">
      <v-card-text class="columns">
        <ExportPresets :order="order" @use="use" />
        <div>
          <ExportWays v-if="exports.forms && first" v-model="order" :forms="exports.forms" :title="first" />
          <SwitchField :label="text.words.sheet" :help="text.words.sheetHelp" :model-value="sheet" @update:model-value="sheet = $event" />
          <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
        </div>
        <ExportList @reuse="use" />
      </v-card-text>
      <v-card-actions>
        <v-spacer />
        <v-btn variant="text" @click="open = false">{{ text.act.close }}</v-btn>
        <v-btn variant="flat" color="ink" :disabled="asking" data-testid="export-set" @click="start">{{ text.exports.start }}</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: 232px minmax(0, 1fr) 320px;
  gap: 24px;
  min-height: 420px;
}
.fault {
  color: var(--accent);
}
</style>
