// The film: frames are got ready one after the other, played at the title's own rate, and never waited for in vain.
import { createPinia, setActivePinia } from "pinia";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { effectScope } from "vue";
import { api } from "@/api/client";
import { useStripAhead } from "@/composables/useStripAhead";
import { MOST_BYTES } from "@/model/time/frameCache";
import { COARSEST } from "@/model/pace";
import type { Title } from "@/model/title";
import { useCatalogue } from "@/stores/catalogue";
import { useClock } from "@/stores/clock";
import { useFilm } from "@/stores/film";
import { stripScale, useFrames } from "@/stores/frames";
import { useMotion } from "@/stores/motion";
import { useProof } from "@/stores/proof";
import { useTimeline } from "@/stores/timeline";
import { text } from "@/text";
import { useBench } from "./bench";
import { title, toldModels } from "./documents";

const FRAMES = 10;
const SIDE = 4; // pixels of a picture
const PLACE = ["layers", "word", "placement", "scale"];

class Picture {
  constructor(readonly data: Uint8ClampedArray, readonly width: number, readonly height: number) {}
}
vi.stubGlobal("ImageData", Picture);

interface Asked {
  lane: string;
  time: number;
  scale: number;
  document: Title;
}
/** What was asked of the server. */
let asked: Asked[];
let answer: (ask: Asked, signal?: AbortSignal) => unknown;
const fine = () => ({
  data: new Uint8ClampedArray(SIDE * SIDE * 4).buffer,
  response: { status: 200, headers: new Headers({ "X-Size": `${SIDE} ${SIDE}` }) },
});

/** A title of ten frames, or so many seconds, in which something moves all the time. */
function moving(seconds = FRAMES / 25): Title {
  const plain = title();
  const pegs = [{ at: 0, value: 1, ease: [0, 0, 1, 1] }, { at: seconds, value: 2, ease: [0, 0, 1, 1] }];
  return {
    ...plain,
    frame: { ...plain.frame, duration: seconds, fps: 25 },
    layers: plain.layers.map((each) =>
      each.id === "word" && "placement" in each ? { ...each, placement: { ...each.placement, scale: { pegs } } } : each),
  } as Title;
}
async function opened(document = moving()) {
  vi.spyOn(api, "GET").mockResolvedValue({ data: { id: "t", version: 1, document }, response: { status: 200 } } as never);
  vi.spyOn(api, "PUT").mockResolvedValue({ data: { version: 2 }, response: { status: 200 } } as never);
  vi.spyOn(api, "POST").mockImplementation(((path: string, { body, signal }: { body: Asked; signal?: AbortSignal }) => {
    if (path !== "/api/preview") return Promise.resolve({ data: {}, response: { status: 200, headers: new Headers() } });
    asked.push(body);
    return Promise.resolve(answer(body, signal));
  }) as never);
  const { opened: of } = useBench();
  await of.open("t");
  const clock = useClock();
  clock.time = 0;
  const film = useFilm();
  return { film, frames: useFrames(), clock, of, timeline: useTimeline(), motion: useMotion() };
}
const turn = (ms = 200) => vi.advanceTimersByTimeAsync(ms);
const numbers = () => asked.map(({ time }) => Math.round(time * 25));

beforeEach(() => {
  vi.useFakeTimers();
  setActivePinia(createPinia());
  localStorage.clear();
  asked = [];
  answer = () => fine();
  useCatalogue().all = { models: toldModels, steps: [] } as never;
});
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
});

describe("getting ready", () => {
  it("asks for nothing while nobody wants it", async () => {
    const { film } = await opened();
    await turn();
    expect(asked).toEqual([]);
    expect(film.left).toBe(FRAMES);
  });
  it("asks for every frame once, from the clock's on and round", async () => {
    const { film, clock } = await opened();
    clock.time = 0.16;
    film.wanted = true;
    await turn(1000);
    expect(numbers()).toEqual([4, 5, 6, 7, 8, 9, 0, 1, 2, 3]);
    expect(new Set(asked.map(({ lane }) => lane))).toEqual(new Set(["film", "film ahead"])); // two at a time
    expect(film.left).toBe(0);
    await turn(1000);
    expect(asked).toHaveLength(FRAMES);
  });
  it("asks once for frames that are the same", async () => {
    const plain = title();
    const { film } = await opened({ ...plain, frame: { ...plain.frame, duration: 0.4, fps: 25 } });
    film.wanted = true;
    await turn(1000);
    expect(asked).toHaveLength(1);
    expect(film.left).toBe(0);
  });
  it("goes before what the strip wants only while one waits to play", async () => {
    const { film } = await opened();
    film.strip = [{ number: 7, scale: stripScale(1080) }];
    film.wanted = true;
    await turn(1000);
    expect(asked[0]).toMatchObject({ time: 7 / 25, scale: stripScale(1080) });
    expect(asked).toHaveLength(FRAMES + 1);
  });
  it("rests beside the hand, and goes on when it is off", async () => {
    const { film, clock } = await opened();
    clock.scrubbing = true;
    film.wanted = true;
    await turn();
    expect(asked).toEqual([]);
    clock.scrubbing = false;
    await turn(1000);
    expect(asked).toHaveLength(FRAMES);
  });
  it("asks again for a picture that was dropped for another", async () => {
    let dropped = 0;
    answer = () => (dropped++ < 3 ? { response: { status: 204, headers: new Headers() } } : fine());
    const { film } = await opened();
    film.play();
    await turn(2000);
    expect(asked).toHaveLength(FRAMES + 3);
    expect(film.left).toBe(0);
    expect(film.preparing).toBe(false);
  });
  it("goes on by itself when the hand touches and leaves during an answer", async () => {
    const { film, clock } = await opened();
    let slow: (value: unknown) => void = () => undefined;
    answer = (_, signal) => new Promise((done, stop) => {
      slow = done;
      signal?.addEventListener("abort", () => stop(new DOMException("gone", "AbortError")));
    });
    film.play();
    await turn(50);
    clock.scrubbing = true;
    await turn(0);
    answer = () => fine();
    clock.scrubbing = false; // before the abandoned request has ended
    slow(fine());
    await turn(2000);
    expect(film.left).toBe(0);
    expect(film.preparing).toBe(false);
  });
  it("a change is asked for anew, what it does not touch is kept", async () => {
    const { film, of } = await opened();
    film.wanted = true;
    await turn(1000);
    of.rewrite({ ...of.document, name: "Renamed" });
    await turn(2000);
    expect(asked).toHaveLength(FRAMES);
    of.setLayer("word", { opacity: 0.5 });
    await turn(3000);
    expect(asked).toHaveLength(2 * FRAMES);
    of.undo();
    await turn(3000);
    expect(asked).toHaveLength(2 * FRAMES);
    expect(film.left).toBe(0);
  });
  it("says what was wrong, stops waiting, and tries again later", async () => {
    answer = () => ({ error: { message: "no such font" }, response: { status: 422, headers: new Headers() } });
    const { film } = await opened();
    film.wanted = true;
    film.play();
    await turn(100);
    expect(film.fault).toBe("no such font");
    expect(film.preparing).toBe(false);
    expect(asked).toHaveLength(1);
    answer = () => fine();
    await turn(4000);
    expect(film.fault).toBe("");
    expect(film.left).toBe(0);
  });
  it("says that a part is too long to be kept, and does not make it in vain for ever", async () => {
    const { film } = await opened();
    vi.stubGlobal("ImageData", class extends Picture {
      override readonly data = { byteLength: MOST_BYTES / 4 } as unknown as Uint8ClampedArray;
    });
    film.play();
    await turn(3000);
    vi.stubGlobal("ImageData", Picture);
    expect(film.fault).toBe(text.timing.tooLong);
    expect(film.preparing).toBe(false);
    expect(asked.length).toBeLessThan(FRAMES);
    expect(film.cache.taken).toBeLessThanOrEqual(MOST_BYTES);
  });
  it("a smaller picture is another one", async () => {
    const { film } = await opened();
    film.wanted = true;
    await turn(1000);
    film.quality = 0.5;
    await turn(1000);
    expect(asked).toHaveLength(2 * FRAMES);
    expect(asked.at(-1)!.scale).toBeLessThan(asked[0]!.scale);
  });
});

describe("a hand that scrubs", () => {
  it("sees the nearest frame that is ready, none of another moment", async () => {
    const { film, frames } = await opened();
    expect(frames.nearest(4)).toBeUndefined();
    const small = stripScale(useProof().frame.height);
    film.strip = [{ number: 2, scale: small }, { number: 9, scale: small }];
    await turn();
    const [second, ninth] = [2, 9].map((number) => frames.frame({ number, scale: small }));
    expect(second).toBeDefined();
    expect([frames.nearest(4) === second, frames.nearest(7) === ninth, frames.nearest(2) === second]).toEqual([true, true, true]);
    expect(frames.nearest(40)).toBeUndefined();
  });
});

describe("a hand that scrubs where nothing moves", () => {
  it("sees the one picture that all frames have", async () => {
    const plain = title();
    const { film, frames } = await opened({ ...plain, frame: { ...plain.frame, duration: 4, fps: 25 } });
    film.wanted = true;
    await turn(1000);
    expect(asked).toHaveLength(1);
    expect([0, 50, 99].map((number) => frames.nearest(number))).toEqual(Array(3).fill(frames.frame({ number: 0, scale: film.scale })));
  });
});

describe("a hand that comes near", () => {
  const near = (number: number) => ({ number, scale: stripScale(1080) });
  /** Answers that wait until the test gives them. */
  function waiting() {
    const left: (() => void)[] = [];
    let given: AbortSignal | undefined;
    answer = (_, signal) => new Promise((done) => (left.push(() => done(fine())), (given = signal)));
    return { give: () => left.splice(0).forEach((each) => each()), signal: () => given };
  }
  it("finds what it is about to see", async () => {
    const { film, frames } = await opened(moving(4));
    film.near = near(40);
    await turn();
    expect(asked.map(({ lane, time, scale }) => [lane, time * 25, scale])).toEqual([["film near", 40, stripScale(1080)]]);
    expect(frames.nearest(44)).toBeDefined();
  });
  it("has one on its way, and then the newest alone", async () => {
    const { give } = waiting();
    const { film } = await opened(moving(4));
    for (const number of [40, 50, 60]) {
      film.near = near(number);
      await turn(20);
    }
    give();
    await turn(20);
    expect(numbers()).toEqual([40, 60]);
  });
  it("asks itself once it presses", async () => {
    const { signal } = waiting();
    const { film, clock } = await opened(moving(4));
    film.near = near(40);
    await turn(20);
    clock.scrubbing = true;
    await turn(20);
    expect(signal()?.aborted).toBe(true);
  });
  it("is never shown what was asked for before a change", async () => {
    const { give } = waiting();
    const { film, frames, of } = await opened(moving(4));
    film.near = near(40);
    await turn(20);
    of.rewrite(moving(3.9));
    give();
    await turn(20);
    expect(frames.nearest(40)).toBeUndefined();
  });
});

describe("ahead of a strip", () => {
  /** With the composable of the bench at work. */
  async function resting(document = moving()) {
    const scope = effectScope();
    const bench = await opened(document);
    scope.run(() => useStripAhead());
    return { ...bench, scope };
  }
  it("makes pictures of all moments once nothing has happened for a while", async () => {
    const { frames, scope } = await resting(moving(4));
    await turn(600);
    expect(asked).toEqual([]);
    await turn(1000);
    expect(numbers()).toEqual([10, 90, 50, 30, 70, 10]); // from far apart to what lies between
    expect(asked[0]!.scale).toBe(useProof().sharp({ width: 1920, height: 1080 }) * COARSEST);
    expect(new Set(asked.slice(1).map(({ scale }) => scale))).toEqual(new Set([stripScale(1080)]));
    for (let number = 0; number < 100; number += 1) expect(frames.nearest(number)).toBeDefined();
    scope.stop();
  });
  it("rests again after the hand and after a change, and stops with the bench", async () => {
    const { clock, scope } = await resting(moving(4));
    await turn(600);
    clock.scrubbing = true;
    await turn(1000);
    clock.scrubbing = false;
    await turn(600);
    expect(asked).toEqual([]);
    scope.stop();
    await turn(2000);
    expect(asked).toEqual([]);
  });
  it("makes none of what stands still, and few of what is long", async () => {
    const still = await resting(title());
    await turn(2000);
    expect(asked).toEqual([]);
    still.scope.stop();
    const { scope } = await resting(moving(600));
    await turn(5000);
    expect(asked).toHaveLength(1 + 24);
    scope.stop();
  });
});

describe("playing", () => {
  /** Plays what is ready; frames of the page come every 16 ms. */
  async function played(ms: number, before: (all: Awaited<ReturnType<typeof opened>>) => void = () => undefined) {
    const all = await opened();
    all.film.wanted = true;
    await turn(1000);
    before(all);
    all.film.play();
    await turn(ms);
    return all;
  }
  it("begins once all is ready, and shows every frame", async () => {
    const { film, clock } = await played(300);
    expect(clock.playing).toBe(true);
    expect(film.picture).not.toBeNull();
    expect(film.report.shown).toBeGreaterThan(4);
    expect(film.report.leftOut).toBe(0);
    expect(film.report.latest).toBeLessThan(10);
  });
  it("runs round, or stops at the end where it is", async () => {
    const round = await played(1000);
    expect(round.clock.playing).toBe(true);
    expect(round.film.report.shown).toBeGreaterThan(FRAMES);
    round.film.pause();
    const once = await played(1000, ({ timeline }) => (timeline.runsRound = false));
    expect(once.clock.playing).toBe(false);
    expect(once.clock.time).toBeCloseTo(9 / 25);
  });
  it("plays the part between the brackets alone", async () => {
    const { film, clock } = await played(500, ({ timeline }) => (timeline.around = [0.08, 0.2]));
    expect(film.range).toEqual([2, 5]);
    expect(film.at).toBeGreaterThanOrEqual(0.08 - 1e-9);
    expect(film.at).toBeLessThan(0.2);
    film.pause();
    expect(clock.time).toBeCloseTo(film.at);
  });
  it("pauses where it is, and goes on from there", async () => {
    const { film, clock } = await played(140);
    const at = film.at;
    film.play();
    expect(clock.playing).toBe(false);
    expect(film.picture).toBeNull();
    expect(clock.time).toBeCloseTo(at);
  });
  it("goes at another speed", async () => {
    const half = await played(400, ({ film }) => (film.speed = 0.5));
    const slow = half.film.report.shown;
    half.film.pause();
    const whole = await played(400, ({ film }) => (film.speed = 1));
    expect(whole.film.report.shown).toBeGreaterThan(1.5 * slow);
  });
  it("a change while it plays is made ready, and it plays on", async () => {
    const { film, clock, of } = await played(200);
    of.setLayer("word", { opacity: 0.5 });
    await turn(4000);
    expect(asked).toHaveLength(2 * FRAMES);
    expect(clock.playing).toBe(true);
    expect(film.picture).not.toBeNull();
  });
  it("closing the title ends it and lets the frames go", async () => {
    const { film, clock, of } = await played(200);
    of.close();
    await turn();
    expect(clock.playing).toBe(false);
    expect(film.cache.taken).toBe(0);
  });
  it("a peg that is taken away leaves one picture for all", async () => {
    const { film, motion } = await played(0);
    film.pause();
    motion.stop(PLACE, toldModels["placement"]!.find(({ name }) => name === "scale")!);
    await turn(4000);
    expect(asked.length).toBeLessThanOrEqual(FRAMES + 1);
    expect(film.left).toBe(0);
  });
});
