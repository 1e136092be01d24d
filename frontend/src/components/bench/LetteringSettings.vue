<script setup lang="ts">
// The source of the layer: its words and how they are set, or the colour of a ground.
import { computed, ref, watch } from "vue";
import FontChooser from "@/components/FontChooser.vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import ModelFields from "@/components/fields/ModelFields.vue";
import NumberField from "@/components/fields/NumberField.vue";
import PeggedField from "@/components/fields/PeggedField.vue";
import PlacedField from "@/components/fields/PlacedField.vue";
import PlacementSettings from "./PlacementSettings.vue";
import FloorSettings from "./FloorSettings.vue";
import PlateSettings from "./PlateSettings.vue";
import ShownSettings from "./ShownSettings.vue";
import AlongSettings from "./AlongSettings.vue";
import InTurnSettings from "./InTurnSettings.vue";
import { isVarying, numberOf, wordsOf, type Lettering, type Setting } from "@/model/title";
import { useActs } from "@/stores/acts";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { useCatalogue } from "@/stores/catalogue";
import { ACCEPTED, useLibrary } from "@/stores/library";
import { useMotion } from "@/stores/motion";
import { useNotices } from "@/stores/notices";
import { text } from "@/text";

const opened = useOpened();
const chosen = useChosen();
const acts = useActs();
const catalogue = useCatalogue();
const motion = useMotion();
const library = useLibrary();
const notices = useNotices();

const lettering = computed(() => (chosen.layer?.kind === "lettering" ? (chosen.layer as Lettering) : null));
const styles = computed(
  () => catalogue.all?.fonts.find((font) => font.family === lettering.value?.source.font)?.styles ?? [],
);
const source = computed(() => ["layers", lettering.value?.id ?? "", "source"]);
const axes = computed<Setting[]>(() => {
  const found = catalogue.all?.fonts.find((font) => font.family === lettering.value?.source.font)?.axes ?? [];
  return found.map((axis) => ({
    name: axis.tag, label: axis.tag, kind: "number", unit: "", low: axis.low, high: axis.high, usual: null,
    default: axis.default, choices: null, help: "", when: null, called: null, grip: null, group: "", moves: true,
  }));
});
/** All but the size, which takes the look along, unless it moves by itself. */
const setting = computed(() =>
  catalogue.model("source.lettering").filter(({ name }) => name !== "text" && (name !== "size" || sizeMoves.value)),
);
const said = computed(() => catalogue.model("source.lettering").find(({ name }) => name === "text"));
const sizeMoves = computed(() => isVarying(motion.raw([...source.value, "size"])));
const pictures = computed(() => (catalogue.all?.pictures ?? []).filter((name) => !name.startsWith("shipped/")));
const file = ref<HTMLInputElement | null>(null);
const size = ref(0);
watch(() => numberOf(lettering.value?.source.size), (value) => (size.value = value), { immediate: true });

function setSource(changes: object, gesture: string | null = null) {
  opened.setLayer(lettering.value!.id, { source: { ...lettering.value!.source, ...changes } }, gesture);
}
async function swapFont(font: string) {
  const fault = await acts.swapWord(lettering.value!.id, { font });
  if (fault !== null) notices.fault(fault);
}
async function swapPicture(picture: string) {
  const fault = await acts.swapWord(lettering.value!.id, { picture });
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
  const fault = await acts.resizeLook(lettering.value!.id, size.value);
  if (fault !== null) notices.fault(fault);
  size.value = numberOf(lettering.value?.source.size);
}
</script>

<template>
  <section v-if="lettering" :aria-label="text.bench.lettering">
    <h2>{{ text.bench.lettering }}</h2>
    <PeggedField :of="source" :setting="said">
      <v-textarea
        class="words"
        :model-value="wordsOf(lettering)"
        :aria-label="text.bench.words"
        rows="1"
        auto-grow
        maxlength="2000"
        @update:model-value="opened.setWords(lettering.id, $event)"
        @blur="acts.fitWord(lettering.id)"
      />
    </PeggedField>
    <div class="row">
      <span>{{ text.fonts.title }}</span>
      <FontChooser
        :model-value="lettering.source.font"
        :word="wordsOf(lettering)"
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
    <PlacedField v-for="axis in axes" :key="axis.name" :of="[...source, 'axes']" :setting="axis" />
    <NumberField
      v-if="!sizeMoves"
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
    <ModelFields :of="source" :settings="setting" />
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
    <AlongSettings :layer="lettering" />
    <InTurnSettings :layer="lettering" />
    <PlacementSettings :layer="lettering" />
  </section>
  <section v-else-if="chosen.layer?.kind === 'backdrop'" :aria-label="text.bench.ground">
    <h2>{{ text.bench.ground }}</h2>
    <ModelFields :of="['layers', chosen.layer.id, 'source']" :settings="catalogue.model('source.backdrop')" />
  </section>
  <PlateSettings v-else-if="chosen.layer?.kind === 'plate'" :layer="chosen.layer" />
  <FloorSettings v-else-if="chosen.layer?.kind === 'floor'" :layer="chosen.layer" />
  <section v-else-if="chosen.layer?.kind === 'wash'">
    <h2>{{ text.bench.beneath }}</h2>
  </section>
  <ShownSettings v-else-if="chosen.layer" :layer="chosen.layer" />
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
