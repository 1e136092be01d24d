<script setup lang="ts">
// Where the section is cut: a dashed line over the proof, dragged by its handle.
import { computed } from "vue";
import { startDrag } from "@/composables/useDrag";
import { useProof } from "@/stores/proof";
import { text } from "@/text";

const proof = useProof();
const y = computed(() => proof.top + proof.cut * proof.frame.height * proof.scale);
const right = computed(() => proof.left + proof.frame.width * proof.scale);

function cutAt(share: number) {
  proof.cut = Math.min(Math.max(share, 0), 1);
}
function drag(event: PointerEvent) {
  const before = proof.cut;
  startDrag(event, ({ dy }) => cutAt(before + dy / (proof.frame.height * proof.scale)));
}
function nudge(event: KeyboardEvent, way: number) {
  event.preventDefault();
  event.stopPropagation();
  cutAt(proof.cut + way * (event.shiftKey ? 0.05 : 0.005));
}
</script>

<template>
  <g>
    <line class="cut under" :x1="proof.left" :x2="right" :y1="y" :y2="y" />
    <line class="cut" :x1="proof.left" :x2="right" :y1="y" :y2="y" />
    <rect
      class="handle"
      :x="Math.max(proof.left - 5, 0)"
      :y="y - 7"
      width="9"
      height="14"
      rx="2"
      tabindex="0"
      role="slider"
      :aria-label="text.bench.cutLine"
      :aria-valuenow="Math.round(proof.cut * 100)"
      @pointerdown.stop="drag"
      @keydown.up="nudge($event, -1)"
      @keydown.down="nudge($event, 1)"
    />
  </g>
</template>

<style scoped>
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
</style>
