<script setup lang="ts">
// What the engine has to say about the work: click a sentence to go to what it speaks of.
import { computed } from "vue";
import { useGoing, useReadings } from "@/composables/useReadings";
import { text } from "@/text";

const { answer: latest } = useReadings();
const goTo = useGoing();
const MOST = 5;
const said = computed(() => latest.value?.said.slice(0, MOST) ?? []);
const strokes = computed(() => latest.value?.strokes);
const tallest = computed(() => Math.max(...(strokes.value?.shares ?? [1])));
</script>

<template>
  <section :aria-label="text.readings.title">
    <h2>{{ text.readings.title }}</h2>
    <p v-if="!latest" class="quiet">{{ text.readings.measuring }}</p>
    <ul aria-live="polite">
      <li v-for="reading in said" :key="reading.text">
        <button class="plain" :class="{ warns: reading.warns }" type="button" @click="goTo(reading)">
          {{ reading.text }}
        </button>
        <svg
          v-if="reading.gauge === 'strokes' && !reading.warns && strokes"
          viewBox="0 0 64 16"
          preserveAspectRatio="none"
          role="img"
          :aria-label="text.readings.distribution"
        >
          <title>{{ text.readings.distribution }}</title>
          <rect
            v-for="(share, i) in strokes.shares"
            :key="i"
            :x="i * 4 + 0.4"
            width="3.2"
            :y="16 - (share / tallest) * 15"
            :height="(share / tallest) * 15 + 0.5"
          />
        </svg>
      </li>
    </ul>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 2px 0 0;
  padding: 0;
}
li {
  padding: 2px 0;
}
button {
  color: var(--quiet);
  font-size: 12px;
  line-height: 1.35;
}
button:hover {
  color: var(--ink);
}
button.warns {
  color: var(--ink);
  border-left: 3px solid var(--accent);
  padding-left: 7px;
}
svg {
  display: block;
  width: 100%;
  height: 16px;
  margin-top: 2px;
}
rect {
  fill: color-mix(in srgb, var(--ink) 28%, transparent);
}
</style>
