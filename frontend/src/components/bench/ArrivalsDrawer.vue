<script setup lang="ts">
// Arrivals and departures, each playing on the title itself: one click lays it on a layer.
import { computed, onMounted, ref } from "vue";
import ArrivalFilm from "./ArrivalFilm.vue";
import KeepArrivalDialog from "./KeepArrivalDialog.vue";
import OwnDrawer from "./OwnDrawer.vue";
import OwnEntry from "./OwnEntry.vue";
import { useArrivals, type ArrivalEntry } from "@/stores/arrivals";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

const open = defineModel<boolean>({ required: true });
const opened = useOpened();
const chosen = useChosen();
const arrivals = useArrivals();
const way = ref<ArrivalEntry["way"]>("arrival");
const keeping = ref<string | null>(null);
onMounted(arrivals.load);

const placed = computed(() => opened.document.layers.filter((layer) => "placement" in layer));
/** The layer that a click is for. */
const meant = computed(() => placed.value.find((layer) => layer.id === chosen.layer?.id) ?? placed.value.at(-1));
interface Card {
  entry: ArrivalEntry;
  runBack: boolean;
}
/** One's own first, then those that ship, then the other way's run back. */
const cards = computed<Card[]>(() => {
  const own = arrivals.all.filter((each) => each.way === way.value);
  const back = arrivals.all.filter((each) => each.way !== way.value);
  return [
    ...own.filter((each) => each.own).map((entry) => ({ entry, runBack: false })),
    ...own.filter((each) => !each.own).map((entry) => ({ entry, runBack: false })),
    ...(way.value === "departure" ? back.map((entry) => ({ entry, runBack: true })) : []),
  ];
});
const nameOf = ({ entry, runBack }: Card) => (runBack ? `${entry.label}, ${text.arrivals.back.toLowerCase()}` : entry.label);
function lay({ entry, runBack }: Card) {
  if (meant.value) void arrivals.lay(entry, meant.value.id, runBack);
}
</script>

<template>
  <OwnDrawer v-model="open" :title="text.arrivals.title" :take-label="text.arrivals.take" :take="arrivals.take">
    <div class="tabs" role="tablist">
      <button v-for="(label, each) in text.arrivals.views" :key="each" type="button" role="tab" :aria-selected="way === each" @click="way = each as ArrivalEntry['way']">
        {{ label }}
      </button>
    </div>
    <p class="quiet">{{ meant ? text.arrivals.explain : text.arrivals.nothing }} {{ meant && way === "departure" ? text.arrivals.departing : "" }}</p>
    <v-btn v-if="meant" class="keep" @click="keeping = meant.id">{{ text.arrivals.keep }}</v-btn>
    <ul v-if="meant">
      <OwnEntry
        v-for="(card, place) in cards"
        :key="`${card.entry.name} ${card.runBack}`"
        :label="card.entry.label"
        :said="nameOf(card)"
        :help="card.entry.help"
        :own="card.entry.own"
        :give-label="text.arrivals.give"
        :bare="card.runBack"
        @use="lay(card)"
        @give="arrivals.give(card.entry.name)"
        @rename="arrivals.rename(card.entry.name, $event)"
        @remove="arrivals.remove(card.entry)"
      >
        <ArrivalFilm
          :document="opened.document"
          :layer="meant.id"
          :arrival="card.entry.name"
          :run-back="card.runBack"
          :length="card.entry.length"
          :paused="!opened.still"
          :place="place"
        />
      </OwnEntry>
    </ul>
    <KeepArrivalDialog v-model="keeping" :way="way" />
  </OwnDrawer>
</template>

<style scoped>
.tabs {
  display: flex;
  gap: 14px;
}
p {
  margin: 6px 0;
  font-size: 12px;
}
</style>
