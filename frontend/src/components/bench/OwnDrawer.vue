<script setup lang="ts">
// A drawer of things that ship and of one's own: they are taken in as files, and it is closed here.
import { mdiClose, mdiUpload } from "@mdi/js";
import { ref } from "vue";
import { text } from "@/text";

const open = defineModel<boolean>({ required: true });
const props = defineProps<{
  title: string;
  /** What taking in files is called. */
  takeLabel: string;
  take: (file: File) => unknown;
}>();
const file = ref<HTMLInputElement | null>(null);
async function picked(event: Event) {
  const input = event.target as HTMLInputElement;
  for (const each of input.files ?? []) await props.take(each);
  input.value = "";
}
</script>

<template>
  <aside class="drawer" :aria-label="title" @keydown.esc="open = false">
    <header>
      <h2>{{ title }}</h2>
      <v-btn :icon="mdiUpload" variant="text" size="x-small" :aria-label="takeLabel" :title="takeLabel" @click="file?.click()" />
      <v-btn :icon="mdiClose" variant="text" size="x-small" :aria-label="text.act.close" @click="open = false" />
      <input ref="file" type="file" accept=".json,application/json" multiple hidden @change="picked" />
    </header>
    <slot />
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
.drawer :slotted(ul) {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
}
</style>
