<script setup lang="ts">
// The settings of the selected step, made from the catalogue.
import { computed } from "vue";
import CurveField from "@/components/fields/CurveField.vue";
import ModelFields from "@/components/fields/ModelFields.vue";
import CellBrushes from "./CellBrushes.vue";
import PartPaints from "./PartPaints.vue";
import PlayOfStep from "./PlayOfStep.vue";
import WhereSettings from "./WhereSettings.vue";
import { stable } from "@/composables/stable";
import { useTones } from "@/composables/useTones";
import { choicesFor, type Choice } from "@/model/references";
import { counts, settingOf, type CurvePoint } from "@/model/title";
import { useBuilds } from "@/stores/builds";
import { useChosen } from "@/stores/chosen";
import { useMotion } from "@/stores/motion";
import { useOpened } from "@/stores/opened";
import { useCatalogue } from "@/stores/catalogue";

const opened = useOpened();
const chosen = useChosen();
const builds = useBuilds();
const catalogue = useCatalogue();
const motion = useMotion();

const step = computed(() => chosen.step!);
const entry = computed(() => catalogue.entry(step.value.step));
const counting = computed(() =>
  (entry.value?.settings ?? []).filter((each) => counts(step.value, entry.value!, each)),
);
/** Several curves share one board, as the channels of a picture do. */
const curves = computed(() => {
  const found = counting.value.filter(
    (each) => each.kind === "curve" && motion.stateOf([...place.value, each.name]) === "constant",
  );
  return found.length < 2 ? [] : found;
});
const settings = computed(() =>
  (entry.value?.settings ?? []).filter((each) => !BY_HAND.includes(each.kind) && !curves.value.includes(each)),
);
const named = stable(() =>
  curves.value.map((each) => ({
    name: each.name, label: each.label,
    points: settingOf(step.value, each) as CurvePoint[], standard: each.default as CurvePoint[],
  })),
);
const readsTones = computed(
  () => entry.value?.stage === "tone" && entry.value.settings.some((each) => each.kind === "stops" || each.kind === "curve"),
);

const { tones, pointer } = useTones(readsTones);

const BY_HAND = ["painted", "part paints"];
const REFERRING = ["image", "step", "light"];
/** What each setting that refers to something can be set to. */
const choices = stable<Record<string, Choice[]>>(() => {
  const pictures = catalogue.all?.pictures ?? [];
  const referring = settings.value.filter((each) => REFERRING.includes(each.kind));
  return Object.fromEntries(
    referring.map((each) => [
      each.name, choicesFor(each, step.value, chosen.layer!, opened.title, pictures, catalogue.entry),
    ]),
  );
});
const place = computed(() => ["layers", chosen.layer!.id, "build", step.value.id, "settings"]);
function change(name: string, value: unknown) {
  builds.set(name, value);
}
</script>

<template>
  <section v-if="entry" :aria-label="entry.label">
    <h2>{{ entry.label }}</h2>
    <p class="quiet help">{{ entry.help }}</p>
    <ModelFields :of="['layers', chosen.layer!.id, 'build', step.id]" :settings="catalogue.model('step')" />
    <WhereSettings />
    <CellBrushes />
    <PartPaints />
    <CurveField
      v-if="named.length"
      :curves="named"
      :histogram="readsTones ? tones?.histogram : null"
      :pointer="readsTones ? pointer : null"
      @change="change"
      @start="opened.dragging = true"
      @done="opened.endGesture()"
    />
    <ModelFields
      :of="place"
      :settings="settings"
      :histogram="readsTones ? tones?.histogram : null"
      :pointer="readsTones ? pointer : null"
      :references="choices"
    />
    <PlayOfStep :layer="chosen.layer!.id" :step="step" :settings="settings" />
  </section>
</template>

<style scoped>
h2 {
  font-size: 15px;
}
.help {
  margin-bottom: 10px;
}
</style>
