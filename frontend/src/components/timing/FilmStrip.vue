<script setup lang="ts">
// The title as a strip of small pictures at even times; a click or a drag goes to that time.
import { computed, onScopeDispose, ref, watch } from "vue";
import { useScrubbing } from "@/composables/useScrubbing";
import { coarseFirst } from "@/model/time/coarseFirst";
import { useFilm } from "@/stores/film";
import { stripScale, useFrames, type Wish } from "@/stores/frames";
import { useProof } from "@/stores/proof";
import { EDGE, useTimeline } from "@/stores/timeline";
import { text } from "@/text";

const film = useFilm();
const frames = useFrames();
const proof = useProof();
const timeline = useTimeline();
const { press, come, leave } = useScrubbing();
const TALL = 32;

const cell = computed(() => Math.min(Math.max((TALL * proof.frame.width) / proof.frame.height, 12), 160));
const count = computed(() => Math.max(Math.floor((timeline.width - 2 * EDGE) / cell.value), 1));
const wide = computed(() => (timeline.width - 2 * EDGE) / count.value);
const numbers = computed(() =>
  Array.from({ length: count.value }, (_, i) => {
    const time = timeline.timeAt(EDGE + (i + 0.5) * wide.value);
    const last = Math.max(Math.round(timeline.duration * frames.fps) - 1, 0);
    return Math.min(Math.max(Math.floor(time * frames.fps), 0), last);
  }),
);
const wishes = computed<Wish[]>(() => numbers.value.map((number) => ({ number, scale: stripScale(proof.frame.height) })));
// Some that lie far apart first: a hand that scrubs sees the nearest one that is ready.
watch(
  [wishes, () => frames.version],
  ([all]) => (film.strip = coarseFirst(all).filter(({ number }) => !frames.isReady(number))),
  { immediate: true },
);
onScopeDispose(() => (film.strip = []));

const board = ref<HTMLCanvasElement | null>(null);
const trial = document.createElement("canvas");
/** All cells on one canvas, from frames that are played, or from small ones. */
watch(
  [board, wishes, wide, () => frames.version],
  ([canvas]) => {
    if (!canvas || timeline.width < 20) return;
    const ratio = devicePixelRatio;
    const size = { width: Math.round((timeline.width - 2 * EDGE) * ratio), height: TALL * ratio };
    if (canvas.width !== size.width || canvas.height !== size.height) Object.assign(canvas, size);
    const context = canvas.getContext("2d")!;
    context.clearRect(0, 0, canvas.width, canvas.height);
    wishes.value.forEach((wish, i) => {
      const image = frames.frame({ number: wish.number, scale: frames.scale }) ?? frames.frame(wish);
      if (!image) return;
      Object.assign(trial, { width: image.width, height: image.height });
      trial.getContext("2d")!.putImageData(image, 0, 0);
      const share = Math.max((wide.value * ratio) / image.width, size.height / image.height);
      const [w, h] = [(wide.value * ratio) / share, size.height / share];
      context.drawImage(
        trial, (image.width - w) / 2, (image.height - h) / 2, w, h, i * wide.value * ratio, 0, wide.value * ratio - 1, size.height,
      );
    });
  },
  { flush: "post", immediate: true },
);
</script>

<template>
  <div class="film" @pointerdown="press" @pointermove="come" @pointerleave="leave">
    <canvas ref="board" :style="{ height: `${TALL}px` }" role="img" :aria-label="text.timing.film"></canvas>
  </div>
</template>

<style scoped>
.film {
  padding: 0 8px;
  cursor: pointer;
  touch-action: none;
}
canvas {
  display: block;
  width: 100%;
  border-radius: 2px;
  background: var(--surround);
}
</style>
