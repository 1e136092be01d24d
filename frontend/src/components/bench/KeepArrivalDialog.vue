<script setup lang="ts">
// Keeps how a layer moves within the loop, as an arrival or a departure of one's own.
import { ref, watch } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import { useArrivals, type ArrivalEntry } from "@/stores/arrivals";
import { useNotices } from "@/stores/notices";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

/** The layer whose motion is kept; null while the dialogue is shut. */
const layer = defineModel<string | null>({ required: true });
const props = defineProps<{ way: ArrivalEntry["way"] }>();
const opened = useOpened();
const arrivals = useArrivals();
const notices = useNotices();
const label = ref("");
const meant = ref<ArrivalEntry["way"]>("arrival");
const fault = ref("");
watch(layer, () => {
  label.value = opened.title.name;
  meant.value = props.way;
  fault.value = "";
});
const WAYS = Object.entries(text.arrivals.views).map(([value, title]) => ({ value, title }));

async function keep() {
  const wrong = await arrivals.keep(layer.value!, label.value, meant.value);
  if (wrong !== null) {
    fault.value = wrong;
    return;
  }
  notices.say({ text: text.arrivals.kept(label.value) });
  layer.value = null;
}
</script>

<template>
  <v-dialog :aria-label="text.arrivals.keepTitle" :model-value="layer !== null" max-width="420" @update:model-value="layer = null">
    <v-card :title="text.arrivals.keepTitle" :subtitle="text.arrivals.keepExplain">
      <v-card-text>
        <form id="keep-arrival" @submit.prevent="keep">
          <v-text-field v-model="label" :label="text.arrivals.name" maxlength="100" autofocus />
        </form>
        <ChoiceField :label="text.arrivals.title" :model-value="meant" :choices="WAYS" @update:model-value="meant = $event as ArrivalEntry['way']" />
        <p v-if="fault" role="alert" class="fault">{{ fault }}</p>
      </v-card-text>
      <v-card-actions>
        <v-spacer />
        <v-btn variant="text" @click="layer = null">{{ text.act.cancel }}</v-btn>
        <v-btn type="submit" form="keep-arrival" variant="flat" color="ink">{{ text.finish.save }}</v-btn>
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
