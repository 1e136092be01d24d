<script setup lang="ts">
// The relief cut open along the dashed line, on the same x axis as the proof.
import { useElementSize } from "@vueuse/core";
import { computed, ref } from "vue";
import ProfileHandles from "./ProfileHandles.vue";
import { startDrag } from "@/composables/useDrag";
import { useSection } from "@/composables/useSection";
import { numberOf, settingOf } from "@/model/title";
import { useBuilds } from "@/stores/builds";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { useCatalogue } from "@/stores/catalogue";
import { useProof } from "@/stores/proof";
import { text } from "@/text";

const opened = useOpened();
const chosen = useChosen();
const builds = useBuilds();
const catalogue = useCatalogue();
const proof = useProof();
const board = ref<HTMLElement | null>(null);
const { height: tall } = useElementSize(board);
const TONES = 16;
const LABELS = 14;

/** The step whose input the tone line shows: the selected one where it reads brightness. */
const reader = computed(() => (chosen.step?.step.startsWith("tone.") ? chosen.step : undefined));
const { answer: section } = useSection(computed(() => reader.value?.id));

const room = computed(() => Math.max(tall.value - TONES - LABELS - 12, 10));
// Raised relief stands on the ground line, sunk relief hangs below it.
const highest = computed(() => Math.max(...(section.value?.height ?? []).map((each) => each ?? 0), 0));
const lowest = computed(() => Math.min(...(section.value?.height ?? []).map((each) => each ?? 0), 0));
const up = computed(() => (room.value - 4) / Math.max(highest.value - lowest.value, 1e-3));
const x = (index: number, count: number) => proof.left + ((index + 0.5) / count) * proof.frame.width * proof.scale;

function runs(values: (number | null)[], y: (value: number) => number, closed: boolean): string {
  let path = "";
  let first: number | null = null;
  values.forEach((value, i) => {
    if (value === null) return;
    const before = values[i - 1] ?? null;
    if (before === null) {
      first = i;
      path += closed ? `M${x(i, values.length)} ${y(0)}L` : "M";
    } else if (i !== first) path += "L";
    path += `${x(i, values.length).toFixed(1)} ${y(value).toFixed(1)}`;
    if (closed && (values[i + 1] ?? null) === null) path += `L${x(i, values.length)} ${y(0)}Z`;
  });
  return path;
}
const base = computed(() => LABELS + room.value);
const ground = computed(() => base.value + lowest.value * up.value);
/** Where the first stroke that is wholly in the section begins. */
const edge = computed(() => {
  const heights = section.value?.height ?? [];
  const first = heights.findIndex((value, i) => value !== null && i > 0 && heights[i - 1] === null);
  return first < 0 ? null : x(first - 0.5, heights.length);
});
const relief = computed(() =>
  runs(section.value?.height ?? [], (h) => ground.value - h * up.value, true),
);
const tone = computed(() => runs(section.value?.tone ?? [], (t) => base.value - t * (room.value - 4), false));
const colours = computed(() => {
  const codes = section.value?.colours ?? [];
  const stops = codes.map((code, i) => `${code} ${((i / codes.length) * 100).toFixed(2)}% ${(((i + 1) / codes.length) * 100).toFixed(2)}%`);
  return stops.length ? `linear-gradient(to right, ${stops.join(",")})` : "none";
});
const toneLabel = computed(() =>
  reader.value
    ? text.bench.toneBefore(catalogue.entry(reader.value.step)?.label ?? "")
    : text.bench.tone,
);

// Dragging the curve up or down changes the height of the selected relief
const shaped = computed(() => {
  const step = chosen.step?.step.startsWith("relief.") ? chosen.step : undefined;
  const setting = step && catalogue.entry(step.step)?.settings.find((each) => each.name === "height");
  return step && setting ? { step, setting } : null;
});
function press(event: PointerEvent) {
  const target = shaped.value;
  if (!target) return;
  const before = numberOf(settingOf(target.step, target.setting));
  const full = Math.abs(before) > 1e-3 ? before : Number(target.setting.default);
  opened.dragging = true;
  startDrag(
    event,
    ({ dy, fine }) => {
      const share = (-dy / room.value) * (fine ? 0.1 : 1);
      const wanted = before + Math.abs(full) * share;
      const held = Math.min(Math.max(wanted, target.setting.low ?? -1e6), target.setting.high ?? 1e6);
      builds.set("height", Math.round(held * 1000) / 1000);
    },
    () => opened.endGesture(),
  );
}
</script>

<template>
  <section class="section" :aria-label="text.bench.section">
    <aside>
      <p class="quiet">{{ text.bench.sectionHelp }} {{ shaped ? text.bench.sectionDrag : "" }}</p>
    </aside>
    <div ref="board" class="board" :class="{ shaped }" @pointerdown="press">
      <svg width="100%" :height="base + 2" role="img" :aria-label="text.bench.sectionHelp">
        <path class="relief" :d="relief" />
        <path class="tone" :d="tone" />
        <ProfileHandles :edge="edge" :base="ground" :across="proof.scale" :up="up" />
        <line class="ground" x1="0" x2="100%" :y1="ground" :y2="ground" />
        <text x="100%" dx="-8" y="15" class="name">
          <tspan class="relief-name">{{ text.bench.height }}</tspan>
          <tspan dx="10" class="tone-name">{{ toneLabel }}</tspan>
        </text>
      </svg>
      <div
        class="colours"
        :style="{ background: colours, left: `${proof.left}px`, width: `${proof.frame.width * proof.scale}px` }"
      ></div>
    </div>
  </section>
</template>

<style scoped>
.section {
  display: grid;
  grid-template-columns: var(--left) 1fr;
  min-height: 0;
}
aside {
  padding: 8px 12px;
  border-right: 1px solid var(--line);
}
.board {
  position: relative;
  overflow: hidden;
  touch-action: none;
}
.board.shaped {
  cursor: ns-resize;
}
svg {
  display: block;
}
.relief {
  fill: color-mix(in srgb, #b89a4a 45%, transparent);
  stroke: var(--stage-relief);
}
.tone {
  fill: none;
  stroke: var(--accent);
  stroke-width: 1.5;
}
.ground {
  stroke: var(--stage-relief);
}
.name {
  font-size: 11px;
  text-anchor: end;
}
.relief-name {
  fill: var(--stage-relief);
}
.tone-name {
  fill: var(--accent);
}
.colours {
  position: absolute;
  bottom: 6px;
  height: 16px;
}
</style>
