<script setup lang="ts">
// Asks for a name, under which something of a layer is kept.
import { ref, useId, watch } from "vue";
import { useNotices } from "@/stores/notices";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

/** The layer of which something is kept; null while the dialogue is shut. */
const layer = defineModel<string | null>({ required: true });
const props = defineProps<{
  title: string;
  explain: string;
  name: string;
  /** Keeps it; the answer is a fault, or null. */
  keep: (layer: string, label: string) => Promise<string | null>;
  /** What is said once it is kept. */
  kept: (label: string) => string;
}>();
const opened = useOpened();
const notices = useNotices();
const form = useId();
const label = ref("");
const fault = ref("");
watch(layer, () => {
  label.value = opened.title.name;
  fault.value = "";
});

async function save() {
  const wrong = await props.keep(layer.value!, label.value);
  if (wrong !== null) {
    fault.value = wrong;
    return;
  }
  notices.say({ text: props.kept(label.value) });
  layer.value = null;
}
</script>

<template>
  <v-dialog :aria-label="title" :model-value="layer !== null" max-width="420" @update:model-value="layer = null">
    <v-card :title="title" :subtitle="explain">
      <v-card-text>
        <form :id="form" @submit.prevent="save">
          <v-text-field v-model="label" :label="name" maxlength="100" autofocus />
        </form>
        <slot />
        <p v-if="fault" role="alert" class="fault">{{ fault }}</p>
      </v-card-text>
      <v-card-actions>
        <v-spacer />
        <v-btn variant="text" @click="layer = null">{{ text.act.cancel }}</v-btn>
        <v-btn type="submit" :form="form" variant="flat" color="ink">{{ text.finish.save }}</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.fault {
  margin-top: 8px;
  color: #a3271b;
}
</style>
