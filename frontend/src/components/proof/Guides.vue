<script setup lang="ts">
// Lines over the picture: safe areas, the centre, thirds.
import { computed } from "vue";
import { useProof } from "@/stores/proof";

const proof = useProof();
// Shares of the frame's width and height: SMPTE ST 2046-1, safe action and safe title.
const SAFE = [0.93, 0.9];
const box = computed(() => ({
  x: proof.left,
  y: proof.top,
  width: proof.frame.width * proof.scale,
  height: proof.frame.height * proof.scale,
}));
const safes = computed(() =>
  SAFE.map((share) => ({
    x: box.value.x + (box.value.width * (1 - share)) / 2,
    y: box.value.y + (box.value.height * (1 - share)) / 2,
    width: box.value.width * share,
    height: box.value.height * share,
  })),
);
function lines(shares: number[]): string {
  const { x, y, width, height } = box.value;
  return shares.map((share) => `M${x + width * share} ${y}v${height}M${x} ${y + height * share}h${width}`).join("");
}
const lying = computed(() =>
  (proof.guides.centre ? lines([1 / 2]) : "") + (proof.guides.thirds ? lines([1 / 3, 2 / 3]) : ""),
);
</script>

<template>
  <g class="guides">
    <template v-if="proof.guides.safe">
      <template v-for="(safe, i) in safes" :key="i">
        <rect class="under" v-bind="safe" />
        <rect v-bind="safe" />
      </template>
    </template>
    <path class="under" :d="lying" />
    <path :d="lying" />
  </g>
</template>

<style scoped>
rect,
path {
  fill: none;
  stroke: #fff;
  stroke-opacity: 0.85;
  stroke-width: 1;
}
.under {
  stroke: #000;
  stroke-opacity: 0.4;
  stroke-width: 2.5;
}
</style>
