// What the engine has to say about the work as it stands, and about how it moves.
import { computed, type Ref } from "vue";
import { api, session } from "@/api/client";
import type { components } from "@/api/schema";
import { useChosen } from "@/stores/chosen";
import { useClock } from "@/stores/clock";
import { useMotion } from "@/stores/motion";
import { useOpened } from "@/stores/opened";
import { useLatest } from "./useLatest";

export type Reading = components["schemas"]["ReadingEntry"];

export function useReadings() {
  const opened = useOpened();
  const chosen = useChosen();
  const clock = useClock();
  const question = computed(() =>
    opened.ready && chosen.layer && opened.still
      ? { session, document: opened.document, layer: chosen.layer.id, time: clock.time }
      : null,
  );
  return useLatest(question, async (body, signal) => (await api.POST("/api/readings", { body, signal })).data, 400);
}

export function useMotionReadings(wanted: Ref<boolean>) {
  const opened = useOpened();
  const motion = useMotion();
  const question = computed(() =>
    wanted.value && opened.ready && opened.still && motion.lanes.length
      ? { session, document: opened.document }
      : null,
  );
  return useLatest(
    question,
    async (body, signal) => (await api.POST("/api/readings/motion", { body, signal })).data,
    1500,
  );
}

/** Goes to what a reading speaks of. */
export function useGoing() {
  const chosen = useChosen();
  const clock = useClock();
  const motion = useMotion();
  return (reading: Reading) => {
    if (reading.time !== null) clock.time = motion.onFrame(reading.time);
    if (reading.place !== null) motion.chosen = [reading.place];
    if (reading.light) chosen.selectLight(reading.light);
    else if (reading.layer) chosen.select(reading.layer, reading.step ?? null);
  };
}
