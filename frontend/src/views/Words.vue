<script setup lang="ts">
// A list of words in the look of one title: all results at a glance, then on the shelf or exported.
import { computed, onMounted, ref, shallowRef, watch } from "vue";
import { useRoute, useRouter } from "vue-router";
import SiteHeader from "@/components/common/SiteHeader.vue";
import NumberField from "@/components/fields/NumberField.vue";
import SwitchField from "@/components/fields/SwitchField.vue";
import StripPicture from "@/components/common/StripPicture.vue";
import SetExport from "@/components/words/SetExport.vue";
import { useLatest } from "@/composables/useLatest";
import type { Title } from "@/model/title";
import { useNotices } from "@/stores/notices";
import { useShelf } from "@/stores/shelf";
import { useWords } from "@/stores/words";
import { text } from "@/text";

const shelf = useShelf();
const lists = useWords();
const notices = useNotices();
const route = useRoute();
const router = useRouter();

const chosen = ref<string | null>(null);
const document = shallowRef<Title | null>(null);
const words = ref("");
const series = ref("");
const fault = ref("");
const exporting = ref(false);
const oneSize = ref(false);
const margin = ref(0.05); // share of the frame
const keeping = ref(false);
const file = ref<HTMLInputElement | null>(null);

onMounted(async () => {
  await shelf.load();
  const wanted = String(route.query.title ?? "");
  chosen.value = shelf.titles?.find((each) => each.id === wanted)?.id ?? shelf.titles?.[0]?.id ?? null;
});
watch(chosen, async (id) => {
  if (!id) return;
  document.value = await lists.look(id);
  if (!document.value) notices.fault(text.error.gone);
  series.value = shelf.titles?.find((each) => each.id === id)?.series ?? "";
});
const titles = computed(() => (shelf.titles ?? []).map((each) => ({ value: each.id, title: each.name })));
const layers = computed(
  () => document.value?.layers.filter((each) => each.kind === "lettering").map((each) => each.name).filter(Boolean) ?? [],
);

const question = computed(() =>
  document.value && words.value.trim()
    ? { document: document.value, words: words.value, one_size: oneSize.value, margin: margin.value }
    : null,
);
const { answer: made } = useLatest(
  question,
  async (asked, signal) => {
    const found = await lists.made(asked, signal);
    fault.value = found.fault;
    return found.made;
  },
  500,
);
const good = computed(() => (made.value ?? []).flatMap((each) => (each.document ? [each.document] : [])));

async function take(event: Event) {
  const input = event.target as HTMLInputElement;
  const [first] = input.files ?? [];
  if (first) words.value = await first.text();
  input.value = "";
}
async function drop(event: DragEvent) {
  const first = event.dataTransfer?.files[0];
  if (first) words.value = await first.text();
}
async function keep() {
  keeping.value = true;
  const kept = await lists.keep(good.value, series.value);
  keeping.value = false;
  if (typeof kept === "string") fault.value = kept;
  else {
    notices.say({ text: text.words.kept(kept) });
    await router.push({ name: "shelf" });
  }
}
</script>

<template>
  <div class="view">
    <SiteHeader />
    <main>
      <section class="ask" :aria-label="text.views.words">
        <h1>{{ text.views.words }}</h1>
        <p class="quiet">{{ text.words.explain }}</p>
        <p v-if="shelf.titles?.length === 0">
          {{ text.words.noTitles }} <router-link :to="{ name: 'shelf' }">{{ text.views.shelf }}</router-link>
        </p>
        <v-select v-model="chosen" :items="titles" :label="text.words.look" :aria-label="text.words.look" />
        <StripPicture v-if="document" :document="document" lane="look" :label="document.name" :width="400" :height="112" />
        <textarea
          v-model="words"
          class="mono"
          rows="10"
          spellcheck="false"
          :placeholder="text.words.placeholder"
          :aria-label="text.words.list"
          @dragover.prevent
          @drop.prevent="drop"
        ></textarea>
        <p class="quiet">{{ text.words.csv(layers) }}</p>
        <v-btn @click="file?.click()">{{ text.words.open }}</v-btn>
        <input ref="file" type="file" accept=".csv,.txt,.tsv,text/*" hidden data-testid="words-file" @change="take" />
        <SwitchField :label="text.words.oneSize" :help="text.words.oneSizeHelp" :model-value="oneSize" @update:model-value="oneSize = $event" />
        <NumberField :label="text.words.margin" :help="text.words.marginHelp" :model-value="margin" :low="0" :high="0.45" unit="%" @update:model-value="margin = $event" />
        <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      </section>
      <section class="results" :aria-label="text.words.results">
        <header>
          <h2>{{ text.words.results }} <span v-if="made" class="quiet">{{ good.length }}</span></h2>
          <template v-if="good.length">
            <v-text-field v-model="series" class="series" :placeholder="text.shelf.series" :aria-label="text.shelf.series" maxlength="100" />
            <v-btn :disabled="keeping" @click="keep">{{ text.words.keep }}</v-btn>
            <v-btn variant="flat" color="ink" @click="exporting = true">{{ text.words.export }}</v-btn>
          </template>
        </header>
        <p v-if="!made?.length" class="quiet empty">{{ text.words.none }}</p>
        <div class="strips">
          <article v-for="(each, index) in made ?? []" :key="index">
            <StripPicture v-if="each.document" :document="each.document" :lane="`word ${index}`" :label="each.name" />
            <p v-else class="fault" role="alert">{{ each.fault }}</p>
            <p><strong>{{ each.name }}</strong></p>
          </article>
        </div>
      </section>
    </main>
    <SetExport v-model="exporting" :documents="good" />
  </div>
</template>

<style scoped>
.view {
  display: flex;
  flex-direction: column;
  height: 100vh;
}
main {
  flex: 1;
  display: grid;
  grid-template-columns: 340px 1fr;
  min-height: 0;
}
.ask {
  display: flex;
  flex-direction: column;
  align-items: stretch;
  gap: 10px;
  padding: 16px 24px;
  border-right: 1px solid var(--line);
  overflow-y: auto;
}
.ask .v-btn {
  align-self: flex-start;
}
.ask :deep(.v-input) {
  flex: none;
}
h1 {
  font-size: 22px;
  font-weight: 720;
  font-stretch: 112%;
}
textarea {
  flex: 1;
  min-height: 140px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--raised);
  color: inherit;
  padding: 8px 10px;
  resize: none;
}
.results {
  padding: 16px 24px 24px;
  overflow-y: auto;
}
.results header {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 34px;
  padding-bottom: 10px;
}
h2 {
  flex: 1;
  font-size: 15px;
}
.series {
  max-width: 200px;
}
.strips {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(260px, 1fr));
  gap: 14px;
}
.empty {
  padding-top: 40px;
  text-align: center;
}
.fault {
  color: var(--accent);
}
</style>
