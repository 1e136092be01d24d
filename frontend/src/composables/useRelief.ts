// Height and brightness of the selected layer everywhere, while somebody looks at them.
import { computed, type Ref } from "vue";
import { api, session } from "@/api/client";
import { float16 } from "@/model/float16";
import { useLatest } from "./useLatest";
import { useChosen } from "@/stores/chosen";
import { useClock } from "@/stores/clock";
import { useOpened } from "@/stores/opened";

const SCALE = 0.5;

export interface Values {
  /** Frame pixels; null outside the lettering. */
  height: number | null;
  tone: number | null;
}

export function useRelief(wanted: Ref<boolean>) {
  const opened = useOpened();
  const chosen = useChosen();
  const clock = useClock();
  const question = computed(() =>
    wanted.value && chosen.layer && opened.still
      ? { session, document: chosen.shown, layer: chosen.layer.id, scale: SCALE, time: clock.time }
      : null,
  );
  const { answer } = useLatest(
    question,
    async (body, signal) => (await api.POST("/api/relief", { body, signal })).data,
    150,
  );
  const maps = computed(() => {
    const got = answer.value;
    return got && { ...got, heights: float16(got.height), tones: float16(got.tone) };
  });
  function at(point: { x: number; y: number } | null): Values {
    const map = maps.value;
    const [x, y] = [Math.floor((point?.x ?? -1) * SCALE), Math.floor((point?.y ?? -1) * SCALE)];
    if (!map || x < 0 || y < 0 || x >= map.columns || y >= map.rows) return { height: null, tone: null };
    const [height, tone] = [map.heights(y * map.columns + x), map.tones(y * map.columns + x)];
    return { height: Number.isNaN(height) ? null : height, tone: Number.isNaN(tone) ? null : tone };
  }
  return { at };
}
