<script setup lang="ts">
// One picture of a title, by one tap: of the state now, or of one that it is compared with.
import { useDevicePixelRatio } from "@vueuse/core";
import { computed, onScopeDispose, ref, watch } from "vue";
import { usePainted } from "@/composables/usePainted";
import { usePreview, type PreviewAsk } from "@/composables/usePreview";
import { partFor, type Part } from "@/model/part";
import type { Title } from "@/model/title";
import { useBench } from "@/stores/bench";
import { useProof } from "@/stores/proof";

const props = defineProps<{ document: Title; tap: string; lane: string; clip?: string }>();
const bench = useBench();
const proof = useProof();
const { pixelRatio } = useDevicePixelRatio();
const canvas = ref<HTMLCanvasElement | null>(null);

const AREA = 8_000_000; // pixels that a proof may have
let part: Part | null = null;
const ask = computed<PreviewAsk | null>(() => {
  if (!proof.pane.width) return null;
  part = partFor(props.document.frame, proof.seen, part);
  const { width: w, height: h } = props.document.frame;
  const sharp = Math.min(proof.scale * pixelRatio.value, Math.sqrt(AREA / (w * h)), 4);
  const scale = Math.max(Math.round(sharp * 1000) / 1000, 8 / Math.max(w, h));
  const layer = props.tap === "picture" ? undefined : bench.layer?.id;
  return { document: props.document, scale, tap: props.tap, layer, ...(part ? { part } : {}) };
});
const moving = computed(() => bench.dragging);
const { shown, notices, fault, busy } = usePreview(ask, moving, props.lane);
usePainted(canvas, shown);

if (props.lane === "proof") watch(busy, (now) => (bench.settling = now));
onScopeDispose(() => (bench.settling = false));

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
    :data-busy="busy || bench.asking > 0"
    :data-lane="lane"
  ></canvas>
</template>

<style scoped>
.picture {
  position: absolute;
}
</style>
