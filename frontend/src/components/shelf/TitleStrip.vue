<script setup lang="ts">
import {
  mdiContentCopy, mdiDelete, mdiDotsHorizontal, mdiDownload, mdiFormatListBulleted, mdiPencil,
} from "@mdi/js";
import { useElementVisibility } from "@vueuse/core";
import { computed, nextTick, ref } from "vue";
import type { components } from "@/api/schema";
import { useTitleStrip } from "@/composables/useTitleStrip";
import { text } from "@/text";

const props = defineProps<{ title: components["schemas"]["TitleSummary"] }>();
const chosen = defineModel<boolean>("chosen", { default: false });
const emit = defineEmits<{ duplicate: []; remove: []; give: []; rename: [name: string] }>();
const renaming = ref(false);
const field = ref<HTMLInputElement | null>(null);

const root = ref<HTMLElement | null>(null);
const visible = useElementVisibility(root);
const picture = useTitleStrip(
  computed(() =>
    visible.value ? `/api/titles/${props.title.id}/strip?version=${props.title.version}&width=800&height=224` : null,
  ),
);
const when = computed(() => {
  const then = new Date(props.title.changed_at);
  const days = Math.floor((new Date().setHours(0, 0, 0, 0) - new Date(then).setHours(0, 0, 0, 0)) / 864e5);
  if (days < 2) return new Intl.RelativeTimeFormat("en", { numeric: "auto" }).format(-days, "day");
  return then.toLocaleDateString("en", days < 7 ? { weekday: "long" } : { day: "numeric", month: "long" });
});

async function startRenaming() {
  renaming.value = true;
  await nextTick();
  setTimeout(() => field.value?.select(), 80);
}
function rename() {
  const name = field.value?.value.trim();
  renaming.value = false;
  if (name && name !== props.title.name) emit("rename", name);
}
</script>

<template>
  <article ref="root" :class="{ chosen }">
    <router-link
      :to="{ name: 'bench', params: { id: title.id } }"
      class="strip"
      :aria-label="text.shelf.open(title.name)"
    >
      <img v-if="picture" :src="picture" alt="" />
    </router-link>
    <input v-model="chosen" class="choose" type="checkbox" :aria-label="text.shelf.choose(title.name)" />
    <div class="foot">
      <input
        v-if="renaming"
        ref="field"
        :value="title.name"
        maxlength="200"
        :aria-label="text.act.rename"
        @keydown.enter="rename"
        @keydown.esc="renaming = false"
        @blur="rename"
      />
      <strong v-else>{{ title.name }}</strong>
      <span class="quiet">{{ title.width }} × {{ title.height }}, {{ title.duration }} s</span>
      <span class="quiet when">{{ when }}</span>
      <v-menu>
        <template #activator="{ props: activator }">
          <v-btn
            v-bind="activator"
            :icon="mdiDotsHorizontal"
            variant="text"
            size="x-small"
            :aria-label="text.bench.more(title.name)"
          />
        </template>
        <v-list>
          <v-list-item :prepend-icon="mdiPencil" :title="text.act.rename" @click="startRenaming" />
          <v-list-item :prepend-icon="mdiContentCopy" :title="text.act.duplicate" @click="emit('duplicate')" />
          <v-list-item
            :prepend-icon="mdiFormatListBulleted"
            :title="text.shelf.wordList"
            :to="{ name: 'words', query: { title: title.id } }"
          />
          <v-list-item :prepend-icon="mdiDownload" :title="text.shelf.give" @click="emit('give')" />
          <v-list-item :prepend-icon="mdiDelete" :title="text.act.remove" @click="emit('remove')" />
        </v-list>
      </v-menu>
    </div>
  </article>
</template>

<style scoped>
article {
  position: relative;
}
.choose {
  position: absolute;
  left: 8px;
  top: 8px;
  width: 16px;
  height: 16px;
  opacity: 0;
  accent-color: var(--accent);
}
article:hover .choose,
article.chosen .choose,
.choose:focus-visible {
  opacity: 1;
}
article.chosen .strip {
  outline: 3px solid var(--accent);
}
.strip {
  display: block;
  aspect-ratio: 800 / 224;
  border-radius: 4px;
  overflow: hidden;
  background: color-mix(in srgb, var(--ink) 10%, transparent);
}
.strip:hover {
  outline: 3px solid var(--accent);
  outline-offset: 1px;
}
img {
  display: block;
  width: 100%;
}
.foot {
  display: flex;
  align-items: center;
  gap: 10px;
  padding-top: 2px;
}
strong {
  font-weight: 650;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.when {
  margin-left: auto;
}
.foot input {
  border: 1px solid var(--accent);
  border-radius: 3px;
  background: var(--raised);
  color: inherit;
  padding: 0 4px;
}
</style>
