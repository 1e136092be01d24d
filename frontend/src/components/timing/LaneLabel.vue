<script setup lang="ts">
// What moves in a lane, what it is a part of, and what it is now. A click goes to it.
import { computed } from "vue";
import { shownValue } from "@/model/time/shown";
import { useChosen } from "@/stores/chosen";
import { useClock } from "@/stores/clock";
import { useFilm } from "@/stores/film";
import { useMotion, type Lane } from "@/stores/motion";
import { text } from "@/text";

const props = defineProps<{ lane: Lane }>();
const chosen = useChosen();
const clock = useClock();
const film = useFilm();
const motion = useMotion();

const time = computed(() => (clock.playing ? film.at : clock.time));
const value = computed(() => shownValue(motion.at(props.lane.value, time.value, props.lane.setting), props.lane.setting));
const of = computed(() => [props.lane.part.label, props.lane.part.of].filter(Boolean).join(" · "));
const selected = computed(() => motion.chosen.includes(props.lane.key));

/** Chooses the lane, and shows the settings that it belongs to. */
function choose(event: MouseEvent) {
  if (event.ctrlKey || event.metaKey || event.shiftKey) {
    motion.chosen = selected.value
      ? motion.chosen.filter((key) => key !== props.lane.key)
      : [...motion.chosen, props.lane.key];
    return;
  }
  motion.chosen = [props.lane.key];
  const [root, id, list, step] = props.lane.place;
  if (root === "layers") chosen.select(id!, list === "build" ? step! : list === "source" || list === "placement" ? null : chosen.stepId);
  else if (root === "lights") chosen.selectLight(id!);
  else if (root === "camera") chosen.selectStand("camera");
  else if (root === "handles") chosen.selectStand(id!);
}
</script>

<template>
  <button
    class="lane plain"
    :class="{ selected }"
    type="button"
    :aria-pressed="selected"
    :aria-label="text.timing.lane(lane.setting.label, of)"
    @click="choose"
  >
    <i :style="{ background: `var(--stage-${lane.part.stage}, var(--stage-source))` }"></i>
    <span class="name">{{ lane.setting.label }}</span>
    <span class="mono value">{{ value }}</span>
    <span class="quiet of">{{ of }}</span>
  </button>
</template>

<style scoped>
.lane {
  display: grid;
  grid-template-columns: 14px minmax(0, 1fr) auto;
  align-content: start;
  gap: 0 6px;
  width: 100%;
  padding: 2px 8px 1px 12px;
  border-right: 1px solid var(--line);
  text-align: left;
  line-height: 1.25;
}
.lane.selected {
  background: color-mix(in srgb, var(--accent) 10%, transparent);
}
i {
  align-self: center;
  width: 14px;
  height: 4px;
  border-radius: 2px;
}
.name,
.of {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.of {
  grid-column: 2 / -1;
  font-size: 11px;
}
</style>
