// The film: frames are got ready one after the other, played at the title's own rate, and never waited for in vain.
import { describe, expect, it, vi } from "vitest";
import { MOST_BYTES } from "@/model/time/frameCache";
import { stripScale } from "@/stores/frames";
import { text } from "@/text";
import { title, toldModels } from "./documents";
import { fine, fresh, FRAMES, numbers, opened, Picture, PLACE, server, turn } from "./filming";

fresh();

describe("getting ready", () => {
  it("asks for nothing while nobody wants it", async () => {
    const { film } = await opened();
    await turn();
    expect(server.asked).toEqual([]);
    expect(film.left).toBe(FRAMES);
  });
  it("asks for every frame once, from the clock's on and round", async () => {
    const { film, clock } = await opened();
    clock.time = 0.16;
    film.wanted = true;
    await turn(1000);
    expect(numbers()).toEqual([4, 5, 6, 7, 8, 9, 0, 1, 2, 3]);
    expect(new Set(server.asked.map(({ lane }) => lane))).toEqual(new Set(["film", "film ahead"])); // two at a time
    expect(film.left).toBe(0);
    await turn(1000);
    expect(server.asked).toHaveLength(FRAMES);
  });
  it("asks once for frames that are the same", async () => {
    const plain = title();
    const { film } = await opened({ ...plain, frame: { ...plain.frame, duration: 0.4, fps: 25 } });
    film.wanted = true;
    await turn(1000);
    expect(server.asked).toHaveLength(1);
    expect(film.left).toBe(0);
  });
  it("goes before what the strip wants only while one waits to play", async () => {
    const { film } = await opened();
    film.strip = [{ number: 7, scale: stripScale(1080) }];
    film.wanted = true;
    await turn(1000);
    expect(server.asked[0]).toMatchObject({ time: 7 / 25, scale: stripScale(1080) });
    expect(server.asked).toHaveLength(FRAMES + 1);
  });
  it("rests beside the hand, and goes on when it is off", async () => {
    const { film, clock } = await opened();
    clock.scrubbing = true;
    film.wanted = true;
    await turn();
    expect(server.asked).toEqual([]);
    clock.scrubbing = false;
    await turn(1000);
    expect(server.asked).toHaveLength(FRAMES);
  });
  it("asks again for a picture that was dropped for another", async () => {
    let dropped = 0;
    server.answer = () => (dropped++ < 3 ? { response: { status: 204, headers: new Headers() } } : fine());
    const { film } = await opened();
    film.play();
    await turn(2000);
    expect(server.asked).toHaveLength(FRAMES + 3);
    expect(film.left).toBe(0);
    expect(film.preparing).toBe(false);
  });
  it("goes on by itself when the hand touches and leaves during an answer", async () => {
    const { film, clock } = await opened();
    let slow: (value: unknown) => void = () => undefined;
    server.answer = (_, signal) => new Promise((done, stop) => {
      slow = done;
      signal?.addEventListener("abort", () => stop(new DOMException("gone", "AbortError")));
    });
    film.play();
    await turn(50);
    clock.scrubbing = true;
    await turn(0);
    server.answer = () => fine();
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
    expect(server.asked).toHaveLength(FRAMES);
    of.setLayer("word", { opacity: 0.5 });
    await turn(3000);
    expect(server.asked).toHaveLength(2 * FRAMES);
    of.undo();
    await turn(3000);
    expect(server.asked).toHaveLength(2 * FRAMES);
    expect(film.left).toBe(0);
  });
  it("says what was wrong, stops waiting, and tries again later", async () => {
    server.answer = () => ({ error: { message: "no such font" }, response: { status: 422, headers: new Headers() } });
    const { film } = await opened();
    film.wanted = true;
    film.play();
    await turn(100);
    expect(film.fault).toBe("no such font");
    expect(film.preparing).toBe(false);
    expect(server.asked).toHaveLength(1);
    server.answer = () => fine();
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
    expect(server.asked.length).toBeLessThan(FRAMES);
    expect(film.cache.taken).toBeLessThanOrEqual(MOST_BYTES);
  });
  it("a smaller picture is another one", async () => {
    const { film } = await opened();
    film.wanted = true;
    await turn(1000);
    film.quality = 0.5;
    await turn(1000);
    expect(server.asked).toHaveLength(2 * FRAMES);
    expect(server.asked.at(-1)!.scale).toBeLessThan(server.asked[0]!.scale);
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
    expect(server.asked).toHaveLength(2 * FRAMES);
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
    expect(server.asked.length).toBeLessThanOrEqual(FRAMES + 1);
    expect(film.left).toBe(0);
  });
});
