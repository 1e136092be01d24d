<script setup lang="ts">
import { useLocalStorage } from "@vueuse/core";
import { computed, onMounted, ref } from "vue";
import { useRouter } from "vue-router";
import FontChooser from "@/components/FontChooser.vue";
import FrameChooser from "@/components/FrameChooser.vue";
import FinishCard from "@/components/shelf/FinishCard.vue";
import TitleStrip from "@/components/shelf/TitleStrip.vue";
import { useLamp } from "@/composables/useLamp";
import { useCatalogue } from "@/stores/catalogue";
import { useShelf } from "@/stores/shelf";
import { text } from "@/text";

const router = useRouter();
const shelf = useShelf();
const catalogue = useCatalogue();

const word = ref("HARBOUR");
const making = useLocalStorage("mabrel.making", { font: "Titan One", width: 1920, height: 1080 });
const asked = computed(() => ({ ...making.value, text: word.value || text.shelf.wordHint }));
const lamp = useLamp();

const sought = ref("");
const found = computed(() =>
  (shelf.titles ?? []).filter((title) => title.name.toLowerCase().includes(sought.value.trim().toLowerCase())),
);

onMounted(() => Promise.all([shelf.load(), catalogue.load(), catalogue.loadFinishes()]));

async function make(finish: string) {
  const id = await shelf.make(asked.value, finish);
  if (id) await router.push({ name: "bench", params: { id } });
}
</script>

<template>
  <div class="shelf">
    <header>
      <span class="wordmark">mabrel</span>
      <strong>{{ text.shelf.title }}</strong>
      <span class="space"></span>
      <input v-model="sought" class="find" type="search" :placeholder="text.shelf.find" :aria-label="text.shelf.find" />
      <button class="plain quiet" type="button" @click="lamp = lamp === 'day' ? 'lampOff' : 'day'">
        {{ lamp === "day" ? text.lamp.off : text.lamp.on }}
      </button>
    </header>
    <main>
      <section class="maker" :aria-label="text.shelf.word">
        <div class="line">
          <input
            v-model="word"
            class="word"
            maxlength="200"
            spellcheck="false"
            autofocus
            :placeholder="text.shelf.wordHint"
            :aria-label="text.shelf.word"
            @keydown.enter="make(catalogue.finishes[0]?.name ?? 'ship-brass')"
          />
          <p class="quiet">
            {{ text.shelf.font }}
            <FontChooser v-model="making.font" :word="asked.text" :label="text.fonts.title" />
            {{ text.shelf.frame }}
            <FrameChooser
              :width="making.width"
              :height="making.height"
              @choose="(width, height) => Object.assign(making, { width, height })"
            />
          </p>
        </div>
        <div class="finishes">
          <FinishCard
            v-for="finish in catalogue.finishes"
            :key="finish.name"
            :name="finish.name"
            :label="finish.label"
            :help="finish.help"
            :making="asked"
            @choose="make(finish.name)"
          />
        </div>
      </section>
      <section class="titles" :aria-label="text.shelf.yours">
        <h2>
          {{ text.shelf.yours }} <span v-if="shelf.titles" class="quiet">{{ shelf.titles.length }}</span>
        </h2>
        <p v-if="shelf.titles?.length === 0" class="quiet">{{ text.shelf.none }}</p>
        <p v-else-if="shelf.titles && !found.length" class="quiet">{{ text.shelf.nothingFound }}</p>
        <div class="strips">
          <TitleStrip
            v-for="title in found"
            :key="title.id"
            :title="title"
            @duplicate="shelf.duplicate(title)"
            @remove="shelf.remove(title)"
            @rename="shelf.rename(title, $event)"
          />
        </div>
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
header {
  display: flex;
  align-items: center;
  gap: 22px;
  height: 46px;
  padding: 0 24px;
  border-bottom: 1px solid var(--line);
}
.space {
  flex: 1;
}
.find {
  width: 150px;
  border: 1px solid transparent;
  border-radius: 3px;
  padding: 3px 8px;
  background: none;
  color: inherit;
}
.find:hover,
.find:focus {
  border-color: var(--line);
  background: var(--raised);
}
main {
  flex: 1;
  overflow-y: auto;
}
.maker {
  padding: 22px 24px 20px;
}
.line {
  display: flex;
  align-items: flex-end;
  gap: 24px;
  padding-bottom: 6px;
  border-bottom: 3px solid var(--ink);
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
.finishes {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(280px, 1fr));
  gap: 12px;
  padding-top: 16px;
}
.titles {
  padding: 12px 24px 32px;
  border-top: 1px solid var(--line);
}
h2 {
  font-size: 15px;
  padding-bottom: 8px;
}
.strips {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(380px, 1fr));
  gap: 14px;
}
</style>
