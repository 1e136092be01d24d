<script setup lang="ts">
// The picture, large, with what lies over it: the cut, the gnomon, the word while it is edited.
import { useDevicePixelRatio, useElementSize } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import CutLine from "./CutLine.vue";
import Gnomon from "./Gnomon.vue";
import ProofHeader from "./ProofHeader.vue";
import WordEditor from "./WordEditor.vue";
import { usePainted } from "@/composables/usePainted";
import { usePanAndZoom } from "@/composables/usePanAndZoom";
import { usePreview, type PreviewAsk } from "@/composables/usePreview";
import { letteringOf } from "@/model/title";
import { useBench } from "@/stores/bench";
import { useProof } from "@/stores/proof";
import { text } from "@/text";

const bench = useBench();
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
const { track, press, keys } = usePanAndZoom(pane);

const AREA = 8_000_000; // pixels that a proof may have
const ask = computed<PreviewAsk | null>(() => {
  if (!proof.pane.width) return null;
  const { width: w, height: h } = bench.title.frame;
  const sharp = Math.min(proof.scale * pixelRatio.value, Math.sqrt(AREA / (w * h)), 4);
  const scale = Math.max(Math.round(sharp * 1000) / 1000, 8 / Math.max(w, h));
  const layer = proof.tap === "picture" ? undefined : bench.layer?.id;
  return { document: bench.title, scale, tap: proof.tap, layer };
});
const moving = computed(() => bench.dragging);
const { shown, notices, fault, busy } = usePreview(ask, moving);
usePainted(canvas, shown);

const place = computed(() => ({
  left: `${proof.left}px`,
  top: `${proof.top}px`,
  width: `${proof.frame.width * proof.scale}px`,
  height: `${proof.frame.height * proof.scale}px`,
}));

const editing = ref(false);
const lettering = computed(() => letteringOf(bench.title, bench.layer));
async function stopEditing() {
  if (!editing.value) return;
  editing.value = false;
  if (lettering.value) await bench.fitWord(lettering.value.id);
}
</script>

<template>
  <section class="proof" :aria-label="text.bench.proof">
    <ProofHeader />
    <div
      ref="pane"
      class="pane"
      :class="`on-${proof.surround}`"
      tabindex="0"
      role="application"
      :aria-label="text.bench.proof"
      @pointermove="track"
      @pointerleave="proof.pointer = null"
      @pointerdown="press"
      @dblclick="editing = lettering !== null"
      @keydown="keys"
    >
      <canvas ref="canvas" class="picture" :style="place" :data-coarse="shown?.coarse ?? true" :data-busy="busy"></canvas>
      <svg class="handles" :viewBox="`0 0 ${proof.pane.width} ${proof.pane.height}`">
        <CutLine />
        <Gnomon />
      </svg>
      <WordEditor v-if="editing && lettering" :lettering="lettering" @done="stopEditing" />
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
