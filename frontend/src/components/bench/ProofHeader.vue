<script setup lang="ts">
// Which field the proof shows, on which ground, how large.
import { useDevicePixelRatio } from "@vueuse/core";
import { useCatalogue } from "@/stores/catalogue";
import { SURROUNDS, useProof } from "@/stores/proof";
import { text } from "@/text";

const catalogue = useCatalogue();
const proof = useProof();
const { pixelRatio } = useDevicePixelRatio();
</script>

<template>
  <header>
    <div class="taps" role="tablist" :aria-label="text.bench.tap">
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
        v-for="tone in SURROUNDS"
        :key="tone"
        type="button"
        class="tone"
        :class="`on-${tone}`"
        :aria-label="text.bench.surround(tone)"
        :aria-pressed="proof.surround === tone"
        @click="proof.surround = tone"
      ></button>
      <span class="mono percent" :aria-label="text.bench.zoom">{{ Math.round(proof.scale * pixelRatio * 100) }} %</span>
      <button type="button" class="plain" @click="proof.fit()">{{ text.bench.fit }}</button>
      <button type="button" class="plain" @click="proof.zoomTo(1 / pixelRatio)">{{ text.bench.oneToOne }}</button>
    </div>
  </header>
</template>

<style scoped>
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
.percent {
  min-width: 44px;
  text-align: right;
}
</style>
