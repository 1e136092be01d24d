<script setup lang="ts">
// Keeps a layer's look as a finish of one's own.
import { ref, watch } from "vue";
import { useOpened } from "@/stores/opened";
import { useFinishes } from "@/stores/finishes";
import { useNotices } from "@/stores/notices";
import { text } from "@/text";

/** The layer whose look is kept; null while the dialogue is shut. */
const layer = defineModel<string | null>({ required: true });
const opened = useOpened();
const finishes = useFinishes();
const notices = useNotices();
const label = ref("");
const fault = ref("");
watch(layer, () => {
  label.value = opened.title.name;
  fault.value = "";
});

async function keep() {
  const wrong = await finishes.keep(opened.document, layer.value!, label.value);
  if (wrong !== null) {
    fault.value = wrong;
    return;
  }
  notices.say({ text: text.finish.kept(label.value) });
  layer.value = null;
}
</script>

<template>
  <v-dialog :aria-label="text.finish.title" :model-value="layer !== null" max-width="400" @update:model-value="layer = null">
    <v-card :title="text.finish.title" :subtitle="text.finish.explain">
      <v-card-text>
        <form id="keep-finish" @submit.prevent="keep">
          <v-text-field v-model="label" :label="text.finish.name" maxlength="100" autofocus />
        </form>
        <p v-if="fault" role="alert" class="fault">{{ fault }}</p>
      </v-card-text>
      <v-card-actions>
        <v-spacer />
        <v-btn variant="text" @click="layer = null">{{ text.act.cancel }}</v-btn>
        <v-btn type="submit" form="keep-finish" variant="flat" color="ink">{{ text.finish.save }}</v-btn>
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
