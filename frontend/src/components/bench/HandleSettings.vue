<script setup lang="ts">
// A handle: where it stands and how it is turned, and with it all that hang on it.
import ModelFields from "@/components/fields/ModelFields.vue";
import type { RigHandle } from "@/model/title";
import { useCatalogue } from "@/stores/catalogue";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

const props = defineProps<{ handle: RigHandle }>();
const opened = useOpened();
const catalogue = useCatalogue();

function rename(event: Event) {
  const name = (event.target as HTMLInputElement).value.trim().slice(0, 200);
  const handles = opened.title.handles.map((each) => (each.id === props.handle.id ? { ...each, name } : each));
  if (name) opened.change({ ...opened.title, handles });
}
</script>

<template>
  <section :aria-label="handle.name">
    <input class="name" :value="handle.name" :aria-label="text.act.rename" maxlength="200" @change="rename" />
    <p class="quiet">{{ text.stand.handleHelp }}</p>
    <ModelFields :of="['handles', handle.id, 'placement']" :settings="catalogue.model('placement')" />
  </section>
</template>
