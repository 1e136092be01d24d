<script setup lang="ts">
// All pictures in one zip: rendered in the background, with what is left to do; it can be stopped.
import { computed, onScopeDispose, ref, shallowRef } from "vue";
import { api, saidBy } from "@/api/client";
import type { components } from "@/api/schema";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import { give } from "@/model/files";
import type { Title } from "@/model/title";
import { text } from "@/text";

const open = defineModel<boolean>({ required: true });
const props = defineProps<{ documents: Title[] }>();

const bits = ref("8");
const scale = ref("1");
const backdrop = ref(true);
const state = shallowRef<components["schemas"]["ZipState"] | null>(null);
const fault = ref("");
let timer: ReturnType<typeof setTimeout> | undefined;
const POLL = 500;

const working = computed(() => state.value !== null && !state.value.ready && !state.value.fault);
const left = computed(() =>
  state.value?.remaining == null ? "" : text.words.left(Math.ceil(state.value.remaining)),
);

async function start() {
  fault.value = "";
  try {
    const { data, error } = await api.POST("/api/zips", {
      body: {
        documents: props.documents, bits: Number(bits.value) as 8 | 16, scale: Number(scale.value),
        backdrop: backdrop.value,
      },
    });
    if (!data) fault.value = saidBy(error);
    else follow(data);
  } catch {
    fault.value = text.error.network;
  }
}
function follow(now: components["schemas"]["ZipState"]) {
  state.value = now;
  if (now.ready) {
    give(`/api/zips/${now.id}/file`, "titles.zip");
    state.value = null;
    open.value = false;
  } else if (now.fault) fault.value = now.fault === "stopped" ? text.words.stopped : now.fault;
  else timer = setTimeout(() => void ask(now.id), POLL);
}
async function ask(id: string) {
  try {
    const { data } = await api.GET("/api/zips/{zip_id}", { params: { path: { zip_id: id } } });
    if (data) follow(data);
    else fault.value = text.words.lost;
  } catch {
    timer = setTimeout(() => void ask(id), 4 * POLL); // the work goes on without us
  }
}
async function stop() {
  if (state.value) await api.DELETE("/api/zips/{zip_id}", { params: { path: { zip_id: state.value.id } } }).catch(() => null);
}
onScopeDispose(() => clearTimeout(timer));
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
