<script setup lang="ts">
// One layer in the list. It is told only what it shows, so a change of a step leaves it alone.
import {
  mdiArrowDown, mdiArrowUp, mdiContentCopy, mdiDelete, mdiDotsHorizontal, mdiEye, mdiEyeOff, mdiPencil,
  mdiStarPlusOutline, mdiUngroup,
} from "@mdi/js";
import { ref } from "vue";
import { text } from "@/text";

const props = defineProps<{
  name: string;
  kind: string;
  visible: boolean;
  steps: number;
  picture: string | undefined;
  chosen: boolean;
  gathered: boolean;
  member: boolean;
  over: boolean;
}>();
const emit = defineEmits<{
  choose: [event: MouseEvent];
  rename: [name: string];
  toggle: [];
  duplicate: [];
  move: [by: number];
  keep: [];
  ungroup: [];
  remove: [];
}>();
const PLACED = ["lettering", "picture", "shapes", "group", "copy"];
const renaming = ref(false);

function rename(event: Event) {
  if (!renaming.value) return;
  renaming.value = false;
  emit("rename", (event.target as HTMLInputElement).value.slice(0, 200));
}
function keys(event: KeyboardEvent) {
  if (event.altKey && event.key === "ArrowUp") emit("move", 1);
  else if (event.altKey && event.key === "ArrowDown") emit("move", -1);
  else if (event.key === "F2") renaming.value = true;
  else if (event.key === "Delete") emit("remove");
  else return;
  event.preventDefault();
}
const shown = () => props.name || props.kind;
</script>

<template>
  <li draggable="true" :class="{ chosen, gathered, member, hidden: !visible, over }">
    <button
      class="plain pick"
      type="button"
      :aria-pressed="chosen"
      :title="text.bench.keys"
      @click="emit('choose', $event)"
      @dblclick="renaming = true"
      @keydown="keys"
    >
      <img v-if="picture" :src="picture" alt="" />
      <span v-else class="blank"></span>
      <span v-if="!renaming" class="name">{{ shown() }}</span>
      <span class="quiet count">{{ steps }}</span>
    </button>
    <input
      v-if="renaming"
      class="renaming"
      :value="name"
      :aria-label="text.act.rename"
      @vue:mounted="($event.el as HTMLInputElement).select()"
      @keydown.enter="rename"
      @keydown.esc="renaming = false"
      @blur="rename"
    />
    <v-btn
      :icon="visible ? mdiEye : mdiEyeOff"
      variant="text"
      size="x-small"
      :aria-label="`${visible ? text.act.hide : text.act.show} ${name}`"
      @click="emit('toggle')"
    />
    <v-menu>
      <template #activator="{ props: activator }">
        <v-btn v-bind="activator" :icon="mdiDotsHorizontal" variant="text" size="x-small" :aria-label="text.bench.more(name)" />
      </template>
      <v-list>
        <v-list-item :prepend-icon="mdiPencil" :title="text.act.rename" @click="renaming = true" />
        <v-list-item :prepend-icon="mdiContentCopy" :title="text.act.duplicate" @click="emit('duplicate')" />
        <v-list-item :prepend-icon="mdiArrowUp" :title="text.bench.forward" @click="emit('move', 1)" />
        <v-list-item :prepend-icon="mdiArrowDown" :title="text.bench.backward" @click="emit('move', -1)" />
        <v-list-item
          v-if="PLACED.includes(kind)"
          :prepend-icon="mdiStarPlusOutline"
          :title="text.act.keepFinish"
          @click="emit('keep')"
        />
        <v-list-item v-if="kind === 'group'" :prepend-icon="mdiUngroup" :title="text.bench.ungroup" @click="emit('ungroup')" />
        <v-list-item :prepend-icon="mdiDelete" :title="text.act.remove" @click="emit('remove')" />
      </v-list>
    </v-menu>
  </li>
</template>

<style scoped>
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
li.hidden img,
li.hidden .name {
  opacity: 0.45;
}
li :deep(.v-btn--icon) {
  width: 24px;
  height: 24px;
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
