<script setup lang="ts">
// A small stem beside a setting: hollow where it is constant, half where it moves, filled where it
// has a peg now. The menu under the pointer never takes the focus from a field.
import { computed } from "vue";
import type { Place } from "@/model/places";
import type { Setting } from "@/model/title";
import { useMotion } from "@/stores/motion";
import { text } from "@/text";

const props = defineProps<{ place: Place; setting: Setting }>();
const motion = useMotion();
const state = computed(() => motion.stateOf(props.place));
const label = computed(() => text.motion.peg[state.value](props.setting.label));
</script>

<template>
  <v-menu v-if="state !== 'constant'" open-on-hover :open-on-click="false" :open-delay="500" :capture-focus="false" location="start">
    <template #activator="{ props: activator }">
      <button
        v-bind="activator"
        class="peg plain"
        :class="state"
        type="button"
        :aria-label="label"
        :aria-pressed="state === 'pegged'"
        @click="motion.togglePeg(place, setting)"
        @contextmenu.prevent="motion.stop(place, setting)"
      >
        <svg viewBox="0 0 12 20" aria-hidden="true"><path d="M6 9v9" /><circle cx="6" cy="6" r="4" /></svg>
      </button>
    </template>
    <v-card class="more">
      <p class="quiet">{{ label }}</p>
      <v-btn size="small" @click="motion.stop(place, setting)">{{ text.motion.stop }}</v-btn>
    </v-card>
  </v-menu>
  <button
    v-else
    class="peg plain constant"
    type="button"
    :title="label"
    :aria-label="label"
    aria-pressed="false"
    @click="motion.togglePeg(place, setting)"
  >
    <svg viewBox="0 0 12 20" aria-hidden="true"><path d="M6 9v9" /><circle cx="6" cy="6" r="4" /></svg>
  </button>
</template>

<style scoped>
.peg {
  display: grid;
  place-items: center;
  width: 16px;
  height: 26px;
  color: var(--quiet);
}
.peg svg {
  width: 12px;
  height: 20px;
  fill: none;
  stroke: currentcolor;
  stroke-width: 1.4;
}
.peg:hover {
  color: var(--ink);
}
.constant:not(:hover, :focus-visible) {
  opacity: 0.42;
}
.moving,
.pegged {
  color: var(--accent);
}
.moving circle {
  fill: color-mix(in srgb, currentcolor 35%, transparent);
}
.pegged circle {
  fill: currentcolor;
}
.more {
  padding: 8px 10px;
}
</style>
