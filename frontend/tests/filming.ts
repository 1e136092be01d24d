// A title whose frames are asked for, and the server that makes them.
import { createPinia, setActivePinia } from "pinia";
import { afterEach, beforeEach, vi } from "vitest";
import { api } from "@/api/client";
import type { Title } from "@/model/title";
import { useCatalogue } from "@/stores/catalogue";
import { useClock } from "@/stores/clock";
import { useFilm } from "@/stores/film";
import { useFrames } from "@/stores/frames";
import { useMotion } from "@/stores/motion";
import { useTimeline } from "@/stores/timeline";
import { useBench } from "./bench";
import { title, toldModels } from "./documents";

export const FRAMES = 10;
const SIDE = 4; // pixels of a picture
export const PLACE = ["layers", "word", "placement", "scale"];

export class Picture {
  constructor(readonly data: Uint8ClampedArray, readonly width: number, readonly height: number) {}
}
vi.stubGlobal("ImageData", Picture);

interface Asked {
  lane: string;
  time: number;
  scale: number;
  document: Title;
}
export const fine = () => ({
  data: new Uint8ClampedArray(SIDE * SIDE * 4).buffer,
  response: { status: 200, headers: new Headers({ "X-Size": `${SIDE} ${SIDE}` }) },
});
/** What was asked of the server, and how it answers. */
export const server = {
  asked: [] as Asked[],
  answer: fine as (ask: Asked, signal?: AbortSignal) => unknown,
};

/** A title of ten frames, or so many seconds, in which something moves all the time. */
export function moving(seconds = FRAMES / 25): Title {
  const plain = title();
  const pegs = [{ at: 0, value: 1, ease: [0, 0, 1, 1] }, { at: seconds, value: 2, ease: [0, 0, 1, 1] }];
  return {
    ...plain,
    frame: { ...plain.frame, duration: seconds, fps: 25 },
    layers: plain.layers.map((each) =>
      each.id === "word" && "placement" in each ? { ...each, placement: { ...each.placement, scale: { pegs } } } : each),
  } as Title;
}
/** The title on the bench, and what of the page has to do with its frames. */
export async function opened(document = moving()) {
  vi.spyOn(api, "GET").mockResolvedValue({ data: { id: "t", version: 1, document }, response: { status: 200 } } as never);
  vi.spyOn(api, "PUT").mockResolvedValue({ data: { version: 2 }, response: { status: 200 } } as never);
  vi.spyOn(api, "POST").mockImplementation(((path: string, { body, signal }: { body: Asked; signal?: AbortSignal }) => {
    if (path !== "/api/preview") return Promise.resolve({ data: {}, response: { status: 200, headers: new Headers() } });
    server.asked.push(body);
    return Promise.resolve(server.answer(body, signal));
  }) as never);
  const { opened: of } = useBench();
  await of.open("t");
  const clock = useClock();
  clock.time = 0;
  const film = useFilm();
  return { film, frames: useFrames(), clock, of, timeline: useTimeline(), motion: useMotion() };
}
export const turn = (ms = 200) => vi.advanceTimersByTimeAsync(ms);
export const numbers = () => server.asked.map(({ time }) => Math.round(time * 25));

/** Each test of a file begins with an empty page and a server that answers. */
export function fresh(): void {
  beforeEach(() => {
    vi.useFakeTimers();
    setActivePinia(createPinia());
    localStorage.clear();
    server.asked = [];
    server.answer = () => fine();
    useCatalogue().all = { models: toldModels, steps: [] } as never;
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.restoreAllMocks();
  });
}
