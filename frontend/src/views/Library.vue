<script setup lang="ts">
// Pictures and fonts: uploaded here, with where each is used.
import { computed, onMounted, ref } from "vue";
import SiteHeader from "@/components/common/SiteHeader.vue";
import LibraryCard from "@/components/library/LibraryCard.vue";
import { useFileDrop } from "@/composables/useFileDrop";
import { ACCEPTED, useLibrary } from "@/stores/library";
import { text } from "@/text";

const library = useLibrary();
const file = ref<HTMLInputElement | null>(null);
const sought = ref("");
/** Numbered pictures that are shown one by one. */
const unfolded = ref<string[]>([]);
onMounted(library.load);

const fitting = computed(() => {
  const words = sought.value.trim().toLowerCase();
  const listed = (library.files ?? []).filter((each) => !each.part_of || unfolded.value.includes(each.part_of));
  return listed.filter((each) => each.name.toLowerCase().includes(words));
});
const groups = computed(() =>
  [
    { name: text.library.pictures, files: fitting.value.filter((each) => each.kind === "picture" && !each.shipped) },
    { name: text.library.fonts, files: fitting.value.filter((each) => each.kind === "font") },
    { name: text.library.shipped, files: fitting.value.filter((each) => each.shipped) },
  ].filter((group) => group.files.length),
);
const empty = computed(() => library.files !== null && library.files.every((each) => each.shipped));

function unfold(run: string) {
  unfolded.value = unfolded.value.includes(run) ? unfolded.value.filter((each) => each !== run) : [...unfolded.value, run];
}
function chosen(event: Event) {
  const input = event.target as HTMLInputElement;
  void library.uploadAll([...(input.files ?? [])]);
  input.value = "";
}
const over = useFileDrop((files) => void library.uploadAll(files));
</script>

<template>
  <div class="view" :class="{ over }">
    <SiteHeader>
      <input v-model="sought" class="find" type="search" :placeholder="text.library.find" :aria-label="text.library.find" />
    </SiteHeader>
    <main>
      <h1>{{ text.views.library }}</h1>
      <div class="drop">
        <p>{{ text.library.drop }}</p>
        <v-btn variant="flat" color="ink" @click="file?.click()">{{ text.library.choose }}</v-btn>
        <input ref="file" type="file" multiple hidden :accept="ACCEPTED" data-testid="upload" @change="chosen" />
      </div>
      <p v-if="empty && !sought" class="quiet">{{ text.library.empty }}</p>
      <section v-for="group in groups" :key="group.name" :aria-label="group.name">
        <h2>{{ group.name }} <span class="quiet">{{ group.files.length }}</span></h2>
        <div class="cards">
          <LibraryCard v-for="each in group.files" :key="each.name" :file="each" :others="library.files ?? []" :unfolded="unfolded.includes(each.name)" @unfold="unfold(each.name)" />
        </div>
      </section>
    </main>
  </div>
</template>

<style scoped>
.view {
  display: flex;
  flex-direction: column;
  height: 100vh;
}
.view.over .drop {
  border-color: var(--accent);
  color: var(--accent);
}
main {
  flex: 1;
  overflow-y: auto;
  padding: 16px 24px 32px;
}
h1 {
  font-size: 22px;
  font-weight: 720;
  font-stretch: 112%;
  padding-bottom: 8px;
}
h2 {
  font-size: 15px;
  padding: 18px 0 8px;
}
.drop {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 16px;
  padding: 14px 18px;
  border: 1.5px dashed color-mix(in srgb, var(--ink) 30%, transparent);
  border-radius: 6px;
}
.cards {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(180px, 1fr));
  gap: 14px;
}
</style>
