<script setup lang="ts">
// The source of a layer that shows something else: a picture, another layer, or several.
import { computed, ref } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import ModelFields from "@/components/fields/ModelFields.vue";
import PeggedField from "@/components/fields/PeggedField.vue";
import PlacementSettings from "./PlacementSettings.vue";
import ShapesSettings from "./ShapesSettings.vue";
import PlayFields from "./PlayFields.vue";
import { stable } from "@/composables/stable";
import { layersToShow } from "@/model/references";
import { isVarying, pictureOf, type Layer } from "@/model/title";
import { useActs } from "@/stores/acts";
import { useOpened } from "@/stores/opened";
import { useCatalogue } from "@/stores/catalogue";
import { ACCEPTED, useLibrary } from "@/stores/library";
import { useMotion } from "@/stores/motion";
import { useNotices } from "@/stores/notices";
import { usePanels } from "@/stores/panels";
import { text } from "@/text";

const props = defineProps<{ layer: Layer }>();
const opened = useOpened();
const acts = useActs();
const catalogue = useCatalogue();
const library = useLibrary();
const motion = useMotion();
const notices = useNotices();
const panels = usePanels();

const pictures = computed(() =>
  (catalogue.all?.pictures ?? []).map((name) => ({ value: name, title: name.replace(/^shipped\//, "") })),
);
/** Layers that a copy may follow: none that needs this one. */
const others = stable(() => layersToShow(opened.title, props.layer.id, catalogue.entry));
const members = computed(() =>
  props.layer.kind === "group"
    ? props.layer.source.layers.map((id) => opened.title.layers.find((each) => each.id === id)?.name ?? id)
    : [],
);

const source = computed(() => ["layers", props.layer.id, "source"]);
const shown = computed(() => catalogue.model("source.picture").find(({ name }) => name === "picture"));
const settings = computed(() => catalogue.model("source.picture").filter(({ name }) => name !== "picture"));
const file = ref<HTMLInputElement | null>(null);
const word = ref("");
/** Another picture, or a word, in the same look. */
async function swapTo(to: { picture?: string; text?: string }) {
  const fault = await acts.swapWord(props.layer.id, to);
  if (fault !== null) notices.fault(fault);
}
/** Another picture in the same look; from now on, where it moves. */
async function showPicture(picture: string) {
  const place = [...source.value, "picture"];
  if (isVarying(motion.raw(place))) motion.set(place, picture);
  else await swapTo({ picture });
}
async function toWord() {
  await swapTo({ text: word.value });
}
async function upload(event: Event) {
  const input = event.target as HTMLInputElement;
  const [kept] = await library.uploadAll([...(input.files ?? [])]);
  input.value = "";
  if (kept?.kind === "picture") await showPicture(kept.name);
}
function setSource(changes: object, gesture: string | null = null) {
  const source = "source" in props.layer ? props.layer.source : {};
  opened.setLayer(props.layer.id, { source: { ...source, ...changes } }, gesture);
}
</script>

<template>
  <section :aria-label="text.sources[layer.kind]">
    <h2>{{ text.sources[layer.kind] }}</h2>
    <template v-if="layer.kind === 'picture'">
      <PeggedField :of="source" :setting="shown">
        <ChoiceField
          :label="text.sources.picture"
          :model-value="pictureOf(layer)"
          :choices="pictures"
          @update:model-value="showPicture"
        />
      </PeggedField>
      <p class="acts">
        <v-btn @click="panels.cutting = layer.id">{{ text.cut.open }}</v-btn>
        <v-btn @click="file?.click()">{{ text.swap.upload }}</v-btn>
        <input ref="file" type="file" :accept="ACCEPTED" hidden @change="upload" />
      </p>
      <form class="word" @submit.prevent="toWord">
        <v-text-field v-model="word" :placeholder="text.swap.word" :aria-label="text.swap.word" maxlength="2000" />
        <v-btn type="submit" :disabled="!word.trim()">{{ text.swap.act }}</v-btn>
      </form>
      <PlayFields :of="[...source, 'play']" :name="pictureOf(layer)" />
      <ModelFields :of="source" :settings="settings" />
    </template>
    <template v-else-if="layer.kind === 'copy'">
      <ChoiceField
        :label="text.sources.follows"
        :model-value="layer.source.layer"
        :choices="others"
        @update:model-value="setSource({ layer: $event })"
      />
      <ModelFields :of="source" :settings="catalogue.model('source.copy')" />
    </template>
    <ShapesSettings v-else-if="layer.kind === 'shapes'" :layer="layer" />
    <ul v-else-if="layer.kind === 'group'" class="quiet">
      <li v-for="name in members" :key="name">{{ name }}</li>
    </ul>
    <PlacementSettings v-if="'placement' in layer" :layer="layer" />
  </section>
</template>

<style scoped>
.acts,
.word {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 4px 0;
}
</style>
