<script setup lang="ts">
// What the engine has to say about how the title moves: a click goes to the time or the lane.
import { computed } from "vue";
import { useGoing, useMotionReadings } from "@/composables/useReadings";
import { usePanels } from "@/stores/panels";
import { useTimeline } from "@/stores/timeline";
import { text } from "@/text";

const panels = usePanels();
const timeline = useTimeline();
const { answer: said } = useMotionReadings(computed(() => timeline.tab === "timing" && !panels.arrivals));
const goTo = useGoing();
</script>

<template>
  <section :aria-label="text.timing.readings">
    <p v-if="!said" class="quiet">{{ text.readings.measuring }}</p>
    <ul v-else aria-live="polite">
      <li v-for="reading in said" :key="reading.text">
        <button class="plain" :class="{ warns: reading.warns }" type="button" @click="goTo(reading)">{{ reading.text }}</button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
p {
  margin: 0;
  font-size: 12px;
}
button {
  min-height: 24px;
  color: var(--quiet);
  font-size: 12px;
  text-align: left;
}
button:hover {
  color: var(--ink);
}
.warns {
  padding-left: 7px;
  border-left: 3px solid var(--accent);
  color: var(--ink);
}
</style>
