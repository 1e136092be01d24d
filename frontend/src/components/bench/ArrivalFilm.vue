<script setup lang="ts">
// One arrival, playing on the title that is open, again and again with a rest between.
import { useElementVisibility, useIntervalFn, usePreferredReducedMotion } from "@vueuse/core";
import { computed, ref } from "vue";
import { useArrivalFilm } from "@/composables/useArrivalFilm";
import type { Title } from "@/model/title";
import { text } from "@/text";

const props = defineProps<{
  document: Title;
  layer: string;
  arrival: string;
  runBack: boolean;
  length: number;
  paused: boolean;
  /** In the drawer, from the top. */
  place: number;
}>();
const FRAMES = 16;
const REST = 6; // frames that it rests after each run
const [WIDE, TALL] = [136, 77];

const root = ref<HTMLElement | null>(null);
const visible = useElementVisibility(root);
const reduced = usePreferredReducedMotion();
const url = useArrivalFilm(
  computed(() =>
    visible.value && !props.paused
      ? {
          document: props.document, layer: props.layer, arrival: props.arrival, run_back: props.runBack,
          frames: FRAMES, width: WIDE, height: TALL,
        }
      : null,
  ),
  () => props.place,
);
const count = ref(0);
useIntervalFn(() => {
  if (visible.value && url.value && reduced.value !== "reduce") count.value = (count.value + 1) % (FRAMES + REST);
}, computed(() => Math.max((props.length * 1000) / FRAMES, 30)));
const frame = computed(() => (reduced.value === "reduce" ? Math.round(FRAMES * 0.4) : Math.min(count.value, FRAMES - 1)));
</script>

<template>
  <span ref="root" class="film" :style="{ aspectRatio: `${WIDE} / ${TALL}` }" aria-hidden="true">
    <span
      v-if="url"
      class="frames"
      :style="{ backgroundImage: `url(${url})`, backgroundSize: `${FRAMES * 100}% 100%`, backgroundPositionX: `${(frame / (FRAMES - 1)) * 100}%` }"
    ></span>
    <span v-else class="quiet">{{ text.arrivals.drawing }}</span>
  </span>
</template>

<style scoped>
.film {
  display: grid;
  place-items: center;
  border-radius: 4px;
  overflow: hidden;
  background: color-mix(in srgb, var(--ink) 10%, transparent);
  font-size: 11px;
}
.frames {
  width: 100%;
  height: 100%;
}
</style>
