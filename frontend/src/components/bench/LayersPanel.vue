<script setup lang="ts">
// The layers, front at the top.
import {
  mdiArrowDown, mdiArrowUp, mdiContentCopy, mdiDelete, mdiDotsHorizontal, mdiEye, mdiEyeOff, mdiPencil, mdiPlus,
  mdiGroup, mdiStarPlusOutline, mdiUngroup,
} from "@mdi/js";
import { computed, ref } from "vue";
import KeepFinishDialog from "./KeepFinishDialog.vue";
import type { Layer } from "@/model/title";
import { useBench } from "@/stores/bench";
import { useLayers } from "@/stores/layers";
import { text } from "@/text";

defineProps<{ pictures: Map<string, string> }>();
const bench = useBench();
const layers = useLayers();
/** Chosen with Ctrl or Shift, to be grouped. */
const gathered = ref<string[]>([]);
const carried = ref<string | null>(null);
const over = ref<string | null>(null);
const members = computed(
  () => new Set(bench.title.layers.flatMap((layer) => (layer.kind === "group" ? layer.source.layers : []))),
);
const renaming = ref<string | null>(null);
const keeping = ref<string | null>(null);
const fromFront = computed(() => [...bench.title.layers].reverse());

function select(layer: Layer, event: MouseEvent) {
  if (event.ctrlKey || event.metaKey || event.shiftKey) {
    if (!gathered.value.length && bench.layer) gathered.value = [bench.layer.id];
    gathered.value = gathered.value.includes(layer.id)
      ? gathered.value.filter((id) => id !== layer.id)
      : [...gathered.value, layer.id];
    return;
  }
  gathered.value = [];
  bench.select(layer.id, layer.build[0]?.id ?? null);
}
function groupGathered() {
  layers.group(bench.title.layers.filter((layer) => gathered.value.includes(layer.id)));
  gathered.value = [];
}
/** Dropped on another one, a layer takes its place. */
function drop(target: Layer) {
  const layer = bench.title.layers.find((each) => each.id === carried.value);
  if (layer) layers.move(layer, bench.title.layers.findIndex((each) => each.id === target.id));
  carried.value = over.value = null;
}
function rename(layer: Layer, event: Event) {
  bench.setLayer(layer.id, { name: (event.target as HTMLInputElement).value.slice(0, 200) });
  renaming.value = null;
}
function keys(event: KeyboardEvent, layer: Layer) {
  if (event.altKey && event.key === "ArrowUp") layers.moveBy(layer, 1);
  else if (event.altKey && event.key === "ArrowDown") layers.moveBy(layer, -1);
  else if (event.key === "F2") renaming.value = layer.id;
  else if (event.key === "Delete") layers.remove(layer);
  else return;
  event.preventDefault();
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
          <v-list-item v-if="bench.layer" :title="text.bench.addCopy(bench.layer.name)" @click="layers.add('copy')" />
          <v-list-item :title="text.bench.addBackdrop" @click="layers.add('backdrop')" />
          <v-list-item :title="text.bench.addWash" @click="layers.add('wash')" />
        </v-list>
      </v-menu>
    </header>
    <ul>
      <li
        v-for="layer in fromFront"
        :key="layer.id"
        draggable="true"
        :class="{
          chosen: layer.id === bench.layer?.id,
          gathered: gathered.includes(layer.id),
          member: members.has(layer.id),
          hidden: !layer.visible,
          over: over === layer.id && carried !== layer.id,
        }"
        @dragstart="carried = layer.id"
        @dragover.prevent="over = layer.id"
        @drop.prevent="drop(layer)"
        @dragend="carried = over = null"
      >
        <button
          class="plain pick"
          type="button"
          :aria-pressed="layer.id === bench.layer?.id"
          :title="text.bench.keys"
          @click="select(layer, $event)"
          @dblclick="renaming = layer.id"
          @keydown="keys($event, layer)"
        >
          <img v-if="pictures.get(layer.id)" :src="pictures.get(layer.id)" alt="" />
          <span v-else class="blank"></span>
          <span v-if="renaming !== layer.id" class="name">{{ layer.name || layer.kind }}</span>
          <span class="quiet count">{{ layer.build.length }}</span>
        </button>
        <input
          v-if="renaming === layer.id"
          class="renaming"
          :value="layer.name"
          :aria-label="text.act.rename"
          @vue:mounted="($event.el as HTMLInputElement).select()"
          @keydown.enter="rename(layer, $event)"
          @keydown.esc="renaming = null"
          @blur="rename(layer, $event)"
        />
        <v-btn
          :icon="layer.visible ? mdiEye : mdiEyeOff"
          variant="text"
          size="x-small"
          :aria-label="`${layer.visible ? text.act.hide : text.act.show} ${layer.name}`"
          @click="bench.setLayer(layer.id, { visible: !layer.visible })"
        />
        <v-menu>
          <template #activator="{ props: activator }">
            <v-btn
              v-bind="activator"
              :icon="mdiDotsHorizontal"
              variant="text"
              size="x-small"
              :aria-label="text.bench.more(layer.name)"
            />
          </template>
          <v-list>
            <v-list-item :prepend-icon="mdiPencil" :title="text.act.rename" @click="renaming = layer.id" />
            <v-list-item :prepend-icon="mdiContentCopy" :title="text.act.duplicate" @click="layers.duplicate(layer)" />
            <v-list-item :prepend-icon="mdiArrowUp" :title="text.bench.forward" @click="layers.moveBy(layer, 1)" />
            <v-list-item :prepend-icon="mdiArrowDown" :title="text.bench.backward" @click="layers.moveBy(layer, -1)" />
            <v-list-item
              v-if="'face_opacity' in layer"
              :prepend-icon="mdiStarPlusOutline"
              :title="text.act.keepFinish"
              @click="keeping = layer.id"
            />
            <v-list-item
              v-if="layer.kind === 'group'"
              :prepend-icon="mdiUngroup"
              :title="text.bench.ungroup"
              @click="layers.ungroup(layer)"
            />
            <v-list-item :prepend-icon="mdiDelete" :title="text.act.remove" @click="layers.remove(layer)" />
          </v-list>
        </v-menu>
      </li>
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
li {
  position: relative;
  display: flex;
  align-items: center;
  border: 1px solid transparent;
  border-radius: 4px;
  padding: 3px 2px 3px 5px;
}
li.chosen {
  background: var(--raised);
  border-color: var(--ink);
}
li.gathered {
  border-color: var(--active);
}
li.member {
  margin-left: 12px;
}
li.over {
  border-top: 2px solid var(--accent);
}
.group {
  margin-top: 6px;
}
li.hidden img,
li.hidden .name {
  opacity: 0.45;
}
li :deep(.v-btn--icon) {
  width: 20px;
  height: 20px;
}
/* The name has the room until the pointer comes. */
li:not(:hover, :focus-within, .hidden) > :deep(.v-btn--icon) {
  display: none;
}
li :deep(.v-btn--icon .v-icon) {
  font-size: 14px;
}
.pick {
  display: grid;
  grid-template-columns: 46px 1fr auto;
  align-items: center;
  gap: 7px;
  flex: 1;
  min-width: 0;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.count {
  grid-column: 3;
}
img,
.blank {
  width: 46px;
  height: 26px;
  object-fit: cover;
  border-radius: 3px;
  background: var(--surround);
}
.renaming {
  position: absolute;
  left: 56px;
  width: 96px;
  border: 1px solid var(--accent);
  border-radius: 3px;
  background: var(--raised);
  color: inherit;
  padding: 1px 4px;
}
</style>
