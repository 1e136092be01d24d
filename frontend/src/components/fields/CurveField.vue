<script setup lang="ts">
// One curve, or several of which one is looked at: on a board, from presets, typed, or drawn.
import { mdiDraw } from "@mdi/js";
import { computed, ref, watch } from "vue";
import { curveAsText, curveFromText, CURVES } from "@/model/curve";
import type { CurvePoint } from "@/model/title";
import { text } from "@/text";
import CurveBoard from "./CurveBoard.vue";

export interface NamedCurve {
  name: string;
  label: string;
  points: CurvePoint[];
  standard: CurvePoint[];
}
const props = defineProps<{
  curves: NamedCurve[];
  help?: string;
  histogram?: number[] | null;
  pointer?: number | null;
}>();
const emit = defineEmits<{ change: [name: string, value: CurvePoint[]]; done: []; start: [] }>();

const shown = ref(props.curves[0]?.name ?? "");
const curve = computed(() => props.curves.find((each) => each.name === shown.value) ?? props.curves[0]!);
const drawing = ref(false);
const typing = ref(false);
const wrong = ref(false);
const COLOURS: Record<string, string> = { red: "#c0341b", green: "#2f7042", blue: "#2a5f9e" };

function give(points: CurvePoint[]) {
  emit("change", curve.value.name, points);
}
function choose(points: CurvePoint[]) {
  give(points.map((point) => [...point] as CurvePoint));
  emit("done");
}
const words = ref("");
// What is wrong stays to be mended.
watch(() => curveAsText(curve.value.points), (now) => (words.value = now), { immediate: true });
function typed() {
  const points = curveFromText(words.value);
  wrong.value = points === null;
  if (points) choose(points);
}
/** Whether a curve of several does anything. */
function changed(each: NamedCurve): boolean {
  return JSON.stringify(each.points) !== JSON.stringify(each.standard);
}
</script>

<template>
  <div class="curve">
    <div v-if="curves.length > 1" class="channels tabs" role="tablist">
      <button
        v-for="each in curves"
        :key="each.name"
        type="button"
        role="tab"
        :aria-selected="each.name === curve.name"
        @click="shown = each.name"
      >
        {{ each.label }}<span v-if="changed(each)" class="dot" :title="text.curve.changed">•</span>
      </button>
    </div>
    <span v-else :title="help">{{ curve.label }}</span>
    <CurveBoard
      :label="curve.label"
      :model-value="curve.points"
      :drawing="drawing"
      :colour="COLOURS[curve.name]"
      :histogram="histogram"
      :pointer="pointer"
      @update:model-value="give"
      @start="emit('start')"
      @done="emit('done')"
      @drawn="drawing = false"
    />
    <div class="acts links">
      <v-menu>
        <template #activator="{ props: activator }">
          <button v-bind="activator" class="plain" type="button">{{ text.curve.presets }}</button>
        </template>
        <v-list>
          <v-list-item :title="text.same.standard" @click="choose(curve.standard)" />
          <v-list-item v-for="preset in CURVES" :key="preset.name" :title="text.curve.names[preset.name]" @click="choose(preset.points)" />
        </v-list>
      </v-menu>
      <button class="plain" type="button" :aria-pressed="drawing" @click="drawing = !drawing">
        <v-icon :icon="mdiDraw" size="13" /> {{ drawing ? text.curve.drawHere : text.curve.draw }}
      </button>
      <button class="plain" type="button" :aria-pressed="typing" @click="typing = !typing">{{ text.curve.type }}</button>
    </div>
    <textarea
      v-if="typing"
      v-model="words"
      class="mono typed"
      rows="2"
      :aria-label="text.curve.typeHere"
      :title="text.curve.typeHere"
      @change="typed"
      @keydown.enter.prevent="typed"
    ></textarea>
    <p v-if="typing && wrong" class="wrong" role="alert">{{ text.curve.wrong }}</p>
  </div>
</template>

<style scoped>
.curve {
  display: grid;
  gap: 4px;
  padding: 4px 0;
}
.channels {
  display: flex;
  gap: 12px;
}
.dot {
  color: var(--accent);
}
.acts {
  display: flex;
  gap: 14px;
  font-size: 12px;
}
.acts button[aria-pressed="true"] {
  color: var(--accent);
}
.typed {
  width: 100%;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--raised);
  color: inherit;
  padding: 4px 6px;
}
.wrong {
  color: var(--accent);
}
</style>
