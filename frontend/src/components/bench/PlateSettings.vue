<script setup lang="ts">
// The shot that the title is made for: which, how it fills the frame and runs, and where its light
// comes from.
import { computed, ref } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import ModelFields from "@/components/fields/ModelFields.vue";
import PeggedField from "@/components/fields/PeggedField.vue";
import PlayFields from "./PlayFields.vue";
import { rigged } from "@/model/light";
import { numberOf, pictureOf, type Layer } from "@/model/title";
import { useCatalogue } from "@/stores/catalogue";
import { ACCEPTED, useLibrary } from "@/stores/library";
import { useMotion } from "@/stores/motion";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

const props = defineProps<{ layer: Extract<Layer, { kind: "plate" }> }>();
const opened = useOpened();
const catalogue = useCatalogue();
const library = useLibrary();
const motion = useMotion();
const file = ref<HTMLInputElement | null>(null);

const source = computed(() => ["layers", props.layer.id, "source"]);
const shown = computed(() => catalogue.model("source.plate").find(({ name }) => name === "picture"));
const settings = computed(() => catalogue.model("source.plate").filter(({ name }) => name !== "picture"));
const pictures = computed(() =>
  (catalogue.all?.pictures ?? []).map((name) => ({ value: name, title: name.replace(/^shipped\//, "") })),
);
const key = computed(() => opened.title.lights[0]);
function show(picture: string) {
  motion.set([...source.value, "picture"], picture);
}
async function upload(event: Event) {
  const input = event.target as HTMLInputElement;
  const [kept] = await library.uploadAll([...(input.files ?? [])]);
  input.value = "";
  if (kept?.kind === "picture") show(kept.name);
}
/** As it falls now: the gnomon was laid beside a shadow. */
function takeLight() {
  const light = key.value;
  if (light?.kind !== "distant") return;
  const { turn, raised } = opened.title.rig;
  const own = { azimuth: numberOf(light.azimuth), elevation: numberOf(light.elevation) };
  set(rigged(own, { turn: numberOf(turn), raised: numberOf(raised) }));
}
function set(light: { azimuth: number; elevation: number } | null) {
  opened.setLayer(props.layer.id, { source: { ...props.layer.source, light } });
}
</script>

<template>
  <section :aria-label="text.plate.title">
    <h2>{{ text.plate.title }}</h2>
    <PeggedField :of="source" :setting="shown">
      <ChoiceField :label="text.plate.shot" :model-value="pictureOf(layer)" :choices="pictures" @update:model-value="show" />
    </PeggedField>
    <p>
      <v-btn @click="file?.click()">{{ text.swap.upload }}</v-btn>
      <input ref="file" type="file" :accept="ACCEPTED" hidden data-testid="shot" @change="upload" />
    </p>
    <PlayFields :of="[...source, 'play']" :name="pictureOf(layer)" />
    <ModelFields :of="source" :settings="settings" />
    <h3>{{ text.plate.light }}</h3>
    <p class="quiet">{{ text.plate.lightHelp }}</p>
    <template v-if="layer.source.light">
      <ModelFields :of="[...source, 'light']" :settings="catalogue.model('shot_light')" />
      <v-btn @click="set(null)">{{ text.plate.forget }}</v-btn>
    </template>
    <v-btn v-else :disabled="key?.kind !== 'distant'" @click="takeLight">{{ text.plate.take(key?.name ?? "") }}</v-btn>
  </section>
</template>

<style scoped>
h3 {
  padding: 10px 0 2px;
  font-size: 13px;
}
p {
  padding: 4px 0;
}
</style>
