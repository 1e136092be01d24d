// Frames that a hand finds: the nearest that is ready, one made as it comes near, and those made ahead.
import { describe, expect, it } from "vitest";
import { effectScope } from "vue";
import { useStripAhead } from "@/composables/useStripAhead";
import { COARSEST } from "@/model/pace";
import { stripScale } from "@/stores/frames";
import { useProof } from "@/stores/proof";
import { title } from "./documents";
import { fine, fresh, moving, numbers, opened, server, turn } from "./filming";

fresh();

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
    expect(server.asked).toHaveLength(1);
    expect([0, 50, 99].map((number) => frames.nearest(number))).toEqual(Array(3).fill(frames.frame({ number: 0, scale: film.scale })));
  });
});

describe("a hand that comes near", () => {
  const near = (number: number) => ({ number, scale: stripScale(1080) });
  /** Answers that wait until the test gives them. */
  function waiting() {
    const left: (() => void)[] = [];
    let given: AbortSignal | undefined;
    server.answer = (_, signal) => new Promise((done) => (left.push(() => done(fine())), (given = signal)));
    return { give: () => left.splice(0).forEach((each) => each()), signal: () => given };
  }
  it("finds what it is about to see", async () => {
    const { film, frames } = await opened(moving(4));
    film.near = near(40);
    await turn();
    expect(server.asked.map(({ lane, time, scale }) => [lane, time * 25, scale])).toEqual([["film near", 40, stripScale(1080)]]);
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

describe("a change while a picture is on its way", () => {
  it("that is taken back lets it be asked for again", async () => {
    let drop: () => void = () => undefined;
    server.answer = () => new Promise((done) => (drop = () => done({ response: { status: 204, headers: new Headers() } })));
    const { film, frames, of } = await opened(moving(4));
    const wish = { number: 40, scale: stripScale(1080) };
    film.near = wish;
    await turn(20);
    of.rewrite(moving(3.9));
    drop();
    server.answer = () => fine();
    await turn(20);
    of.rewrite(moving(4));
    film.near = { ...wish };
    await turn();
    expect(frames.frame(wish)).toBeDefined();
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
    expect(server.asked).toEqual([]);
    await turn(1000);
    expect(numbers()).toEqual([10, 90, 50, 30, 70, 10]); // from far apart to what lies between
    expect(server.asked[0]!.scale).toBe(useProof().sharp({ width: 1920, height: 1080 }) * COARSEST);
    expect(new Set(server.asked.slice(1).map(({ scale }) => scale))).toEqual(new Set([stripScale(1080)]));
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
    expect(server.asked).toEqual([]);
    scope.stop();
    await turn(2000);
    expect(server.asked).toEqual([]);
  });
  it("makes none of what stands still, and few of what is long", async () => {
    const still = await resting(title());
    await turn(2000);
    expect(server.asked).toEqual([]);
    still.scope.stop();
    const { scope } = await resting(moving(600));
    await turn(5000);
    expect(server.asked).toHaveLength(1 + 24);
    scope.stop();
  });
});
