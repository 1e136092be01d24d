// How the proof is looked at: taps, zoom and pan, the cut, what lies around and over it.
import { useDevicePixelRatio } from "@vueuse/core";
import { defineStore } from "pinia";
import { computed, reactive, ref, shallowRef } from "vue";
import type { Title } from "@/model/title";

export const SURROUNDS = ["grey", "black", "white", "chequer"] as const;
export type Surround = (typeof SURROUNDS)[number] | "picture";
const ROOM = 8; // pixels around a fitted frame
const AREA = 8_000_000; // pixels that a proof may have

/** A state that the proof is wiped against. */
export interface Compared {
  name: string;
  document: Title;
}

export const useProof = defineStore("proof", () => {
  const taps = reactive<[string, string]>(["picture", "height"]);
  const split = ref(false);
  const pane = reactive({ width: 0, height: 0 });
  const frame = reactive({ width: 1920, height: 1080 });
  const zoom = ref<number | null>(null); // null: fitted
  const pan = reactive({ x: 0, y: 0 });
  const cut = ref(0.5); // share of the frame's height
  const pointer = ref<{ x: number; y: number } | null>(null); // frame pixels
  const surround = ref<Surround>("grey");
  const plate = ref(""); // the picture of the library that the title is laid over
  const guides = reactive({ safe: false, centre: false, thirds: false });
  const loupe = ref(false);
  const compared = shallowRef<Compared | null>(null);
  const wipe = ref(0.5); // share of the pane that shows what it is compared with
  /** Waits for a colour to be picked from the picture. */
  const picking = shallowRef<((code: string) => void) | null>(null);

  const fitted = computed(() =>
    Math.max(
      Math.min((pane.width - 2 * ROOM) / frame.width, (pane.height - 2 * ROOM) / frame.height),
      0.01,
    ),
  );
  const scale = computed(() => zoom.value ?? fitted.value);
  const { pixelRatio } = useDevicePixelRatio();
  /** Render pixels a frame pixel of a picture of so large a frame that is as sharp as the screen. */
  function sharp({ width, height }: { width: number; height: number }): number {
    const wanted = Math.min(scale.value * pixelRatio.value, Math.sqrt(AREA / (width * height)), 4);
    return Math.max(Math.round(wanted * 1000) / 1000, 8 / Math.max(width, height));
  }
  const left = computed(() => (pane.width - frame.width * scale.value) / 2 + pan.x);
  const top = computed(() => (pane.height - frame.height * scale.value) / 2 + pan.y);
  /** What of the frame's plane the pane shows, in frame pixels. */
  const seen = computed(() => ({
    left: -left.value / scale.value,
    top: -top.value / scale.value,
    width: pane.width / scale.value,
    height: pane.height / scale.value,
  }));

  function fit(): void {
    zoom.value = null;
    pan.x = pan.y = 0;
  }
  /** Zoom so that the place at (x, y) in the pane stays where it is. */
  function zoomTo(wanted: number, x = pane.width / 2, y = pane.height / 2): void {
    const next = Math.min(Math.max(wanted, 0.05), 8);
    const [fx, fy] = [(x - left.value) / scale.value, (y - top.value) / scale.value];
    zoom.value = next;
    pan.x = x - fx * next - (pane.width - frame.width * next) / 2;
    pan.y = y - fy * next - (pane.height - frame.height * next) / 2;
  }
  function panBy(x: number, y: number): void {
    if (!x && !y) return;
    zoom.value ??= fitted.value;
    pan.x += x;
    pan.y += y;
  }
  function toFrame(x: number, y: number): { x: number; y: number } {
    return { x: (x - left.value) / scale.value, y: (y - top.value) / scale.value };
  }
  function toPane(x: number, y: number): { x: number; y: number } {
    return { x: left.value + x * scale.value, y: top.value + y * scale.value };
  }
  function layOver(picture: string): void {
    plate.value = picture;
    surround.value = picture ? "picture" : "grey";
  }
  /** The next click on the picture gives its colour. */
  function pickColour(give: (code: string) => void): void {
    picking.value = give;
  }
  return {
    taps, split, pane, frame, zoom, pan, cut, pointer, surround, plate, guides, loupe, compared, wipe, picking,
    fitted, scale, left, top, seen, sharp, fit, zoomTo, panBy, toFrame, toPane, layOver, pickColour,
  };
});
