<script setup lang="ts">
// Marks and earlier saves: compare with one, or go back to it.
import { mdiDelete, mdiPencil } from "@mdi/js";
import { ref, watch } from "vue";
import { useMarks, type Mark } from "@/stores/marks";
import { text } from "@/text";

const open = defineModel<boolean>({ required: true });
const marks = useMarks();
const view = ref<"marks" | "history">("marks");
const name = ref("");
const renaming = ref<number | null>(null);

watch(open, async (now) => {
  if (!now) return;
  name.value = "";
  await Promise.all([marks.load(), marks.loadRevisions()]);
});
const when = (at: string) =>
  new Date(at).toLocaleString("en", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit", second: "2-digit" });

async function set() {
  await marks.set(name.value.trim() || undefined);
  name.value = "";
}
function rename(mark: Mark, event: Event) {
  const wanted = (event.target as HTMLInputElement).value.trim().slice(0, 100);
  renaming.value = null;
  if (wanted && wanted !== mark.name) void marks.rename(mark, wanted);
}
async function compare(called: string, document: ReturnType<typeof marks.documentOf>) {
  await marks.compare(called, document);
  open.value = false;
}
async function goBack(called: string, document: ReturnType<typeof marks.documentOf>) {
  await marks.goBack(called, document);
  open.value = false;
}
</script>

<template>
  <v-dialog v-model="open" :aria-label="text.marks.title" max-width="520" scrollable>
    <v-card :title="text.marks.title" :subtitle="text.marks.explain">
      <div class="views tabs" role="tablist">
        <button v-for="each in ['marks', 'history'] as const" :key="each" type="button" role="tab" :aria-selected="view === each" @click="view = each">
          {{ text.marks.views[each] }}
        </button>
      </div>
      <v-card-text class="list">
        <template v-if="view === 'marks'">
          <form class="set" @submit.prevent="set">
            <v-text-field v-model="name" :placeholder="text.marks.name" :aria-label="text.marks.name" maxlength="100" />
            <v-btn type="submit" variant="flat" color="ink">{{ text.marks.set }}</v-btn>
          </form>
          <p v-if="!marks.all.length" class="quiet">{{ text.marks.none }}</p>
          <ul>
            <li v-for="mark in marks.all" :key="mark.id">
              <input
                v-if="renaming === mark.id"
                :value="mark.name"
                maxlength="100"
                :aria-label="text.act.rename"
                @vue:mounted="($event.el as HTMLInputElement).select()"
                @keydown.enter="rename(mark, $event)"
                @blur="rename(mark, $event)"
              />
              <strong v-else>{{ mark.name }}</strong>
              <span class="quiet">{{ when(mark.set_at) }}</span>
              <v-btn @click="compare(mark.name, marks.documentOf(mark))">{{ text.marks.compare }}</v-btn>
              <v-btn @click="goBack(mark.name, marks.documentOf(mark))">{{ text.marks.goBack }}</v-btn>
              <v-btn :icon="mdiPencil" variant="text" size="x-small" :aria-label="`${text.act.rename}: ${mark.name}`" @click="renaming = mark.id" />
              <v-btn :icon="mdiDelete" variant="text" size="x-small" :aria-label="`${text.act.remove}: ${mark.name}`" @click="marks.remove(mark)" />
            </li>
          </ul>
        </template>
        <ul v-else>
          <li v-for="revision in marks.revisions" :key="revision.version">
            <strong>{{ text.marks.version(revision.version) }}</strong>
            <span class="quiet">{{ when(revision.saved_at) }}</span>
            <v-btn @click="compare(text.marks.version(revision.version), marks.documentAt(revision))">{{ text.marks.compare }}</v-btn>
            <v-btn @click="goBack(text.marks.version(revision.version), marks.documentAt(revision))">{{ text.marks.goBack }}</v-btn>
          </li>
        </ul>
      </v-card-text>
      <v-card-actions>
        <v-spacer />
        <v-btn variant="text" @click="open = false">{{ text.act.close }}</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.views {
  display: flex;
  gap: 16px;
  padding: 0 16px;
  border-bottom: 1px solid var(--line);
}
.list {
  min-height: 200px;
  max-height: 420px;
}
.set {
  display: flex;
  gap: 8px;
  align-items: center;
  padding-bottom: 10px;
}
ul {
  list-style: none;
  padding: 0;
}
li {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 4px 0;
}
li .quiet {
  margin-left: auto;
}
strong,
input {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
input {
  border: 1px solid var(--accent);
  border-radius: 3px;
  background: var(--raised);
  color: inherit;
}
</style>
