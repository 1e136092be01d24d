<script setup lang="ts">
// Export as PNG.
import { computed, ref } from "vue";
import { api, saidBy } from "@/api/client";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import { give } from "@/model/files";
import { useBench } from "@/stores/bench";
import { LARGEST_AREA } from "@/model/frames";
import { text } from "@/text";

const open = defineModel<boolean>({ required: true });
const bench = useBench();
const bits = ref("8");
const scale = ref("1");
const backdrop = ref(false);
const working = ref(false);
const fault = ref("");

const hasBackdrop = computed(() => bench.title.layers.some((layer) => ["backdrop", "floor"].includes(layer.kind)));
const size = computed(() => {
  const { width, height } = bench.title.frame;
  return [Math.round(width * Number(scale.value)), Math.round(height * Number(scale.value))] as const;
});
const tooLarge = computed(() => size.value[0] * size.value[1] > LARGEST_AREA);

async function run() {
  working.value = true;
  fault.value = "";
  try {
    const { data, error } = await api.POST("/api/export", {
      body: {
        document: bench.title,
        bits: Number(bits.value) as 8 | 16,
        scale: Number(scale.value),
        backdrop: backdrop.value,
        time: 0,
      },
      parseAs: "blob",
    });
    if (error) fault.value = saidBy(error);
    else {
      give(data as unknown as Blob, `${bench.title.name || "title"}.png`);
      open.value = false;
    }
  } catch {
    fault.value = text.error.network;
  } finally {
    working.value = false;
  }
}
</script>

<template>
  <v-dialog v-model="open" :aria-label="text.export.title" max-width="420">
    <v-card class="dialog" :title="text.export.title">
      <v-card-text>
        <ChoiceField v-model="scale" :label="text.export.scale" :choices="['0.5', '1', '2', '4']" />
        <p class="quiet">{{ text.export.size(...size) }}</p>
        <ChoiceField v-model="bits" :label="text.export.bits" :choices="['8', '16']" />
        <v-checkbox
          v-if="hasBackdrop"
          v-model="backdrop"
          density="compact"
          hide-details
          :label="text.export.backdrop"
        />
        <p class="quiet">{{ text.export.transparent }}</p>
        <p v-if="tooLarge" role="alert" class="fault">{{ text.frame.limit }}</p>
        <p v-if="fault" role="alert" class="fault">{{ fault }}</p>
        <v-progress-linear v-if="working" indeterminate :aria-label="text.export.working" />
      </v-card-text>
      <v-card-actions>
        <v-spacer />
        <v-btn variant="text" @click="open = false">{{ text.act.cancel }}</v-btn>
        <v-btn variant="flat" color="ink" :disabled="working || tooLarge" data-testid="export" @click="run">
          {{ text.act.export }}
        </v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.fault {
  color: #a3271b;
}
</style>
