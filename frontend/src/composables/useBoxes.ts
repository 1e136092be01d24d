// Where the lettering lies: boxes of the layers' sources, and of what the selected step is given.
import { createSharedComposable } from "@vueuse/core";
import { computed } from "vue";
import { api, session } from "@/api/client";
import { useLatest } from "./useLatest";
import { useChosen } from "@/stores/chosen";
import { useClock } from "@/stores/clock";
import { useOpened } from "@/stores/opened";

export interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

function boxOf([left = 0, top = 0, right = 0, bottom = 0]: number[]): Box {
  return { left, top, right, bottom };
}

// Shared: the handles and the side view ask once.
export const useBoxes = createSharedComposable(() => {
  const opened = useOpened();
  const chosen = useChosen();
  const clock = useClock();
  const question = computed(() =>
    opened.ready && chosen.layer && opened.still
      ? { session, document: opened.document, layer: chosen.layer.id, step: chosen.stepId, time: clock.time }
      : null,
  );
  const { answer: latest } = useLatest(
    question,
    async (body, signal) => (await api.POST("/api/boxes", { body, signal })).data,
    80,
  );
  const layers = computed(
    () => new Map(latest.value?.layers.map((each) => [each.layer, boxOf(each.box)])),
  );
  const given = computed(() => (latest.value?.given ? boxOf(latest.value.given) : null));
  return { layers, given };
});
