// The preview loop: one request at a time, the newest state, coarse while the hand moves.
import { beforeEach, describe, expect, it, vi } from "vitest";
import { effectScope, nextTick, ref, shallowRef } from "vue";
import { api } from "@/api/client";
import { usePreview, type PreviewAsk } from "@/composables/usePreview";
import { learn, newPaces, shareOf } from "@/model/pace";
import { title } from "./documents";

vi.stubGlobal(
  "ImageData",
  class {
    constructor(
      public data: Uint8ClampedArray,
      public width: number,
      public height: number,
    ) {}
  },
);

interface Sent {
  name: string;
  scale: number;
  rests: boolean;
  answer: () => Promise<void>;
  refuse: (message: string) => Promise<void>;
}
let sent: Sent[] = [];
let clock = 0;

function pictures() {
  vi.spyOn(performance, "now").mockImplementation(() => clock);
  vi.spyOn(api, "POST").mockImplementation(((_: string, { body, signal }: never) => {
    const { document, scale, rests } = body as { document: { name: string }; scale: number; rests: boolean };
    return new Promise((resolve, reject) => {
      (signal as AbortSignal).addEventListener("abort", () => reject(new Error("aborted")));
      const settle = async (value: unknown) => {
        resolve(value);
        await new Promise((done) => setTimeout(done));
      };
      const headers = new Headers({ "X-Size": "2 1", "X-Notices": "%5B%5D" });
      sent.push({
        name: document.name,
        scale,
        rests,
        answer: () => settle({ data: new ArrayBuffer(8), response: { status: 200, headers } }),
        refuse: (message) => settle({ error: { message }, response: { status: 422, headers } }),
      });
    });
  }) as never);
}
const asked = (name: string): PreviewAsk => ({ document: { ...title(), name }, scale: 1, tap: "picture" });

function preview(moving = ref(false), looking = () => false) {
  const ask = shallowRef<PreviewAsk | null>(asked("first"));
  const scope = effectScope();
  const result = scope.run(() => usePreview(ask, moving, "proof", looking))!;
  return { ask, moving, result, scope };
}

beforeEach(() => {
  sent = [];
  clock = 0;
  pictures();
});

describe("the pace", () => {
  it("goes by half octaves, and stays at one while it nearly keeps up", () => {
    const { setting: pace } = newPaces();
    learn(pace, 1, 15 + 25 * 4.2);
    expect(shareOf(pace)).toBe(0.5);
    for (const full of [3, 5.5, 4, 7]) {
      pace.full = 15 + 25 * full;
      expect(shareOf(pace)).toBe(0.5);
    }
    pace.full = 15 + 25 * 8;
    expect(shareOf(pace)).toBeCloseTo(0.354, 3);
    pace.full = 15 + 25 * 1.1;
    expect(shareOf(pace)).toBe(1);
    pace.full = 4000;
    expect(shareOf(pace)).toBe(0.3);
  });

  it("begins with the coarsest where the hand looks", () => {
    const { looking: pace } = newPaces();
    expect(shareOf(pace)).toBe(0.12);
    learn(pace, 0.12, 15 + 15 * 0.12 ** 2 * 2 * 4);
    expect(shareOf(pace)).toBeCloseTo(0.354, 3);
    learn(pace, 0.354, 8); // the engine had it already
    learn(pace, 0.354, 8);
    expect(shareOf(pace)).toBeCloseTo(0.354, 3);
  });
});

describe("the preview", () => {
  it("shows what it asked for", async () => {
    const { result } = preview();
    await sent[0]!.answer();
    expect(result.shown.value?.ask.document.name).toBe("first");
    expect(result.shown.value?.coarse).toBe(false);
  });

  it("has one request on its way and then asks for the newest state only", async () => {
    const { ask } = preview();
    for (const name of ["second", "third", "fourth"]) {
      ask.value = asked(name);
      await nextTick();
    }
    expect(sent.map((each) => each.name)).toEqual(["first"]);
    await sent[0]!.answer();
    expect(sent.map((each) => each.name)).toEqual(["first", "fourth"]);
  });

  it("asks for less while the hand moves and pictures lag, and for all of it afterwards", async () => {
    const { ask, moving, result } = preview();
    clock = 400;
    await sent[0]!.answer();
    moving.value = true;
    ask.value = asked("dragged");
    await nextTick();
    expect(sent[1]!.scale).toBeLessThan(0.6);
    await sent[1]!.answer();
    expect(result.shown.value?.coarse).toBe(true);
    moving.value = false;
    await nextTick();
    expect(sent[2]).toMatchObject({ name: "dragged", scale: 1 });
    await sent[2]!.answer();
    expect(result.shown.value?.coarse).toBe(false);
  });

  it("says which pictures rest: what they are made from is kept", async () => {
    const { ask, moving } = preview();
    await sent[0]!.answer();
    moving.value = true;
    ask.value = asked("dragged");
    await nextTick();
    await sent[1]!.answer();
    ask.value = asked("dragged further");
    moving.value = false;
    await nextTick();
    expect(sent.map((each) => each.rests)).toEqual([true, false, true]);
  });

  it("stays sharp while the hand moves where pictures are quick", async () => {
    const { ask, moving } = preview();
    clock = 20;
    await sent[0]!.answer();
    moving.value = true;
    ask.value = asked("dragged");
    await nextTick();
    expect(sent[1]!.scale).toBe(1);
  });

  it("begins with the coarsest where the hand looks for a moment, however quick the last was", async () => {
    let looking = false;
    const { ask, moving } = preview(ref(false), () => looking);
    clock = 20;
    await sent[0]!.answer();
    looking = moving.value = true;
    ask.value = asked("looked at");
    await nextTick();
    expect(sent[1]!.scale).toBe(0.12);
    clock = 36; // as quick as any
    await sent[1]!.answer();
    ask.value = asked("looked at further on");
    await nextTick();
    expect(sent[2]!.scale).toBeGreaterThan(0.3);
  });

  it("gives up a fine picture of an old state once the hand moves", async () => {
    const { ask, moving } = preview();
    moving.value = true;
    ask.value = asked("dragged");
    await nextTick();
    await new Promise((done) => setTimeout(done));
    expect(sent.map((each) => each.name)).toEqual(["first", "dragged"]);
  });

  it("tells what was refused and keeps the last picture", async () => {
    const { ask, result } = preview();
    await sent[0]!.answer();
    ask.value = asked("broken");
    await nextTick();
    await sent[1]!.refuse("frame: too large");
    expect(result.fault.value).toBe("frame: too large");
    expect(result.shown.value?.ask.document.name).toBe("first");
  });

  it("asks for nothing more once its view is gone", async () => {
    const { ask, scope } = preview();
    scope.stop();
    ask.value = asked("late");
    await nextTick();
    expect(sent.map((each) => each.name)).toEqual(["first"]);
  });
});
