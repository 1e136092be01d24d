// The brightness that a step is given: of all places together, and of each.
import { computed, type Ref } from "vue";
import { api, session } from "@/api/client";
import { useChosen } from "@/stores/chosen";
import { useClock } from "@/stores/clock";
import { useOpened } from "@/stores/opened";
import { useProof } from "@/stores/proof";
import { useLatest } from "./useLatest";

const SCALE = 0.25;
const OUTSIDE = 255;

export function useTones(wanted: Ref<boolean>) {
  const opened = useOpened();
  const chosen = useChosen();
  const clock = useClock();
  const proof = useProof();
  const question = computed(() =>
    wanted.value && opened.still && chosen.layer && chosen.step
      ? {
          session, document: chosen.shown, layer: chosen.layer.id, step: chosen.step.id, scale: SCALE,
          time: clock.time,
        }
      : null,
  );
  const { answer: tones } = useLatest(
    question,
    async (body, signal) => (await api.POST("/api/tones", { body, signal })).data,
    120,
  );
  const places = computed(() => {
    const found = tones.value;
    return found ? { ...found, bytes: Uint8Array.from(atob(found.places), (c) => c.charCodeAt(0)) } : null;
  });
  /** Brightness under the pointer, or null outside the lettering. */
  const pointer = computed(() => {
    const [at, map] = [proof.pointer, places.value];
    if (!at || !map) return null;
    const [x, y] = [Math.floor(at.x * SCALE), Math.floor(at.y * SCALE)];
    if (x < 0 || y < 0 || x >= map.width || y >= map.height) return null;
    const byte = map.bytes[y * map.width + x] ?? OUTSIDE;
    return byte === OUTSIDE ? null : byte / (OUTSIDE - 1);
  });
  return { tones, pointer };
}
