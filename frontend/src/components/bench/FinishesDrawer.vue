<script setup lang="ts">
// Every finish on the lettering that is there: one click puts it on.
import { mdiClose, mdiDelete, mdiDotsHorizontal, mdiDownload, mdiPencil, mdiUpload } from "@mdi/js";
import { computed, ref, watch } from "vue";
import StripPicture from "@/components/common/StripPicture.vue";
import KeepFinishDialog from "./KeepFinishDialog.vue";
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
const renaming = ref<string | null>(null);
const file = ref<HTMLInputElement | null>(null);
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
function rename(name: string, event: Event) {
  const label = (event.target as HTMLInputElement).value.trim().slice(0, 100);
  renaming.value = null;
  if (label) void finishes.rename(name, label);
}
async function take(event: Event) {
  const input = event.target as HTMLInputElement;
  for (const each of input.files ?? []) await finishes.take(each);
  input.value = "";
}
</script>

<template>
  <aside class="drawer" :aria-label="text.finishes.title" @keydown.esc="open = false">
    <header>
      <h2>{{ text.finishes.title }}</h2>
      <v-btn :icon="mdiUpload" variant="text" size="x-small" :aria-label="text.finishes.take" :title="text.finishes.take" @click="file?.click()" />
      <v-btn :icon="mdiClose" variant="text" size="x-small" :aria-label="text.act.close" @click="open = false" />
      <input ref="file" type="file" accept=".json,application/json" multiple hidden @change="take" />
    </header>
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
      <li v-for="finish in found" :key="finish.name">
        <button class="plain" type="button" :title="finish.help" :disabled="!meant.length" @click="use(finish.name)">
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
          <span v-if="renaming !== finish.name" class="name">{{ finish.label }}</span>
        </button>
        <input
          v-if="renaming === finish.name"
          :value="finish.label"
          maxlength="100"
          :aria-label="text.act.rename"
          @vue:mounted="($event.el as HTMLInputElement).select()"
          @keydown.enter="rename(finish.name, $event)"
          @keydown.esc.stop="renaming = null"
          @blur="rename(finish.name, $event)"
        />
        <v-menu>
          <template #activator="{ props: activator }">
            <v-btn
              v-bind="activator"
              class="more"
              :icon="mdiDotsHorizontal"
              variant="flat"
              size="18"
              :aria-label="text.bench.more(finish.label)"
            />
          </template>
          <v-list>
            <v-list-item :prepend-icon="mdiDownload" :title="text.finishes.give" @click="finishes.give(finish.name)" />
            <template v-if="finish.own">
              <v-list-item :prepend-icon="mdiPencil" :title="text.act.rename" @click="renaming = finish.name" />
              <v-list-item :prepend-icon="mdiDelete" :title="text.act.remove" @click="finishes.remove(finish.name)" />
            </template>
          </v-list>
        </v-menu>
      </li>
    </ul>
    <KeepFinishDialog v-model="keeping" />
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
  padding-bottom: 6px;
}
h2 {
  flex: 1;
  font-size: 15px;
}
.keep {
  margin: 8px 0 2px;
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
}
li button.plain:hover :deep(.strip) {
  outline: 3px solid var(--accent);
}
.name {
  display: block;
  font-size: 12px;
  padding-top: 2px;
  padding-right: 20px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
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
