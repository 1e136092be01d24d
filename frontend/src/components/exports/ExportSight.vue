<script setup lang="ts">
// What will be exported, over what it may be seen on, and about what it will take.
import { computed, ref } from "vue";
import { useLatest } from "@/composables/useLatest";
import { usePainted } from "@/composables/usePainted";
import { usePreview, type PreviewAsk } from "@/composables/usePreview";
import { asOrdered, isMoving, sizeTold, timeTold, type Order } from "@/model/exporting";
import { pictureOf } from "@/model/title";
import { useClock } from "@/stores/clock";
import { useExports } from "@/stores/exports";
import { pictureUrl } from "@/stores/library";
import { useOpened } from "@/stores/opened";
import { SURROUNDS, useProof } from "@/stores/proof";
import { text } from "@/text";

const props = defineProps<{ order: Order; tooLarge: boolean }>();
const opened = useOpened();
const clock = useClock();
const exports = useExports();
const proof = useProof();
const WIDE = 380;
const PAUSE = 600;

const PLATE = "plate"; // the title's own shot, though the export leaves it out
const tones = computed(() => [...SURROUNDS, ...(plate.value ? [PLATE] : [])]);
const over = ref<string>(proof.surround === "picture" ? "grey" : proof.surround);
const plate = computed(() => opened.document.layers.find((layer) => layer.kind === "plate"));
const toneTold = (tone: string) => (tone === PLATE ? text.exports.overPlate : text.bench.surround(tone));
const toneLook = (tone: string) =>
  tone === PLATE && plate.value ? { background: `center / cover url("${pictureUrl(pictureOf(plate.value), 48)}")` } : {};
const canvas = ref<HTMLCanvasElement | null>(null);
const shownDocument = computed(() => asOrdered(opened.document, over.value === PLATE ? { ...props.order, plate: true } : props.order));
const ask = computed<PreviewAsk>(() => {
  const { width, height } = opened.document.frame;
  const scale = Math.min((WIDE / width) * devicePixelRatio, ((WIDE * 9) / 16 / height) * devicePixelRatio, 1);
  return { document: shownDocument.value, scale: Math.max(scale, 8 / Math.max(width, height)), tap: "picture", time: clock.time };
});
const { shown } = usePreview(ask, ref(false), "export");
usePainted(canvas, shown);

const { frame } = opened.document;
const question = computed(() => (props.tooLarge ? null : { document: opened.document, order: timeless.value }));
/** Without what changes nothing of the size. */
const timeless = computed<Order>(() => (isMoving(props.order) ? { ...props.order, time: null } : props.order));
const { answer } = useLatest(question, async (asked, signal) => {
  const found = await exports.estimate(asked.document, asked.order, signal);
  return found && { found, asked };
}, PAUSE);
const told = computed(() => {
  if (!answer.value || answer.value.asked !== question.value) return text.exports.tried;
  const { bytes, seconds } = answer.value.found;
  return text.exports.about(sizeTold(bytes), timeTold(seconds));
});
</script>

<template>
  <figure :aria-label="text.exports.seen">
    <div class="board" :class="`on-${over}`" :style="{ aspectRatio: `${frame.width} / ${frame.height}` }"><canvas ref="canvas"></canvas></div>
    <figcaption>
      <span class="tones" role="radiogroup" :aria-label="text.exports.seen">
        <button
          v-for="tone in tones" :key="tone" type="button" role="radio" :class="`on-${tone}`" :style="toneLook(tone)" :aria-checked="over === tone"
          :aria-label="toneTold(tone)" :title="toneTold(tone)" @click="over = tone"
        ></button>
      </span>
      <span class="quiet" role="status" :title="text.exports.aboutHelp">{{ told }}</span>
    </figcaption>
  </figure>
</template>

<style scoped>
.board {
  display: grid;
  max-height: 240px;
  overflow: hidden;
  border-radius: 4px;
}
canvas {
  width: 100%;
  height: 100%;
  object-fit: contain;
}
figcaption {
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin-top: 6px;
  font-size: 12px;
}
.tones {
  display: flex;
  gap: 6px;
}
.tones button {
  width: 24px;
  height: 24px;
  border: 1px solid var(--line);
  border-radius: 50%;
  cursor: pointer;
}
.tones button[aria-checked="true"] {
  box-shadow: 0 0 0 2px var(--panel), 0 0 0 4px var(--active);
}
</style>
