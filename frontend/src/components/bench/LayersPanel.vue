<script setup lang="ts">
// The layers, front at the top.
import { mdiGroup, mdiPlus } from "@mdi/js";
import { computed, ref } from "vue";
import LayerCard from "./LayerCard.vue";
import KeepFinishDialog from "./KeepFinishDialog.vue";
import type { Layer } from "@/model/title";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { useLayers } from "@/stores/layers";
import { text } from "@/text";

defineProps<{ pictures: Map<string, string> }>();
const opened = useOpened();
const chosen = useChosen();
const layers = useLayers();
/** Chosen with Ctrl or Shift, to be grouped. */
const gathered = ref<string[]>([]);
const carried = ref<string | null>(null);
const over = ref<string | null>(null);
const members = computed(
  () => new Set(opened.title.layers.flatMap((layer) => (layer.kind === "group" ? layer.source.layers : []))),
);
const keeping = ref<string | null>(null);
const fromFront = computed(() => [...opened.title.layers].reverse());

function select(layer: Layer, event: MouseEvent) {
  if (event.ctrlKey || event.metaKey || event.shiftKey) {
    if (!gathered.value.length && chosen.layer) gathered.value = [chosen.layer.id];
    gathered.value = gathered.value.includes(layer.id)
      ? gathered.value.filter((id) => id !== layer.id)
      : [...gathered.value, layer.id];
    return;
  }
  gathered.value = [];
  chosen.select(layer.id, layer.build[0]?.id ?? null);
}
function groupGathered() {
  void layers.group(opened.title.layers.filter((layer) => gathered.value.includes(layer.id)));
  gathered.value = [];
}
/** Dropped on another one, a layer takes its place. */
function drop(target: Layer) {
  const layer = opened.title.layers.find((each) => each.id === carried.value);
  if (layer) layers.move(layer, opened.title.layers.findIndex((each) => each.id === target.id));
  carried.value = over.value = null;
}
</script>

<template>
  <section :aria-label="text.bench.layers">
    <header>
      <h2>{{ text.bench.layers }}</h2>
      <v-menu>
        <template #activator="{ props: activator }">
          <v-btn v-bind="activator" :icon="mdiPlus" variant="text" size="x-small" :aria-label="text.bench.addLayer" />
        </template>
        <v-list>
          <v-list-item :title="text.bench.addLettering" @click="layers.add('lettering')" />
          <v-list-item :title="text.sources.picture" @click="layers.add('picture')" />
          <v-list-item :title="text.sources.shapes" @click="layers.add('shapes')" />
          <v-list-item
            v-if="chosen.layer?.kind === 'lettering' || chosen.layer?.kind === 'picture'"
            :title="text.bench.addBacking(chosen.layer.name)"
            @click="layers.add('backing')"
          />
          <v-list-item v-if="chosen.layer && chosen.layer.kind !== 'floor'" :title="text.bench.addCopy(chosen.layer.name)" @click="layers.add('copy')" />
          <v-list-item :title="text.bench.addBackdrop" @click="layers.add('backdrop')" />
          <v-list-item :title="text.bench.addPlate" @click="layers.add('plate')" />
          <v-list-item :title="text.bench.addFloor" @click="layers.add('floor')" />
          <v-list-item :title="text.bench.addWash" @click="layers.add('wash')" />
        </v-list>
      </v-menu>
    </header>
    <ul>
      <LayerCard
        v-for="layer in fromFront"
        :key="layer.id"
        :name="layer.name"
        :kind="layer.kind"
        :visible="layer.visible"
        :steps="layer.build.length"
        :picture="pictures.get(layer.id)"
        :chosen="layer.id === chosen.layer?.id"
        :gathered="gathered.includes(layer.id)"
        :member="members.has(layer.id)"
        :over="over === layer.id && carried !== layer.id"
        @choose="select(layer, $event)"
        @rename="opened.setLayer(layer.id, { name: $event })"
        @toggle="opened.setLayer(layer.id, { visible: !layer.visible })"
        @duplicate="layers.duplicate(layer)"
        @move="layers.moveBy(layer, $event)"
        @keep="keeping = layer.id"
        @ungroup="layers.ungroup(layer)"
        @remove="layers.remove(layer)"
        @dragstart="carried = layer.id"
        @dragover.prevent="over = layer.id"
        @drop.prevent="drop(layer)"
        @dragend="carried = over = null"
      />
    </ul>
    <v-btn v-if="gathered.length > 1" class="group" :prepend-icon="mdiGroup" @click="groupGathered">
      {{ text.bench.group(gathered.length) }}
    </v-btn>
    <KeepFinishDialog v-model="keeping" />
  </section>
</template>

<style scoped>
header {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
ul {
  list-style: none;
  padding: 0;
  margin: 4px 0 0;
}
.group {
  margin-top: 6px;
}
</style>
