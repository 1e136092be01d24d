<script setup lang="ts">
// The settings of the selected step, made from the catalogue.
import { computed } from "vue";
import { api, session } from "@/api/client";
import CurveField from "@/components/fields/CurveField.vue";
import SettingField from "@/components/fields/SettingField.vue";
import BenchNumber from "./BenchNumber.vue";
import WhereSettings from "./WhereSettings.vue";
import { stable } from "@/composables/stable";
import { useLatest } from "@/composables/useLatest";
import { choicesFor, type Choice } from "@/model/references";
import { counts, isVarying, numberOf, settingOf, type CurvePoint } from "@/model/title";
import { useBench } from "@/stores/bench";
import { useCatalogue } from "@/stores/catalogue";
import { useProof } from "@/stores/proof";
import { text } from "@/text";

const bench = useBench();
const catalogue = useCatalogue();
const proof = useProof();

const step = computed(() => bench.step!);
const entry = computed(() => catalogue.entry(step.value.step));
const counting = computed(() =>
  (entry.value?.settings ?? []).filter((each) => counts(step.value, entry.value!, each)),
);
/** Several curves share one board, as the channels of a picture do. */
const curves = computed(() => {
  const found = counting.value.filter((each) => each.kind === "curve" && !isVarying(settingOf(step.value, each)));
  return found.length < 2 ? [] : found;
});
const settings = computed(() => counting.value.filter((each) => !curves.value.includes(each)));
const named = stable(() =>
  curves.value.map((each) => ({
    name: each.name, label: each.label,
    points: settingOf(step.value, each) as CurvePoint[], standard: each.default as CurvePoint[],
  })),
);
const readsTones = computed(
  () => entry.value?.stage === "tone" && entry.value.settings.some((each) => each.kind === "stops" || each.kind === "curve"),
);

const SCALE = 0.25;
const question = computed(() =>
  readsTones.value && bench.still
    ? { session, document: bench.shown, layer: bench.layer!.id, step: step.value.id, scale: SCALE }
    : null,
);
const { answer: fresh } = useLatest(
  question,
  async (body, signal) => (await api.POST("/api/tones", { body, signal })).data,
  120,
);
const places = computed(() => {
  const tones = fresh.value;
  return tones ? { ...tones, bytes: Uint8Array.from(atob(tones.places), (c) => c.charCodeAt(0)) } : null;
});
/** Brightness under the pointer before this step, or null outside the lettering. */
const pointer = computed(() => {
  const at = proof.pointer;
  const map = places.value;
  if (!at || !map) return null;
  const [x, y] = [Math.floor(at.x * SCALE), Math.floor(at.y * SCALE)];
  if (x < 0 || y < 0 || x >= map.width || y >= map.height) return null;
  const byte = map.bytes[y * map.width + x] ?? 255;
  return byte === 255 ? null : byte / 254;
});

function beside(name: string): number {
  const other = entry.value?.settings.find((each) => each.name === name);
  return other ? numberOf(settingOf(step.value, other)) : 0;
}
const REFERRING = ["image", "step", "light"];
/** What each setting that refers to something can be set to. */
const choices = stable<Record<string, Choice[]>>(() => {
  const pictures = catalogue.all?.pictures ?? [];
  const referring = settings.value.filter((each) => REFERRING.includes(each.kind));
  return Object.fromEntries(
    referring.map((each) => [
      each.name, choicesFor(each, step.value, bench.layer!, bench.title, pictures, catalogue.entry),
    ]),
  );
});
function start() {
  bench.dragging = true;
}
function change(name: string, value: unknown) {
  bench.set(name, value);
}
</script>

<template>
  <section v-if="entry" :aria-label="entry.label">
    <h2>{{ entry.label }}</h2>
    <p class="quiet help">{{ entry.help }}</p>
    <BenchNumber
      :label="text.bench.strength"
      :help="text.bench.strengthHelp"
      :value="step.strength"
      :otherwise="1"
      :low="0"
      :high="1"
      :standard="1"
      unit="%"
      @change="bench.setStep(step.id, { strength: $event }, `${step.id}.strength`)"
    />
    <WhereSettings />
    <CurveField
      v-if="named.length"
      :curves="named"
      :histogram="readsTones ? fresh?.histogram : null"
      :pointer="readsTones ? pointer : null"
      @change="change"
      @start="start"
      @done="bench.endGesture()"
    />
    <SettingField
      v-for="setting in settings"
      :key="setting.name"
      :setting="setting"
      :value="settingOf(step, setting)"
      :histogram="readsTones ? fresh?.histogram : null"
      :pointer="readsTones ? pointer : null"
      :slide="beside('slide')"
      :repeats="beside('repeats') || 1"
      :references="choices[setting.name]"
      @change="change(setting.name, $event)"
      @start="start"
      @done="bench.endGesture()"
    />
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
