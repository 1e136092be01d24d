// What of time is looked at: the region under the proof, the span in sight, the part that is run
// round, and the pegs that are chosen.
import { useLocalStorage } from "@vueuse/core";
import { defineStore } from "pinia";
import { computed, reactive, ref } from "vue";
import { useClock } from "./clock";
import { useMotion } from "./motion";
import { useOpened } from "./opened";

export type Tab = "section" | "timing";
/** Pixels between the edge of the region and the first moment. */
export const EDGE = 8;
const SNAP = 6; // pixels
const HEIGHTS: Record<Tab, number> = { section: 150, timing: 252 };

export const useTimeline = defineStore("timeline", () => {
  const opened = useOpened();
  const clock = useClock();
  const motion = useMotion();
  const tab = ref<Tab>("section");
  const heights = useLocalStorage<Record<Tab, number>>("mabrel.lower", { ...HEIGHTS }, { mergeDefaults: true });
  const height = computed(() => heights.value[tab.value]);
  const width = ref(0);
  const view = reactive({ start: 0, span: null as number | null }); // null: all of it
  const around = ref<[number, number] | null>(null); // null: all of it
  /** Plays again from the beginning of the loop. */
  const runsRound = ref(true);
  /** Numbers of the chosen pegs, by the key of their lane. */
  const pegs = ref<Record<string, number[]>>({});

  const duration = computed(() => opened.document?.frame.duration ?? 5);
  const span = computed(() => view.span ?? duration.value);
  const start = computed(() => (view.span === null ? 0 : view.start));
  const perSecond = computed(() => Math.max(width.value - 2 * EDGE, 1) / span.value);
  const x = (time: number) => EDGE + (time - start.value) * perSecond.value;
  const timeAt = (pixel: number) => start.value + (pixel - EDGE) / perSecond.value;
  /** The part that is run round, in seconds. */
  const loop = computed<[number, number]>(() => {
    const [from, to] = around.value ?? [0, duration.value];
    return [Math.min(from, duration.value), Math.min(to, duration.value)];
  });

  function fit(): void {
    view.span = null;
  }
  /** Zoom so that the moment under the pointer stays where it is. */
  function zoom(factor: number, pixel: number): void {
    const at = timeAt(pixel);
    const least = 4 / opened.document.frame.fps;
    const wanted = Math.min(Math.max(span.value * factor, least), duration.value);
    if (wanted >= duration.value) return fit();
    const share = (at - start.value) / span.value;
    view.start = Math.min(Math.max(at - share * wanted, 0), duration.value - wanted);
    view.span = wanted;
  }
  function pan(pixels: number): void {
    if (view.span === null) return;
    view.start = Math.min(Math.max(view.start + pixels / perSecond.value, 0), duration.value - view.span);
  }

  /** A moment on a frame; near a peg of another lane, now, or a whole second, there. */
  function snapped(time: number, free: boolean, others: readonly number[] = []): number {
    const within = Math.min(Math.max(time, 0), duration.value);
    if (free) return Math.round(within * 1e4) / 1e4;
    const near = SNAP / perSecond.value;
    const marks = [...others, clock.time, Math.round(within), ...loop.value];
    const best = marks.reduce((a, b) => (Math.abs(b - within) < Math.abs(a - within) ? b : a), Infinity);
    return motion.onFrame(Math.abs(best - within) <= near ? best : within);
  }

  /** The moment of the frame that is nearest to a time. */
  function momentOf(time: number): number {
    return motion.onFrame(Math.min(Math.max(time, 0), duration.value));
  }
  function goTo(time: number): void {
    clock.playing = false;
    clock.time = momentOf(time);
  }
  function stepBy(frames: number): void {
    goTo(clock.time + frames / opened.document.frame.fps);
  }
  function setHeight(wanted: number): void {
    heights.value = { ...heights.value, [tab.value]: Math.round(Math.min(Math.max(wanted, 110), innerHeight * 0.6)) };
  }
  function show(wanted: Tab): void {
    tab.value = wanted;
  }
  /** Alone, or beside those that are chosen already. */
  function choosePeg(lane: string, number: number, more: boolean): void {
    const own = pegs.value[lane] ?? [];
    if (!more) pegs.value = { [lane]: [number] };
    else pegs.value = { ...pegs.value, [lane]: own.includes(number) ? own.filter((each) => each !== number) : [...own, number] };
    motion.chosen = more ? [...new Set([...motion.chosen, lane])] : [lane];
  }
  const isChosen = (lane: string, number: number) => pegs.value[lane]?.includes(number) ?? false;
  const count = computed(() => Object.values(pegs.value).reduce((sum, each) => sum + each.length, 0));
  function chooseNone(): void {
    pegs.value = {};
  }
  return {
    tab, height, width, view, around, runsRound, pegs, duration, span, start, perSecond, loop, count,
    x, timeAt, fit, zoom, pan, snapped, momentOf, goTo, stepBy, setHeight, show, choosePeg, isChosen, chooseNone,
  };
});
