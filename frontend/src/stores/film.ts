// The film: frames are rendered one after the other where they are wanted, and shown at the title's
// own rate once they are ready.
import { defineStore, storeToRefs } from "pinia";
import { computed, ref, shallowRef, watch } from "vue";
import { api, bytesOf, saidBy, session } from "@/api/client";
import { MOST_BYTES } from "@/model/time/frameCache";
import type { Title } from "@/model/title";
import { useChosen } from "./chosen";
import { useClock } from "./clock";
import { useFrames, type Wish } from "./frames";
import { useMotion } from "./motion";
import { useOpened } from "./opened";
import { text } from "@/text";
import { useTimeline } from "./timeline";

/** How the last run went, for those who measure: frames, and milliseconds by which the latest came late. */
export interface Report {
  shown: number;
  leftOut: number;
  latest: number;
}
const TURN = 8; // milliseconds for which frames are looked for at a time
const EARLY = 8; // milliseconds: a frame is shown at the refresh nearest to when it is due
const LANES = ["film", "film ahead"];
const SOON = 30; // milliseconds after one that was dropped
const AGAIN = 1500; // milliseconds after a fault

export const useFilm = defineStore("film", () => {
  const opened = useOpened();
  const chosen = useChosen();
  const clock = useClock();
  const motion = useMotion();
  const timeline = useTimeline();
  const frames = useFrames();

  const { cache, afresh, check, isReady, keyOf, put } = frames;
  const { version, quality, fps, scale, made } = storeToRefs(frames);
  const speed = ref(1);
  /** Wanted to play, but not everything is ready yet. */
  const preparing = ref(false);
  const fault = ref("");
  /** Where it plays, in seconds; the clock is set when it stops. */
  const at = ref(0);
  const picture = shallowRef<ImageData | null>(null);
  const report = shallowRef<Report>({ shown: 0, leftOut: 0, latest: 0 });
  /** Small pictures for the strip, wanted beside the frames that are played. */
  const strip = shallowRef<Wish[]>([]);
  /** Some that no strip shows yet, for when there is nothing else to make. */
  const ahead = shallowRef<Wish[]>([]);
  /** Where a hand is about to go, while nothing that is ready is near. */
  const near = shallowRef<Wish | null>(null);
  /** Frames are rendered in advance while this is so. */
  const wanted = ref(false);

  const document = computed<Title>(() => chosen.shown);
  const range = computed<[number, number]>(() => {
    const [from, to] = timeline.loop;
    const first = Math.round(from * fps.value);
    return [first, Math.max(Math.round(to * fps.value), first + 1)];
  });

  /** Frames in the loop that are not known to be ready. */
  const left = computed(() => {
    const [first, end] = range.value;
    let count = 0;
    for (let number = first; number < end; number += 1) if (!isReady(number)) count += 1;
    return count;
  });
  /** The first frame that is missing, from the clock's on and round: looked for in short turns. */
  async function missing(): Promise<number | null> {
    const [first, end] = range.value;
    const now = Math.min(Math.max(Math.round(clock.time * fps.value), first), end - 1);
    const of = document.value;
    let began = performance.now();
    for (let i = 0; i < end - first; i += 1) {
      const number = first + ((now - first + i) % (end - first));
      if (!check(number) && !underway.has(keyOf({ number, scale: scale.value }))) return number;
      if (performance.now() - began > TURN) {
        await new Promise((done) => setTimeout(done));
        if (document.value !== of) return null;
        began = performance.now();
      }
    }
    version.value += 1;
    return null;
  }

  // Rendering: the most wanted frame first, never beside the hand; while one is on its way to the
  // page the engine has the next one
  let running: AbortController | null = null;
  /** Keys of frames that are asked for. */
  const underway = new Set<string>();
  const lacking = (wishes: Wish[]) => wishes.find((wish) => !cache.has(keyOf(wish)) && !underway.has(keyOf(wish)));
  async function next(): Promise<Wish | null> {
    const small = lacking(strip.value);
    if (small && !preparing.value) return small;
    const number = (preparing.value || wanted.value) && made.value <= MOST_BYTES ? await missing() : null;
    return number === null ? (small ?? lacking(ahead.value) ?? null) : { number, scale: scale.value };
  }
  const may = computed(() => opened.ready && !opened.dragging && !opened.settling && !clock.playing && !clock.scrubbing);
  async function work(): Promise<void> {
    if (running) return;
    const control = (running = new AbortController());
    let dropped = false;
    async function ask(lane: string): Promise<void> {
      for (let wish = await next(); may.value && wish && !dropped; wish = await next()) {
        const key = keyOf(wish);
        if (underway.has(key)) continue; // both looked at the same moment
        underway.add(key);
        dropped = !(await load(wish, lane, control.signal)) || dropped;
        underway.delete(key);
      }
    }
    try {
      await Promise.all(LANES.map(ask));
    } finally {
      running = null;
    }
    if (!may.value || fault.value) return;
    // What was dropped for another picture, a hand that is off again, or a change is asked for anew
    const lacks = (preparing.value || wanted.value) && left.value > 0;
    if (lacks && made.value > MOST_BYTES) stopAt(text.timing.tooLong);
    else if (dropped || lacks) setTimeout(() => void work(), SOON);
    else if (preparing.value && held()) begin();
    else stopAt(text.timing.tooLong);
  }
  /** Whether all that was made ready is kept still. */
  function held(): boolean {
    const [first, end] = range.value;
    for (let number = first; number < end; number += 1) if (!cache.has(keyOf({ number, scale: scale.value }))) return false;
    return true;
  }
  /** Ends getting ready, and says why. */
  function stopAt(said: string): void {
    if (preparing.value) fault.value = said;
    preparing.value = false;
  }
  async function load(wish: Wish, lane: string, signal: AbortSignal): Promise<ImageData | null> {
    const key = keyOf(wish);
    try {
      const answer = await api.POST("/api/preview", {
        body: {
          session, lane, document: document.value, scale: wish.scale, time: wish.number / fps.value, tap: "picture",
          rests: false,
        },
        parseAs: "arrayBuffer",
        signal,
      });
      if (answer.error) throw new Error(saidBy(answer.error));
      if (answer.response.status !== 200) return null;
      const [width = 1, height = 1] = (answer.response.headers.get("X-Size") ?? "1 1").split(" ").map(Number);
      const image = new ImageData(new Uint8ClampedArray(bytesOf(answer)), width, height);
      put(key, image, wish.number);
      fault.value = "";
      return image;
    } catch (error) {
      if (!signal.aborted) {
        fault.value = saidBy(error);
        preparing.value = false;
        setTimeout(() => void work(), AGAIN);
      }
      return null;
    }
  }
  /** What a hand is about to see comes before all that is made ahead; the newest of it alone. */
  let foreseeing: AbortController | null = null;
  async function foresee(): Promise<void> {
    if (foreseeing) return;
    const control = (foreseeing = new AbortController());
    for (let wish = near.value; wish && may.value && lacking([wish]); wish = near.value) {
      const key = keyOf(wish); // which may be another one when the answer comes
      underway.add(key);
      const found = await load(wish, "film near", control.signal);
      underway.delete(key);
      if (!found) break;
    }
    foreseeing = null;
  }
  watch(near, () => void foresee());
  watch(may, (now) => now || foreseeing?.abort());
  watch([may, wanted, strip, ahead, preparing, document, scale, range], () => {
    if (!may.value) running?.abort();
    else void work();
  });

  // Playing
  let began = 0;
  let from = 0;
  let last = -1;
  function play(): void {
    if (clock.playing || preparing.value) return pause();
    fault.value = "";
    afresh();
    preparing.value = true;
    const [first, end] = range.value;
    const now = Math.round(clock.time * fps.value);
    if (now < first || now >= end - 1) clock.time = first / fps.value;
    void work();
  }
  function begin(): void {
    preparing.value = false;
    clock.playing = true;
    from = Math.round(clock.time * fps.value);
    last = -1;
    report.value = { shown: 0, leftOut: 0, latest: 0 };
    show(0, 0);
    // Time runs once the page has changed over to playing, which may take longer than a frame
    requestAnimationFrame(() => requestAnimationFrame((now) => {
      began = now;
      tick(now);
    }));
  }
  function tick(now: number): void {
    if (!clock.playing) return;
    const every = 1000 / (fps.value * speed.value);
    const count = Math.max(Math.floor((now - began + EARLY) / every), 0);
    if (count !== last) show(count, now - began - count * every);
    if (clock.playing) requestAnimationFrame(tick);
  }
  function show(count: number, late: number): void {
    const [first, end] = range.value;
    const number = from + count;
    const around = timeline.runsRound;
    if (!around && number >= end) return pause();
    const shown = first + ((number - first) % (end - first));
    const image = frames.frame({ number: shown, scale: scale.value });
    if (!image) return restart(shown); // something was changed, or is kept no more: it is made again
    picture.value = image;
    at.value = shown / fps.value;
    const { shown: before, leftOut, latest } = report.value;
    report.value = {
      shown: before + 1, leftOut: leftOut + (last < 0 ? 0 : count - last - 1), latest: Math.max(latest, last < 0 ? 0 : late),
    };
    last = count;
  }
  function restart(number: number): void {
    pause();
    clock.time = number / fps.value;
    play();
  }
  function pause(): void {
    if (clock.playing) clock.time = motion.onFrame(at.value);
    clock.playing = preparing.value = false;
    picture.value = null;
  }
  watch(() => opened.ready, (there) => {
    pause();
    if (!there) cache.clear();
  });
  watch(document, () => clock.playing && restart(Math.round(at.value * fps.value)));

  return {
    version, speed, quality, preparing, fault, at, picture, report, strip, ahead, near, may, wanted, scale, range, fps, left, cache,
    isReady, play, pause,
  };
});
