<script setup lang="ts">
// All pictures in one zip: rendered in the background, with what is left to do; it can be stopped.
import { ref } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import { useMaking, ZIPS } from "@/composables/useMaking";
import type { Title } from "@/model/title";
import { useExports } from "@/stores/exports";
import { text } from "@/text";

const open = defineModel<boolean>({ required: true });
const props = defineProps<{ documents: Title[] }>();

const bits = ref("8");
const scale = ref("1");
const backdrop = ref(true);
const exports = useExports();
const { state, fault, working, left, start: begin, stop } = useMaking(ZIPS, () => (open.value = false));

function start() {
  const zip = exports.zip({
    documents: props.documents, bits: Number(bits.value) as 8 | 16, scale: Number(scale.value),
    backdrop: backdrop.value,
  });
  void begin(zip, "titles.zip");
}
</script>

<template>
  <v-dialog v-model="open" :aria-label="text.words.zipTitle(documents.length)" max-width="420" :persistent="working">
    <v-card :title="text.words.zipTitle(documents.length)">
      <v-card-text>
        <ChoiceField v-model="scale" :label="text.export.scale" :choices="['0.5', '1', '2']" />
        <ChoiceField v-model="bits" :label="text.export.bits" :choices="['8', '16']" />
        <v-checkbox v-model="backdrop" density="compact" hide-details :label="text.export.backdrop" />
        <template v-if="working && state">
          <v-progress-linear :model-value="(state.done / state.all) * 100" :aria-label="text.export.working" color="secondary" />
          <p class="quiet" role="status">{{ text.words.progress(state.done, state.all) }} {{ left }}</p>
        </template>
        <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      </v-card-text>
      <v-card-actions>
        <v-spacer />
        <v-btn v-if="working" variant="text" @click="stop">{{ text.words.stop }}</v-btn>
        <template v-else>
          <v-btn variant="text" @click="open = false">{{ text.act.cancel }}</v-btn>
          <v-btn variant="flat" color="ink" data-testid="zip" @click="start">{{ text.act.export }}</v-btn>
        </template>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.fault {
  color: var(--accent);
}
</style>
