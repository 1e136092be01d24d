<script setup lang="ts">
// One picture or font: how it looks, how large it is, who uses it, and what can be done with it.
import { mdiDelete, mdiDotsHorizontal, mdiDownload, mdiSwapHorizontal } from "@mdi/js";
import { computed, ref } from "vue";
import RunningPicture from "./RunningPicture.vue";
import { give, lengthTold } from "@/model/files";
import { pictureUrl, useLibrary, type LibraryFile } from "@/stores/library";
import { text } from "@/text";

const props = defineProps<{ file: LibraryFile; others: readonly LibraryFile[]; unfolded?: boolean }>();
const emit = defineEmits<{ unfold: [] }>();
const library = useLibrary();
const replacing = ref(false);
const by = ref<string | null>(null);

const plain = computed(() => props.file.name.replace(/^shipped\//, ""));
const size = computed(() => {
  const { width, height, bytes } = props.file;
  const weight = bytes < 1e6 ? `${Math.max(Math.round(bytes / 1000), 1)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
  return width ? `${width} × ${height}, ${weight}` : weight;
});
const length = computed(() => {
  const { frames, seconds, rate } = props.file;
  if (!frames) return "";
  return seconds && rate ? text.library.runs(lengthTold(seconds), rate) : text.library.frames(frames);
});
const fitting = computed(() =>
  props.others
    .filter((each) => each.kind === props.file.kind && each.name !== props.file.name && !each.fault)
    .map((each) => ({ value: each.name, title: each.name.replace(/^shipped\//, "") })),
);
async function replace() {
  if (!by.value) return;
  replacing.value = false;
  await library.replace(props.file, by.value);
}
</script>

<template>
  <article>
    <div class="picture on-chequer" :class="{ font: file.kind === 'font' }">
      <p v-if="file.fault" class="fault">{{ file.fault }}</p>
      <RunningPicture v-else-if="file.frames" :file="file" :alt="plain" />
      <img v-else :src="pictureUrl(file.name, 360, file.version)" :alt="plain" loading="lazy" />
    </div>
    <div class="foot">
      <strong :title="file.name">{{ plain }}</strong>
      <v-menu v-if="!file.shipped">
        <template #activator="{ props: activator }">
          <v-btn v-bind="activator" :icon="mdiDotsHorizontal" variant="text" size="x-small" :aria-label="text.bench.more(plain)" />
        </template>
        <v-list>
          <v-list-item
            v-if="file.kind === 'picture'"
            :prepend-icon="mdiDownload"
            :title="text.library.asPng"
            @click="give(pictureUrl(file.name, 4096), `${plain}.png`)"
          />
          <v-list-item
            :prepend-icon="mdiSwapHorizontal"
            :title="text.library.replace"
            :disabled="!file.used_by.length || !fitting.length"
            @click="replacing = true"
          />
          <v-list-item
            :prepend-icon="mdiDelete"
            :title="text.act.remove"
            :subtitle="file.used_by.length ? text.library.inUse : undefined"
            :disabled="file.used_by.length > 0"
            @click="library.remove(file)"
          />
        </v-list>
      </v-menu>
    </div>
    <p class="quiet">{{ size }}</p>
    <p v-if="length" class="quiet">
      {{ length }}
      <button v-if="file.frames && !file.seconds" class="plain link" type="button" :aria-expanded="unfolded" @click="emit('unfold')">
        {{ unfolded ? text.library.fold : text.library.unfold }}
      </button>
    </p>
    <p v-if="file.used_by.length" class="quiet used">
      {{ text.library.usedBy }}
      <template v-for="(user, index) in file.used_by" :key="index">
        <template v-if="index">, </template>
        <router-link v-if="user.title && user.where !== 'removed'" :to="{ name: 'bench', params: { id: user.title } }">{{ user.name }}</router-link>
        <template v-else>{{ user.name }}</template>
        <template v-if="text.library.uses[user.where]"> {{ text.library.uses[user.where] }}</template>
      </template>
    </p>
    <v-dialog v-model="replacing" :aria-label="text.library.replaceTitle(plain)" max-width="420">
      <v-card :title="text.library.replaceTitle(plain)" :subtitle="text.library.replaceHelp(file.used_by.length)">
        <v-card-text>
          <v-select v-model="by" :items="fitting" :label="text.library.by" :aria-label="text.library.by" />
        </v-card-text>
        <v-card-actions>
          <v-spacer />
          <v-btn variant="text" @click="replacing = false">{{ text.act.cancel }}</v-btn>
          <v-btn variant="flat" color="ink" :disabled="!by" @click="replace">{{ text.library.replace }}</v-btn>
        </v-card-actions>
      </v-card>
    </v-dialog>
  </article>
</template>

<style scoped>
article {
  min-width: 0;
  font-size: 12px;
}
.picture {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  place-content: center stretch;
  justify-items: center;
  height: 118px;
  border-radius: 4px;
  overflow: hidden;
}
.picture.font {
  background: #f3f3f1;
  padding: 18px;
}
img {
  display: block;
  max-width: 100%;
  max-height: 118px;
}
.picture.font img {
  max-height: 82px;
}
.fault {
  padding: 8px;
  color: #8c1f14;
  background: #fff;
}
.foot {
  display: flex;
  align-items: center;
  justify-content: space-between;
  min-height: 24px;
}
strong {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.link {
  text-decoration: underline;
}
.used a {
  color: inherit;
}
</style>
