<script setup lang="ts">
// The layers, front at the top.
import {
  mdiArrowDown, mdiArrowUp, mdiContentCopy, mdiDelete, mdiDotsHorizontal, mdiEye, mdiEyeOff, mdiPencil, mdiPlus,
  mdiStarPlusOutline,
} from "@mdi/js";
import { computed, ref } from "vue";
import KeepFinishDialog from "./KeepFinishDialog.vue";
import { moved, newId, type Layer } from "@/model/title";
import { usersOfLayer, withNewIds } from "@/model/references";
import { useBench } from "@/stores/bench";
import { useCatalogue } from "@/stores/catalogue";
import { useNotices } from "@/stores/notices";
import { text } from "@/text";

defineProps<{ pictures: Map<string, string> }>();
const bench = useBench();
const catalogue = useCatalogue();
const notices = useNotices();
const renaming = ref<string | null>(null);
const keeping = ref<string | null>(null);
const fromFront = computed(() => [...bench.title.layers].reverse());

function select(layer: Layer) {
  bench.select(layer.id, layer.build[0]?.id ?? null);
}
function move(layer: Layer, by: number) {
  const layers = bench.title.layers;
  const from = layers.indexOf(layer);
  const to = Math.min(Math.max(from + by, 0), layers.length - 1);
  if (from !== to) bench.change({ ...bench.title, layers: moved(layers, from, to) });
}
function add(kind: "lettering" | "picture" | "copy" | "backdrop" | "wash") {
  const common = {
    id: newId(), visible: true, blend: "normal" as const, opacity: 1, matte_from: null, build: [],
  };
  const placement = { x: 0, y: 0, z: 0, turn_x: 0, turn_y: 0, turn_z: 0, scale: 1 };
  const made = {
    lettering: {
      ...common, kind, name: text.bench.newWord, face_opacity: 1, placement,
      source: {
        text: text.bench.newWord, font: "Titan One", style: "", align: "centre",
        size: Math.round(bench.title.frame.height / 5), letter_spacing: 0, line_spacing: 1,
      },
    },
    picture: {
      ...common, kind, name: text.sources.picture, face_opacity: 1, placement,
      source: {
        picture: catalogue.all?.pictures.find((name) => !name.startsWith("shipped/")) ?? "shipped/chart.png",
        height: Math.round(bench.title.frame.height / 3), matte: "alpha", cut: null,
      },
    },
    copy: {
      ...common, kind, name: text.sources.copy, face_opacity: 1, placement,
      source: { layer: bench.layer?.id ?? "", take: "everything" },
    },
    backdrop: { ...common, kind, name: text.bench.addBackdrop, source: { colour: "#5a6468" } },
    wash: { ...common, kind, name: text.bench.wash },
  };
  const layer = made[kind] as unknown as Layer;
  const layers = kind === "backdrop" ? [layer, ...bench.title.layers] : [...bench.title.layers, layer];
  bench.change({ ...bench.title, layers });
  bench.select(layer.id, null);
}
function duplicate(layer: Layer) {
  const copy = {
    ...layer, id: newId(), name: `${layer.name} copy`.slice(0, 200),
    build: withNewIds(layer.build, newId),
  };
  const at = bench.title.layers.indexOf(layer) + 1;
  const layers = [...bench.title.layers];
  layers.splice(at, 0, copy);
  bench.change({ ...bench.title, layers });
  bench.select(copy.id, copy.build[0]?.id ?? null);
}
function remove(layer: Layer) {
  const users = usersOfLayer(bench.title, layer.id, catalogue.entry);
  if (users.length) {
    notices.fault(text.bench.used(layer.name, users.map((each) => each.name).join(", ")));
    return;
  }
  bench.change({ ...bench.title, layers: bench.title.layers.filter((each) => each.id !== layer.id) });
  notices.say({ text: text.shelf.removed(layer.name || layer.kind), act: { label: text.act.undo, run: bench.undo } });
}
function rename(layer: Layer, event: Event) {
  bench.setLayer(layer.id, { name: (event.target as HTMLInputElement).value.slice(0, 200) });
  renaming.value = null;
}
function keys(event: KeyboardEvent, layer: Layer) {
  if (event.altKey && event.key === "ArrowUp") move(layer, 1);
  else if (event.altKey && event.key === "ArrowDown") move(layer, -1);
  else if (event.key === "F2") renaming.value = layer.id;
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
          <v-list-item :title="text.bench.addLettering" @click="add('lettering')" />
          <v-list-item :title="text.sources.picture" @click="add('picture')" />
          <v-list-item v-if="bench.layer" :title="text.bench.addCopy(bench.layer.name)" @click="add('copy')" />
          <v-list-item :title="text.bench.addBackdrop" @click="add('backdrop')" />
          <v-list-item :title="text.bench.addWash" @click="add('wash')" />
        </v-list>
      </v-menu>
    </header>
    <ul>
      <li v-for="layer in fromFront" :key="layer.id" :class="{ chosen: layer.id === bench.layer?.id, hidden: !layer.visible }">
        <button
          class="plain pick"
          type="button"
          :aria-pressed="layer.id === bench.layer?.id"
          :title="text.bench.keys"
          @click="select(layer)"
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
            <v-list-item :prepend-icon="mdiContentCopy" :title="text.act.duplicate" @click="duplicate(layer)" />
            <v-list-item :prepend-icon="mdiArrowUp" :title="text.bench.forward" @click="move(layer, 1)" />
            <v-list-item :prepend-icon="mdiArrowDown" :title="text.bench.backward" @click="move(layer, -1)" />
            <v-list-item
              v-if="'face_opacity' in layer"
              :prepend-icon="mdiStarPlusOutline"
              :title="text.act.keepFinish"
              @click="keeping = layer.id"
            />
            <v-list-item :prepend-icon="mdiDelete" :title="text.act.remove" @click="remove(layer)" />
          </v-list>
        </v-menu>
      </li>
    </ul>
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
li.hidden img,
li.hidden .name {
  opacity: 0.45;
}
li :deep(.v-btn--icon) {
  width: 20px;
  height: 20px;
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
