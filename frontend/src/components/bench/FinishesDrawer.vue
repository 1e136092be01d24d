<script setup lang="ts">
// Every finish on the lettering that is there: one click puts it on.
import { computed, ref, watch } from "vue";
import StripPicture from "@/components/common/StripPicture.vue";
import KeepFinishDialog from "./KeepFinishDialog.vue";
import OwnDrawer from "./OwnDrawer.vue";
import OwnEntry from "./OwnEntry.vue";
import { useActs } from "@/stores/acts";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { useCatalogue } from "@/stores/catalogue";
import { useFinishes } from "@/stores/finishes";
import { useNotices } from "@/stores/notices";
import { text } from "@/text";

const open = defineModel<boolean>({ required: true });
const opened = useOpened();
const chosen = useChosen();
const acts = useActs();
const catalogue = useCatalogue();
const finishes = useFinishes();
const notices = useNotices();

const sought = ref("");
const everywhere = ref(false);
const keeping = ref<string | null>(null);
watch(open, (now) => now && void catalogue.loadFinishes(), { immediate: true });

const placed = computed(() => opened.title.layers.filter((layer) => "placement" in layer));
/** The layers that a click is for. */
const meant = computed(() => {
  if (everywhere.value) return placed.value.map((layer) => layer.id);
  const one = chosen.layer && "placement" in chosen.layer ? chosen.layer : placed.value.at(-1);
  return one ? [one.id] : [];
});
const found = computed(() => {
  const words = sought.value.trim().toLowerCase();
  const fitting = catalogue.finishes.filter((each) => `${each.label} ${each.help}`.toLowerCase().includes(words));
  return [...fitting.filter((each) => each.own), ...fitting.filter((each) => !each.own)];
});

async function use(name: string) {
  const fault = await acts.useFinish(name, meant.value);
  if (fault !== null) notices.fault(fault);
}
</script>

<template>
  <OwnDrawer v-model="open" :title="text.finishes.title" :take-label="text.finishes.take" :take="finishes.take">
    <v-text-field v-model="sought" type="search" :placeholder="text.finishes.find" :aria-label="text.finishes.find" />
    <v-checkbox
      v-if="placed.length > 1"
      v-model="everywhere"
      density="compact"
      hide-details
      :label="text.finishes.everywhere(placed.length)"
    />
    <v-btn v-if="meant.length" class="keep" @click="keeping = meant[0]!">{{ text.act.keepFinish }}</v-btn>
    <p v-if="!meant.length" class="quiet">{{ text.finishes.nothing }}</p>
    <p v-if="!found.length" class="quiet">{{ text.finishes.none }}</p>
    <ul>
      <OwnEntry
        v-for="finish in found"
        :key="finish.name"
        :label="finish.label"
        :help="finish.help"
        :own="finish.own"
        :give-label="text.finishes.give"
        :disabled="!meant.length"
        @use="use(finish.name)"
        @give="finishes.give(finish.name)"
        @rename="finishes.rename(finish.name, $event)"
        @remove="finishes.remove(finish.name)"
      >
        <StripPicture
          v-if="meant.length"
          :document="opened.document"
          :lane="`drawer ${finish.name}`"
          :finish="finish.name"
          :layer="meant[0]!"
          :label="finish.label"
          :paused="!opened.still"
          :width="280"
          :height="120"
        />
      </OwnEntry>
    </ul>
    <KeepFinishDialog v-model="keeping" />
  </OwnDrawer>
</template>

<style scoped>
.keep {
  margin: 8px 0 2px;
}
</style>
