<script setup lang="ts">
// The source of the layer: its words and how they are set, or the colour of a ground.
import { computed, ref, watch } from "vue";
import FontChooser from "@/components/FontChooser.vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import ColourField from "@/components/fields/ColourField.vue";
import NumberField from "@/components/fields/NumberField.vue";
import PlacementSettings from "./PlacementSettings.vue";
import FloorSettings from "./FloorSettings.vue";
import ShownSettings from "./ShownSettings.vue";
import BenchNumber from "./BenchNumber.vue";
import { constant, numberOf, type Lettering } from "@/model/title";
import { useBench } from "@/stores/bench";
import { useCatalogue } from "@/stores/catalogue";
import { ACCEPTED, useLibrary } from "@/stores/library";
import { useNotices } from "@/stores/notices";
import { text } from "@/text";

const bench = useBench();
const catalogue = useCatalogue();
const library = useLibrary();
const notices = useNotices();

const lettering = computed(() => (bench.layer?.kind === "lettering" ? (bench.layer as Lettering) : null));
const styles = computed(
  () => catalogue.all?.fonts.find((font) => font.family === lettering.value?.source.font)?.styles ?? [],
);
const axes = computed(
  () => catalogue.all?.fonts.find((font) => font.family === lettering.value?.source.font)?.axes ?? [],
);
const pictures = computed(() => (catalogue.all?.pictures ?? []).filter((name) => !name.startsWith("shipped/")));
const file = ref<HTMLInputElement | null>(null);
const size = ref(0);
watch(() => numberOf(lettering.value?.source.size), (value) => (size.value = value), { immediate: true });

function setSource(changes: object, gesture: string | null = null) {
  bench.setLayer(lettering.value!.id, { source: { ...lettering.value!.source, ...changes } }, gesture);
}
async function swapFont(font: string) {
  const fault = await bench.swapWord(lettering.value!.id, { font });
  if (fault !== null) notices.fault(fault);
}
async function swapPicture(picture: string) {
  const fault = await bench.swapWord(lettering.value!.id, { picture });
  if (fault !== null) notices.fault(fault);
}
async function upload(event: Event) {
  const input = event.target as HTMLInputElement;
  const [kept] = await library.uploadAll([...(input.files ?? [])]);
  input.value = "";
  if (kept?.kind === "picture") await swapPicture(kept.name);
  else if (kept) await swapFont(kept.name);
}
async function resize() {
  if (size.value === numberOf(lettering.value?.source.size)) return;
  const fault = await bench.resizeLook(lettering.value!.id, size.value);
  if (fault !== null) notices.fault(fault);
  size.value = numberOf(lettering.value?.source.size);
}
</script>

<template>
  <section v-if="lettering" :aria-label="text.bench.lettering">
    <h2>{{ text.bench.lettering }}</h2>
    <v-textarea
      class="words"
      :model-value="lettering.source.text"
      :aria-label="text.bench.words"
      rows="1"
      auto-grow
      maxlength="2000"
      @update:model-value="bench.setWords(lettering.id, $event)"
      @blur="bench.fitWord(lettering.id)"
    />
    <div class="row">
      <span>{{ text.fonts.title }}</span>
      <FontChooser
        :model-value="lettering.source.font"
        :word="lettering.source.text"
        :label="text.fonts.title"
        @update:model-value="swapFont"
      />
    </div>
    <ChoiceField
      v-if="styles.length > 1"
      :label="text.lettering.style"
      :model-value="lettering.source.style || styles[0]!"
      :choices="styles"
      @update:model-value="setSource({ style: $event })"
    />
    <BenchNumber
      v-for="axis in axes"
      :key="axis.tag"
      :label="axis.tag"
      :value="lettering.source.axes?.[axis.tag]"
      :otherwise="axis.default"
      :low="axis.low"
      :high="axis.high"
      :standard="axis.default"
      @change="setSource({ axes: { ...lettering.source.axes, [axis.tag]: $event } }, `axis ${axis.tag}`)"
    />
    <NumberField
      :label="text.bench.size"
      :help="text.bench.sizeHelp"
      :model-value="size"
      :low="1"
      :high="8000"
      :usual="[20, 1000]"
      unit="px"
      @update:model-value="size = $event"
      @done="resize"
    />
    <BenchNumber
      :label="text.lettering.letterSpacing"
      :value="lettering.source.letter_spacing"
      :low="-2000"
      :high="4000"
      :usual="[-40, 200]"
      :standard="0"
      unit="px"
      @change="setSource({ letter_spacing: $event }, 'letter_spacing')"
    />
    <BenchNumber
      :label="text.lettering.lineSpacing"
      :value="lettering.source.line_spacing"
      :otherwise="1"
      :low="0"
      :high="10"
      :usual="[0.5, 2]"
      :standard="1"
      @change="setSource({ line_spacing: $event }, 'line_spacing')"
    />
    <ChoiceField
      :label="text.lettering.align"
      :model-value="lettering.source.align"
      :choices="['left', 'centre', 'right']"
      @update:model-value="setSource({ align: $event })"
    />
    <div class="row swap">
      <span>{{ text.swap.title }}</span>
      <v-menu max-height="360">
        <template #activator="{ props: activator }">
          <v-btn v-bind="activator">{{ text.swap.picture }}</v-btn>
        </template>
        <v-list>
          <v-list-item :title="text.swap.upload" @click="file?.click()" />
          <v-list-item v-for="name in pictures" :key="name" :title="name" @click="swapPicture(name)" />
        </v-list>
      </v-menu>
      <input ref="file" type="file" :accept="ACCEPTED" hidden @change="upload" />
    </div>
    <PlacementSettings :layer="lettering" />
  </section>
  <section v-else-if="bench.layer?.kind === 'backdrop'" :aria-label="text.bench.ground">
    <h2>{{ text.bench.ground }}</h2>
    <ColourField
      :label="text.light.colour"
      :model-value="String(constant(bench.layer.source.colour))"
      @update:model-value="bench.setLayer(bench.layer!.id, { source: { colour: $event } }, 'ground')"
      @done="bench.endGesture()"
    />
  </section>
  <FloorSettings v-else-if="bench.layer?.kind === 'floor'" :layer="bench.layer" />
  <section v-else-if="bench.layer?.kind === 'wash'">
    <h2>{{ text.bench.beneath }}</h2>
  </section>
  <ShownSettings v-else-if="bench.layer" :layer="bench.layer" />
</template>

<style scoped>
h3 {
  margin-top: 10px;
}
.words {
  margin-bottom: 6px;
}
.row {
  display: grid;
  grid-template-columns: 96px 1fr;
  gap: 8px;
  min-height: 30px;
  align-items: center;
}
</style>
