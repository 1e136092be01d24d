<script setup lang="ts">
// One thing in a drawer: its picture and name are one button, its own menu beside it.
import { mdiDelete, mdiDotsHorizontal, mdiDownload, mdiPencil } from "@mdi/js";
import { ref } from "vue";
import { text } from "@/text";

const props = defineProps<{
  label: string;
  /** What stands under the picture, where that is more than its label. */
  said?: string;
  help: string;
  /** It is one's own: it can be renamed and deleted. */
  own: boolean;
  giveLabel: string;
  disabled?: boolean;
  /** Nothing but the button. */
  bare?: boolean;
}>();
const emit = defineEmits<{ use: []; give: []; rename: [label: string]; remove: [] }>();
const renaming = ref(false);
function rename(event: Event) {
  if (!renaming.value) return; // the field leaves, and with it the focus
  renaming.value = false;
  const label = (event.target as HTMLInputElement).value.trim().slice(0, 100);
  if (label && label !== props.label) emit("rename", label);
}
</script>

<template>
  <li>
    <button class="plain" type="button" :title="help" :disabled="disabled" @click="emit('use')">
      <slot />
      <span v-if="!renaming" class="name">{{ said ?? label }}</span>
    </button>
    <input
      v-if="renaming"
      :value="label"
      maxlength="100"
      :aria-label="text.act.rename"
      @vue:mounted="($event.el as HTMLInputElement).select()"
      @keydown.enter="rename"
      @keydown.esc.stop="renaming = false"
      @blur="rename"
    />
    <v-menu v-if="!bare">
      <template #activator="{ props: activator }">
        <v-btn v-bind="activator" class="more" :icon="mdiDotsHorizontal" variant="flat" size="24" :aria-label="text.bench.more(label)" />
      </template>
      <v-list>
        <v-list-item :prepend-icon="mdiDownload" :title="giveLabel" @click="emit('give')" />
        <template v-if="own">
          <v-list-item :prepend-icon="mdiPencil" :title="text.act.rename" @click="renaming = true" />
          <v-list-item :prepend-icon="mdiDelete" :title="text.act.remove" @click="emit('remove')" />
        </template>
      </v-list>
    </v-menu>
  </li>
</template>

<style scoped>
li {
  position: relative;
  min-width: 0;
}
li button.plain {
  display: block;
  width: 100%;
  text-align: left;
}
li button.plain:hover :slotted(*) {
  outline: 3px solid var(--accent);
}
.name {
  display: block;
  min-height: 24px;
  padding: 2px 26px 0 0;
  font-size: 12px;
  line-height: 1.3;
}
.more {
  position: absolute;
  right: 0;
  bottom: 0;
  background: none;
}
input {
  width: 100%;
  border: 1px solid var(--accent);
  border-radius: 3px;
  background: var(--raised);
  color: inherit;
}
</style>
