<script setup lang="ts">
// A handle: where it stands and how it is turned, and with it all that hang on it.
import PlacementFields from "./PlacementFields.vue";
import type { RigHandle } from "@/model/title";
import { useBench } from "@/stores/bench";
import { text } from "@/text";

const props = defineProps<{ handle: RigHandle }>();
const bench = useBench();

function set(changes: object, gesture: string | null) {
  const handles = bench.title.handles.map((each) => (each.id === props.handle.id ? { ...each, ...changes } : each));
  bench.change({ ...bench.title, handles }, gesture);
}
function rename(event: Event) {
  const name = (event.target as HTMLInputElement).value.trim().slice(0, 200);
  if (name) set({ name }, null);
}
</script>

<template>
  <section :aria-label="handle.name">
    <input class="name" :value="handle.name" :aria-label="text.act.rename" maxlength="200" @change="rename" />
    <p class="quiet">{{ text.stand.handleHelp }}</p>
    <PlacementFields
      :placement="handle.placement"
      @change="(changes, name) => set({ placement: { ...handle.placement, ...changes } }, `${handle.id}.${name}`)"
    />
  </section>
</template>
