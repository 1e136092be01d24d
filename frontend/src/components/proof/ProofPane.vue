<script setup lang="ts">
// One picture of a title, by one tap: of the state now, or of one that it is compared with.
import { computed, onScopeDispose, ref, watch } from "vue";
import { usePainted } from "@/composables/usePainted";
import { usePreview, type PreviewAsk } from "@/composables/usePreview";
import { partFor, type Part } from "@/model/part";
import type { Title } from "@/model/title";
import { useChosen } from "@/stores/chosen";
import { useClock } from "@/stores/clock";
import { useFilm } from "@/stores/film";
import { stripScale, useFrames } from "@/stores/frames";
import { useOpened } from "@/stores/opened";
import { useProof } from "@/stores/proof";

const props = defineProps<{ document: Title; tap: string; lane: string; time: number; clip?: string }>();
const opened = useOpened();
const chosen = useChosen();
const clock = useClock();
const proof = useProof();
const canvas = ref<HTMLCanvasElement | null>(null);

let part: Part | null = null;
const ask = computed<PreviewAsk | null>(() => {
  if (!proof.pane.width || clock.playing) return null;
  part = partFor(props.document.frame, proof.seen, part);
  const scale = proof.sharp(props.document.frame);
  const layer = props.tap === "picture" ? undefined : chosen.layer?.id;
  return { document: props.document, scale, tap: props.tap, time: props.time, layer, ...(part ? { part } : {}) };
});
const moving = computed(() => opened.dragging || clock.scrubbing);
const { shown, notices, fault, busy } = usePreview(ask, moving, props.lane, () => clock.scrubbing);
usePainted(canvas, shown);

// The first pane alone decides whether the proof has settled.
if (props.lane === "proof") {
  watch(busy, (now) => (opened.settling = now));
  onScopeDispose(() => (opened.settling = false));
}

// While it plays, and at once where a frame of that time is ready, frames of the film are shown;
// under a hand that scrubs the nearest one, until its own is there.
const film = useFilm();
const frames = useFrames();
const ready = computed(() => {
  if (props.lane !== "proof" || props.tap !== "picture") return null;
  if (clock.playing) return film.picture;
  const number = Math.round(props.time * frames.fps);
  if (clock.scrubbing) return frames.nearest(number) ?? null;
  return frames.frame({ number, scale: frames.scale }) ?? frames.frame({ number, scale: stripScale(proof.frame.height) }) ?? null;
});
const overlay = ref<HTMLCanvasElement | null>(null);
/** Until the picture itself is there. */
const stands = computed(() => shown.value !== null && shown.value.ask.time === props.time && shown.value.ask.document === props.document);
const filmed = computed(() => ready.value !== null && (clock.playing || !stands.value));
watch([ready, overlay, filmed], ([image, board]) => {
  if (!image || !board || !filmed.value) return;
  if (board.width !== image.width || board.height !== image.height) Object.assign(board, { width: image.width, height: image.height });
  board.getContext("2d")?.putImageData(image, 0, 0);
}, { flush: "post" });

const place = computed(() => ({
  left: `${proof.left}px`,
  top: `${proof.top}px`,
  width: `${proof.frame.width * proof.scale}px`,
  height: `${proof.frame.height * proof.scale}px`,
  clipPath: props.clip,
}));
defineExpose({ canvas, shown, notices, fault });
</script>

<template>
  <canvas
    ref="canvas"
    class="picture"
    :style="place"
    :data-coarse="shown?.coarse ?? true"
    :data-busy="busy || opened.asking > 0"
    :data-lane="lane"
  ></canvas>
  <canvas v-if="lane === 'proof'" v-show="filmed" ref="overlay" class="film" :style="place" aria-hidden="true"></canvas>
</template>

<style scoped>
.picture,
.film {
  position: absolute;
}
</style>
