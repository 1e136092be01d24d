// The frames of the title that are there: kept by what they look like, found by their number.
import { defineStore } from "pinia";
import { computed, markRaw, ref, watch } from "vue";
import { FrameCache } from "@/model/time/frameCache";
import { frameKey } from "@/model/time/frameKeys";
import type { Title } from "@/model/title";
import { useCatalogue } from "./catalogue";
import { useChosen } from "./chosen";
import { useProof } from "./proof";

/** One frame that is wanted: its number, and at which scale. */
export interface Wish {
  number: number;
  scale: number;
}
/** The scale at which the strip shows a frame of this height. */
export function stripScale(height: number): number {
  return Math.max(Math.round((STRIP / height) * 1000) / 1000, 0.01);
}
const STRIP = 64; // render pixels high
export const NEAR = 0.5; // seconds: a frame further away shows another moment

export const useFrames = defineStore("frames", () => {
  const chosen = useChosen();
  const catalogue = useCatalogue();
  const proof = useProof();

  const cache = markRaw(new FrameCache());
  /** Counts what was added to the cache, for those who look. */
  const version = ref(0);
  /** The share of the proof's scale at which it plays. */
  const quality = ref(1);
  /** Bytes of the frames that were made since something changed: more than are kept at a time are
   * made in vain. */
  const made = ref(0);

  const document = computed<Title>(() => chosen.shown);
  const fps = computed(() => document.value?.frame.fps ?? 25);
  /** Render pixels a frame pixel: those of the proof, or a part of them. */
  const scale = computed(() => {
    const sharp = Math.min(proof.fitted * devicePixelRatio, 1) * quality.value;
    return Math.max(Math.round(sharp * 200) / 200, 8 / Math.max(proof.frame.width, proof.frame.height));
  });

  let keys = new Map<number, string>();
  /** Frames of this document, at the scale of playing, that are known to be ready. */
  let ready = new Set<number>();
  function afresh(): void {
    ready = new Set();
    made.value = 0;
    version.value += 1;
  }
  watch(document, () => ((keys = new Map()), afresh()), { flush: "sync" });
  watch(scale, afresh, { flush: "sync" });

  function keyOf({ number, scale: at }: Wish): string {
    let key = keys.get(number);
    if (key === undefined) {
      key = frameKey(document.value, number / fps.value, catalogue);
      keys.set(number, key);
    }
    return `${key}@${at}`;
  }
  /** Keep a frame by the key that it had when it was asked for. */
  function put(key: string, image: ImageData, number: number): void {
    cache.put(key, image, number);
    made.value += image.data.byteLength;
    check(number);
    version.value += 1;
  }
  /** A frame that is ready; nothing where it isn't. */
  function frame(wish: Wish): ImageData | undefined {
    return version.value >= 0 ? cache.get(keyOf(wish)) : undefined;
  }
  /** The frame that is ready nearest to this one, of those that are played or of the strip; none
   * that is more than half a second away. */
  function nearest(number: number): ImageData | undefined {
    const scales = [scale.value, stripScale(proof.frame.height)];
    for (let away = 0; away <= fps.value * NEAR; away += 1) {
      for (const other of away ? [number - away, number + away] : [number]) {
        if (away && !ready.has(other) && !cache.numbers.has(other)) continue;
        const found = scales.map((at) => frame({ number: other, scale: at })).find((each) => each);
        if (found) return found;
      }
    }
    return undefined;
  }
  function check(number: number): boolean {
    if (ready.has(number)) return true;
    const there = cache.has(keyOf({ number, scale: scale.value }));
    if (there) ready.add(number);
    return there;
  }
  const isReady = (number: number) => version.value >= 0 && ready.has(number);

  return { cache, version, quality, made, fps, scale, afresh, keyOf, put, frame, nearest, check, isReady };
});
