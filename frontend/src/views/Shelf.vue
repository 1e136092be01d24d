<script setup lang="ts">
// A word in the making, in every finish; and the titles that are there.
import { useLocalStorage } from "@vueuse/core";
import { computed, onMounted, ref } from "vue";
import { useRouter } from "vue-router";
import FontChooser from "@/components/FontChooser.vue";
import FrameChooser from "@/components/FrameChooser.vue";
import SiteHeader from "@/components/common/SiteHeader.vue";
import ChosenBar from "@/components/shelf/ChosenBar.vue";
import FinishCard from "@/components/shelf/FinishCard.vue";
import TitleStrip from "@/components/shelf/TitleStrip.vue";
import { useFileDrop } from "@/composables/useFileDrop";
import type { Making } from "@/composables/useFinishPicture";
import { shelved, type Order } from "@/model/shelf";
import { useCatalogue } from "@/stores/catalogue";
import { isFont, isPicture, useLibrary } from "@/stores/library";
import { useNotices } from "@/stores/notices";
import { useShelf } from "@/stores/shelf";
import { text } from "@/text";

const router = useRouter();
const shelf = useShelf();
const catalogue = useCatalogue();
const library = useLibrary();
const notices = useNotices();

const word = ref("HARBOUR");
const logo = ref("");
const making = useLocalStorage("mabrel.making", { font: "", width: 1920, height: 1080 });
const asked = computed<Making>(() => ({
  ...making.value,
  text: logo.value ? plainName(logo.value) : word.value || text.shelf.wordHint,
  ...(logo.value ? { picture: logo.value } : {}),
}));
const sought = ref("");
const soughtFinish = ref("");
const order = useLocalStorage<Order>("mabrel.order", "changed");
const groups = computed(() => shelved(shelf.titles ?? [], sought.value, order.value));
const chosen = computed(() => (shelf.titles ?? []).filter((title) => shelf.chosen.includes(title.id)));
const finishes = computed(() => {
  const words = soughtFinish.value.trim().toLowerCase();
  return catalogue.finishes.filter((each) => `${each.label} ${each.help}`.toLowerCase().includes(words));
});
const file = ref<HTMLInputElement | null>(null);
const logoFile = ref<HTMLInputElement | null>(null);

// The bench is fetched before the pictures are asked for: a click must not wait behind them.
void import("./Bench.vue");
onMounted(() => Promise.all([shelf.load(), catalogue.load(), catalogue.loadFinishes()]));

function plainName(name: string): string {
  return name.replace(/\.\w+$/, "");
}
async function make(finish: string) {
  const id = await shelf.make(asked.value, finish);
  if (id) await router.push({ name: "bench", params: { id } });
}
function choose(id: string, now: boolean) {
  shelf.chosen = now ? [...shelf.chosen, id] : shelf.chosen.filter((each) => each !== id);
}
/** Titles go on the shelf, a picture becomes the logo, a font is chosen. */
async function take(files: File[]) {
  const bundles = files.filter((each) => each.name.toLowerCase().endsWith(".mabrel"));
  const others = files.filter((each) => isFont(each.name) || isPicture(each.name));
  if (!bundles.length && !others.length && files[0]) notices.fault(text.library.unknown(files[0].name));
  if (bundles.length) await shelf.take(bundles);
  for (const kept of await library.uploadAll(others)) {
    if (kept.kind === "font") making.value = { ...making.value, font: kept.name };
    else logo.value = kept.name;
  }
}
function picked(event: Event) {
  const input = event.target as HTMLInputElement;
  void take([...(input.files ?? [])]);
  input.value = "";
}
const over = useFileDrop((files) => void take(files));
</script>

<template>
  <div class="shelf">
    <SiteHeader>
      <input v-model="sought" class="find" type="search" :placeholder="text.shelf.find" :aria-label="text.shelf.find" />
    </SiteHeader>
    <main>
      <section class="maker" :class="{ over }" :aria-label="text.shelf.word">
        <div class="line">
          <template v-if="logo">
            <span class="word logo">{{ plainName(logo) }}</span>
            <v-btn @click="logo = ''">{{ text.shelf.backToWord }}</v-btn>
          </template>
          <input
            v-else
            v-model="word"
            class="word"
            maxlength="200"
            spellcheck="false"
            autofocus
            :placeholder="text.shelf.wordHint"
            :aria-label="text.shelf.word"
            @focus="($event.target as HTMLInputElement).select()"
            @keydown.enter="make(finishes[0]?.name ?? 'ship-brass')"
          />
          <p class="quiet">
            <template v-if="!logo">
              {{ text.shelf.font }}
              <FontChooser v-model="making.font" :word="asked.text" :label="text.fonts.title" :unchosen="text.fonts.suiting" />
            </template>
            {{ text.shelf.frame }}
            <FrameChooser
              :width="making.width"
              :height="making.height"
              @choose="(width, height) => Object.assign(making, { width, height })"
            />
            {{ text.shelf.or }}
            <button type="button" class="plain dotted" @click="logoFile?.click()">{{ text.shelf.logo }}</button>
            <input ref="logoFile" type="file" accept="image/*,.svg,.exr,.hdr,.tif,.tiff" hidden data-testid="logo" @change="picked" />
          </p>
        </div>
        <p class="begin quiet">
          <span>{{ text.shelf.begin }}</span>
          <input v-model="soughtFinish" class="find" type="search" :placeholder="text.finishes.find" :aria-label="text.finishes.find" />
        </p>
        <div class="finishes">
          <FinishCard
            v-for="finish in finishes"
            :key="finish.name"
            :name="finish.name"
            :label="finish.label"
            :help="finish.help"
            :making="asked"
            @choose="make(finish.name)"
          />
        </div>
        <p v-if="!finishes.length && soughtFinish" class="quiet">{{ text.finishes.none }}</p>
      </section>
      <section class="titles" :aria-label="text.shelf.yours">
        <header>
          <h2>
            {{ text.shelf.yours }} <span v-if="shelf.titles" class="quiet">{{ shelf.titles.length }}</span>
          </h2>
          <div v-if="shelf.titles?.length" class="order quiet">
            <span>{{ text.shelf.order }}</span>
            <v-select
              v-model="order"
              :items="Object.entries(text.shelf.orders).map(([value, title]) => ({ value, title }))"
              :aria-label="text.shelf.order"
            />
          </div>
          <button type="button" class="plain dotted quiet" @click="file?.click()">{{ text.shelf.take }}</button>
          <input ref="file" type="file" accept=".mabrel" multiple hidden data-testid="import" @change="picked" />
        </header>
        <p v-if="shelf.titles?.length === 0" class="quiet">{{ text.shelf.none }}</p>
        <p v-else-if="shelf.titles && !groups.length" class="quiet">{{ text.shelf.nothingFound }}</p>
        <template v-for="group in groups" :key="group.name">
          <h3 v-if="group.name">{{ group.name }} <span class="quiet">{{ group.titles.length }}</span></h3>
          <div class="strips">
            <TitleStrip
              v-for="title in group.titles"
              :key="title.id"
              :title="title"
              :chosen="shelf.chosen.includes(title.id)"
              @update:chosen="choose(title.id, $event)"
              @duplicate="shelf.duplicate(title)"
              @remove="shelf.removeAll([title])"
              @give="shelf.giveFile(title)"
              @rename="shelf.rename(title, $event)"
            />
          </div>
        </template>
        <ChosenBar v-if="chosen.length" :titles="chosen" />
      </section>
    </main>
  </div>
</template>

<style scoped>
.shelf {
  display: flex;
  flex-direction: column;
  height: 100vh;
}
main {
  flex: 1;
  overflow-y: auto;
}
.maker {
  padding: 22px 24px 20px;
}
.maker.over {
  background: color-mix(in srgb, var(--accent) 8%, transparent);
  box-shadow: inset 0 0 0 2px var(--accent);
}
.line {
  display: flex;
  align-items: flex-end;
  gap: 24px;
  padding-bottom: 6px;
  border-bottom: 3px solid var(--ink);
}
.line .v-btn {
  margin-bottom: 10px;
}
.line p {
  display: flex;
  gap: 6px;
  white-space: nowrap;
  padding-bottom: 8px;
}
.word {
  flex: 1;
  min-width: 0;
  border: 0;
  outline: none !important;
  background: none;
  color: var(--ink);
  caret-color: var(--accent);
  font-family: "Archivo Variable", sans-serif;
  font-weight: 750;
  font-stretch: 120%;
  font-size: 46px;
  line-height: 1.15;
}
.word::selection {
  background: color-mix(in srgb, var(--accent) 22%, transparent);
  color: var(--ink);
}
.logo {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.dotted {
  border-bottom: 1px dotted currentcolor !important;
}
.begin {
  display: flex;
  justify-content: space-between;
  align-items: center;
  padding-top: 8px;
}
.finishes {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(224px, 1fr));
  gap: 12px;
  padding-top: 8px;
}
.titles {
  padding: 12px 24px 32px;
  border-top: 1px solid var(--line);
}
.titles header {
  display: flex;
  align-items: baseline;
  gap: 18px;
  padding-bottom: 8px;
}
h2 {
  flex: 1;
  font-size: 15px;
}
h3 {
  padding: 14px 0 8px;
}
.strips {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(380px, 1fr));
  gap: 14px;
}
select {
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--raised);
  color: inherit;
  font: inherit;
}
</style>
