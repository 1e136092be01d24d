<script setup lang="ts">
// Arrivals and departures, each playing on the title itself: one click lays it on a layer.
import { mdiClose, mdiDelete, mdiDotsHorizontal, mdiDownload, mdiPencil, mdiUpload } from "@mdi/js";
import { computed, onMounted, ref } from "vue";
import ArrivalFilm from "./ArrivalFilm.vue";
import KeepArrivalDialog from "./KeepArrivalDialog.vue";
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
const renaming = ref<string | null>(null);
const file = ref<HTMLInputElement | null>(null);
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
function rename(name: string, event: Event) {
  const label = (event.target as HTMLInputElement).value.trim().slice(0, 100);
  renaming.value = null;
  if (label) void arrivals.rename(name, label);
}
async function take(event: Event) {
  const input = event.target as HTMLInputElement;
  for (const each of input.files ?? []) await arrivals.take(each);
  input.value = "";
}
</script>

<template>
  <aside class="drawer" :aria-label="text.arrivals.title" @keydown.esc="open = false">
    <header>
      <h2>{{ text.arrivals.title }}</h2>
      <v-btn :icon="mdiUpload" variant="text" size="x-small" :aria-label="text.arrivals.take" :title="text.arrivals.take" @click="file?.click()" />
      <v-btn :icon="mdiClose" variant="text" size="x-small" :aria-label="text.act.close" @click="open = false" />
      <input ref="file" type="file" accept=".json,application/json" multiple hidden @change="take" />
    </header>
    <div class="tabs" role="tablist">
      <button v-for="(label, each) in text.arrivals.views" :key="each" type="button" role="tab" :aria-selected="way === each" @click="way = each as ArrivalEntry['way']">
        {{ label }}
      </button>
    </div>
    <p class="quiet">{{ meant ? text.arrivals.explain : text.arrivals.nothing }} {{ meant && way === "departure" ? text.arrivals.departing : "" }}</p>
    <v-btn v-if="meant" class="keep" @click="keeping = meant.id">{{ text.arrivals.keep }}</v-btn>
    <ul v-if="meant">
      <li v-for="card in cards" :key="`${card.entry.name} ${card.runBack}`">
        <button class="plain" type="button" :title="card.entry.help" @click="lay(card)">
          <ArrivalFilm
            :document="opened.document"
            :layer="meant.id"
            :arrival="card.entry.name"
            :run-back="card.runBack"
            :length="card.entry.length"
            :paused="!opened.still"
          />
          <span v-if="renaming !== card.entry.name" class="name">{{ nameOf(card) }}</span>
        </button>
        <input
          v-if="renaming === card.entry.name && !card.runBack"
          :value="card.entry.label"
          maxlength="100"
          :aria-label="text.act.rename"
          @vue:mounted="($event.el as HTMLInputElement).select()"
          @keydown.enter="rename(card.entry.name, $event)"
          @keydown.esc.stop="renaming = null"
          @blur="rename(card.entry.name, $event)"
        />
        <v-menu v-if="!card.runBack">
          <template #activator="{ props: activator }">
            <v-btn v-bind="activator" class="more" :icon="mdiDotsHorizontal" variant="flat" size="24" :aria-label="text.bench.more(card.entry.label)" />
          </template>
          <v-list>
            <v-list-item :prepend-icon="mdiDownload" :title="text.arrivals.give" @click="arrivals.give(card.entry.name)" />
            <template v-if="card.entry.own">
              <v-list-item :prepend-icon="mdiPencil" :title="text.act.rename" @click="renaming = card.entry.name" />
              <v-list-item :prepend-icon="mdiDelete" :title="text.act.remove" @click="arrivals.remove(card.entry)" />
            </template>
          </v-list>
        </v-menu>
      </li>
    </ul>
    <KeepArrivalDialog v-model="keeping" :way="way" />
  </aside>
</template>

<style scoped>
.drawer {
  padding: 8px 14px;
  border-left: 1px solid var(--line);
  background: var(--panel);
  overflow-y: auto;
  scrollbar-width: thin;
}
header {
  display: flex;
  align-items: center;
  gap: 4px;
}
h2 {
  flex: 1;
  font-size: 15px;
}
.tabs {
  display: flex;
  gap: 14px;
}
p {
  margin: 6px 0;
  font-size: 12px;
}
ul {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
}
li {
  position: relative;
  min-width: 0;
}
li button.plain {
  display: block;
  width: 100%;
  text-align: left;
}
li button.plain:hover :deep(.film) {
  outline: 3px solid var(--accent);
}
.name {
  display: block;
  padding: 2px 26px 0 0;
  font-size: 12px;
  line-height: 1.3;
  min-height: 24px;
}
.more {
  position: absolute;
  right: 0;
  bottom: 0;
  background: none;
}
input:not([type]) {
  width: 100%;
  border: 1px solid var(--accent);
  border-radius: 3px;
  background: var(--raised);
  color: inherit;
}
</style>
