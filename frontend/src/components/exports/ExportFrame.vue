<script setup lang="ts">
// The frame of the export views: for what, how, and what comes of it, with what ends or begins it.
import ExportPresets from "./ExportPresets.vue";
import type { Order } from "@/model/exporting";
import { text } from "@/text";

defineProps<{
  title: string;
  order: Order;
  /** What is wrong, each in one sentence. */
  faults: readonly string[];
  disabled: boolean;
  /** Of the button that begins it. */
  name: string;
}>();
const open = defineModel<boolean>({ required: true });
const emit = defineEmits<{ use: [order: Order]; start: [] }>();
</script>

<template>
  <v-dialog v-model="open" :aria-label="title" max-width="1080" scrollable>
    <v-card :title="title">
      <v-card-text class="columns">
        <ExportPresets :order="order" @use="emit('use', $event)" />
        <div>
          <slot name="ways" />
          <p v-for="fault in faults" :key="fault" role="alert" class="fault">{{ fault }}</p>
        </div>
        <div class="right"><slot name="right" /></div>
      </v-card-text>
      <v-card-actions>
        <v-spacer />
        <v-btn variant="text" @click="open = false">{{ text.act.close }}</v-btn>
        <v-btn variant="flat" color="ink" :disabled="disabled" :data-testid="name" @click="emit('start')">
          {{ text.exports.start }}
        </v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: 232px minmax(0, 1fr) 380px;
  gap: 24px;
  min-height: 460px;
}
.right {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  gap: 16px;
  min-width: 0;
}
.fault {
  margin-top: 10px;
  color: var(--accent);
}
</style>
