<script setup lang="ts">
// The picture, large: taps, zoom and pan, the cut, the gnomon, and the word edited in place.
import { useDevicePixelRatio, useElementSize, useEventListener } from "@vueuse/core";
import { computed, nextTick, ref, watch } from "vue";
import Gnomon from "./Gnomon.vue";
import { startDrag } from "@/composables/useDrag";
import { usePreview, type PreviewAsk } from "@/composables/usePreview";
import type { Lettering } from "@/model/title";
import { useBench } from "@/stores/bench";
import { useCatalogue } from "@/stores/catalogue";
import { useProof } from "@/stores/proof";
import { text } from "@/text";

const bench = useBench();
const catalogue = useCatalogue();
const proof = useProof();
const { pixelRatio } = useDevicePixelRatio();

const pane = ref<HTMLElement | null>(null);
const canvas = ref<HTMLCanvasElement | null>(null);
const { width, height } = useElementSize(pane);
watch([width, height], () => Object.assign(proof.pane, { width: width.value, height: height.value }));
watch(
  () => bench.title.frame,
  (frame) => Object.assign(proof.frame, { width: frame.width, height: frame.height }),
  { immediate: true },
);

const AREA = 8_000_000; // pixels that a proof may have
const ask = computed<PreviewAsk | null>(() => {
  if (!proof.pane.width) return null;
  const { width: w, height: h } = bench.title.frame;
  const sharp = Math.min(proof.scale * pixelRatio.value, Math.sqrt(AREA / (w * h)), 4);
  const scale = Math.max(Math.round(sharp * 1000) / 1000, 8 / Math.max(w, h));
  return { document: bench.title, scale, tap: proof.tap, layer: proof.tap === "picture" ? undefined : bench.layer?.id };
});
const moving = computed(() => bench.dragging);
const { shown, notices, fault, busy } = usePreview(ask, moving);

watch([shown, canvas], () => {
  const image = shown.value?.image;
  if (!image || !canvas.value) return;
  canvas.value.width = image.width;
  canvas.value.height = image.height;
  canvas.value.getContext("2d")?.putImageData(image, 0, 0);
});

const place = computed(() => ({
  left: `${proof.left}px`,
  top: `${proof.top}px`,
  width: `${proof.frame.width * proof.scale}px`,
  height: `${proof.frame.height * proof.scale}px`,
}));
const cutY = computed(() => proof.top + proof.cut * proof.frame.height * proof.scale);

function local(event: MouseEvent): { x: number; y: number } {
  const box = pane.value!.getBoundingClientRect();
  return { x: event.clientX - box.left, y: event.clientY - box.top };
}
function track(event: PointerEvent) {
  const { x, y } = local(event);
  proof.pointer = proof.toFrame(x, y);
}
function press(event: PointerEvent) {
  if (event.button > 1 || editing.value) return;
  const before = { ...proof.pan };
  proof.zoom ??= proof.scale;
  const whole = proof.zoom;
  startDrag(
    event,
    ({ dx, dy }) => {
      proof.pan.x = before.x + dx;
      proof.pan.y = before.y + dy;
    },
    () => {
      if (proof.pan.x === before.x && proof.pan.y === before.y && whole === proof.scale && !before.x && !before.y) {
        settle();
      }
    },
  );
  pane.value?.focus();
}
/** A click that moved nothing leaves a fitted proof fitted. */
function settle() {
  const fitted = Math.min((proof.pane.width - 16) / proof.frame.width, (proof.pane.height - 16) / proof.frame.height);
  if (Math.abs(proof.scale - fitted) < 1e-6) proof.fit();
}
function wheel(event: WheelEvent) {
  event.preventDefault();
  const { x, y } = local(event);
  if (event.shiftKey) proof.panBy(-event.deltaY, 0);
  else proof.zoomTo(proof.scale * Math.exp(-event.deltaY * 0.0016), x, y);
}
function keys(event: KeyboardEvent) {
  const arrows: Record<string, [number, number]> = {
    ArrowLeft: [30, 0], ArrowRight: [-30, 0], ArrowUp: [0, 30], ArrowDown: [0, -30],
  };
  const pan = arrows[event.key];
  if (pan && event.target === pane.value) proof.panBy(...pan);
  else if (event.key === "+" || event.key === "=") proof.zoomTo(proof.scale * 1.25);
  else if (event.key === "-") proof.zoomTo(proof.scale / 1.25);
  else if (event.key === "0") proof.fit();
  else if (event.key === "1") proof.zoomTo(1 / pixelRatio.value);
  else return;
  event.preventDefault();
}
function dragCut(event: PointerEvent) {
  const before = proof.cut;
  startDrag(event, ({ dy }) => {
    proof.cut = Math.min(Math.max(before + dy / (proof.frame.height * proof.scale), 0), 1);
  });
}
function nudgeCut(event: KeyboardEvent, by: number) {
  event.preventDefault();
  event.stopPropagation();
  proof.cut = Math.min(Math.max(proof.cut + by * (event.shiftKey ? 0.05 : 0.005), 0), 1);
}

// The word, edited where it stands
const editing = ref(false);
const words = ref("");
const editor = ref<HTMLTextAreaElement | null>(null);
const lettering = computed<Lettering | null>(() => {
  const chosen = bench.layer?.kind === "lettering" ? bench.layer : null;
  return (chosen ?? [...bench.title.layers].reverse().find((each) => each.kind === "lettering") ?? null) as Lettering | null;
});
async function edit() {
  if (!lettering.value) return;
  words.value = lettering.value.source.text;
  editing.value = true;
  await nextTick();
  editor.value?.focus();
  editor.value?.select();
}
function type() {
  const layer = lettering.value;
  if (!layer) return;
  const named = layer.name === layer.source.text ? { name: words.value.slice(0, 200) } : {};
  bench.setLayer(layer.id, { ...named, source: { ...layer.source, text: words.value } }, "words");
}
function stopEditing() {
  editing.value = false;
  bench.endGesture();
}
useEventListener(pane, "wheel", wheel, { passive: false });
</script>

<template>
  <section class="proof" :aria-label="text.bench.proof">
    <header>
      <div class="taps" role="tablist" aria-label="Tap">
        <button
          v-for="tap in catalogue.all?.taps ?? []"
          :key="tap"
          type="button"
          role="tab"
          :aria-selected="proof.tap === tap"
          @click="proof.tap = tap"
        >
          {{ text.taps[tap] }}
        </button>
      </div>
      <div class="view">
        <button
          v-for="tone in ['grey', 'black', 'white', 'chequer'] as const"
          :key="tone"
          type="button"
          class="tone"
          :class="tone"
          :aria-label="`${text.bench.surround}: ${tone}`"
          :aria-pressed="proof.surround === tone"
          @click="proof.surround = tone"
        ></button>
        <span class="mono percent" aria-label="Zoom">{{ Math.round(proof.scale * pixelRatio * 100) }} %</span>
        <button type="button" class="plain" @click="proof.fit()">{{ text.bench.fit }}</button>
        <button type="button" class="plain" @click="proof.zoomTo(1 / pixelRatio)">{{ text.bench.oneToOne }}</button>
      </div>
    </header>
    <div
      ref="pane"
      class="pane"
      :class="proof.surround"
      tabindex="0"
      role="application"
      :aria-label="text.bench.proof"
      @pointermove="track"
      @pointerleave="proof.pointer = null"
      @pointerdown="press"
      @dblclick="edit"
      @keydown="keys"
    >
      <canvas ref="canvas" class="picture" :style="place" :data-coarse="shown?.coarse ?? true" :data-busy="busy"></canvas>
      <svg class="handles" :viewBox="`0 0 ${proof.pane.width} ${proof.pane.height}`">
        <line class="cut under" :x1="proof.left" :x2="proof.left + proof.frame.width * proof.scale" :y1="cutY" :y2="cutY" />
        <line class="cut" :x1="proof.left" :x2="proof.left + proof.frame.width * proof.scale" :y1="cutY" :y2="cutY" />
        <rect
          class="handle"
          :x="Math.max(proof.left - 5, 0)"
          :y="cutY - 7"
          width="9"
          height="14"
          rx="2"
          tabindex="0"
          role="slider"
          :aria-label="text.bench.cutLine"
          :aria-valuenow="Math.round(proof.cut * 100)"
          @pointerdown.stop="dragCut"
          @keydown.up="nudgeCut($event, -1)"
          @keydown.down="nudgeCut($event, 1)"
        />
        <Gnomon />
      </svg>
      <textarea
        v-if="editing"
        ref="editor"
        v-model="words"
        class="editor"
        :aria-label="text.bench.words"
        :rows="Math.max(words.split('\n').length, 1)"
        maxlength="2000"
        @input="type"
        @blur="stopEditing"
        @keydown.esc.stop="stopEditing"
        @keydown.enter.exact.prevent="stopEditing"
        @keydown.stop
        @pointerdown.stop
        @dblclick.stop
      ></textarea>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <p v-else-if="notices.length" class="fault notice" role="status">{{ notices.join(" ") }}</p>
    </div>
  </section>
</template>

<style scoped>
.proof {
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: center;
  height: 28px;
  padding: 0 10px;
  background: color-mix(in srgb, var(--ink) 6%, var(--panel));
}
.taps,
.view {
  display: flex;
  align-items: center;
  gap: 12px;
}
.taps button {
  border: 0;
  border-bottom: 2px solid transparent;
  background: none;
  font: inherit;
  color: var(--quiet);
  padding: 3px 0 2px;
  cursor: pointer;
}
.taps button[aria-selected="true"] {
  color: var(--ink);
  font-weight: 650;
  border-color: var(--active);
}
.tone {
  width: 14px;
  height: 14px;
  border: 1px solid var(--quiet);
  border-radius: 50%;
  padding: 0;
  cursor: pointer;
}
.tone + .tone {
  margin-left: -6px;
}
.tone[aria-pressed="true"] {
  box-shadow: 0 0 0 2px var(--panel), 0 0 0 3.5px var(--active);
}
.tone.grey,
.pane.grey {
  background: var(--surround);
}
.tone.black,
.pane.black {
  background: #000;
}
.tone.white,
.pane.white {
  background: #fff;
}
.tone.chequer,
.pane.chequer {
  background: repeating-conic-gradient(#9a9a9a 0 25%, #c8c8c8 0 50%) 0 0 / 16px 16px;
}
.percent {
  min-width: 44px;
  text-align: right;
}
.pane {
  position: relative;
  flex: 1;
  min-height: 0;
  overflow: hidden;
  cursor: grab;
  touch-action: none;
}
.pane:focus-visible {
  outline-offset: -3px;
}
.picture {
  position: absolute;
}
.handles {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.cut {
  stroke: #fff;
  stroke-width: 1;
  stroke-dasharray: 6 5;
}
.cut.under {
  stroke: #000;
  opacity: 0.35;
  stroke-dashoffset: 6;
}
.handle {
  fill: #fff;
  stroke: #1d2022;
  cursor: ns-resize;
  pointer-events: auto;
  touch-action: none;
}
.editor {
  position: absolute;
  left: 50%;
  bottom: 18px;
  transform: translateX(-50%);
  width: min(70%, 520px);
  padding: 8px 12px;
  border: 2px solid var(--accent);
  border-radius: 4px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  font-size: 22px;
  font-weight: 650;
  text-align: center;
  resize: none;
}
.fault {
  position: absolute;
  left: 12px;
  right: 12px;
  top: 12px;
  margin: 0;
  padding: 6px 10px;
  border-radius: 4px;
  background: #fff;
  color: #8c1f14;
}
.fault.notice {
  color: #1d2022;
  width: fit-content;
  opacity: 0.92;
}
</style>
