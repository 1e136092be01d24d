// Exports: orders that fit together, how they are told, and the list that is watched.
import { createPinia, setActivePinia } from "pinia";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { api } from "@/api/client";
import {
  asOrdered, framesOf, hasBackdrop, rateOf, sizeTold, timeTold, wholeOrder, withOrder, type ExportState, type Forms,
} from "@/model/exporting";
import * as files from "@/model/files";
import { lengthTold } from "@/model/files";
import { isClip, type Title } from "@/model/title";
import { useExports } from "@/stores/exports";
import { useNotices } from "@/stores/notices";
import { text } from "@/text";
import { title } from "./documents";

const form = (name: string, depths: string[] = [], alpha = true) => ({ name, label: name, ending: `.${name}`, depths, alpha, lossy: false, scales: true });
const forms: Forms = {
  stills: [form("png", ["8", "16"]), form("exr", ["half", "float"]), form("jpeg", ["8"], false)],
  clips: [form("webm"), form("ffv1")], parts: [{ ...form("svg"), scales: false }, form("exr-index")], presets: [], own: [],
};

describe("an order", () => {
  it("takes the usual format and depth of what is asked for", () => {
    const clip = withOrder(wholeOrder({ form: "png", depth: "16" }), { kind: "clip" }, forms);
    expect([clip.form, clip.depth]).toEqual(["webm", null]);
    const picture = withOrder(clip, { kind: "picture" }, forms);
    expect([picture.form, picture.depth]).toEqual(["png", "8"]);
    expect(withOrder(picture, { form: "exr" }, forms).depth).toBe("half");
  });
  it("keeps what still fits", () => {
    const order = withOrder(wholeOrder({ form: "exr", depth: "float", passes: "together" }), { kind: "frames" }, forms);
    expect(order).toMatchObject({ form: "exr", depth: "float", passes: "together" });
    expect(withOrder(order, { form: "png" }, forms).passes).toBe("none");
    expect(withOrder(order, { kind: "layers" }, forms)).toMatchObject({ form: "ora", passes: "none", depth: null });
  });
  it("has hidden parts where it has parts, and a size where it has pixels", () => {
    const parts = withOrder(wholeOrder({ scale: 2 }), { kind: "parts" }, forms);
    expect(parts).toMatchObject({ form: "svg", scale: 1, hidden: "cut" });
    const whole = withOrder(parts, { hidden: "whole" }, forms);
    expect(whole.hidden).toBe("whole");
    expect(withOrder(whole, { form: "exr-index", scale: 2 }, forms)).toMatchObject({ hidden: "cut", scale: 2 });
    expect(withOrder(whole, { kind: "picture" }, forms)).toMatchObject({ hidden: "cut", form: "png" });
  });
  it.each([
    [{ kind: "picture" as const }, 1],
    [{ kind: "clip" as const }, 125],
    [{ kind: "clip" as const, start: 1, end: 2 }, 25],
    [{ kind: "frames" as const, end: 1, rate: "24000/1001" }, 24],
    [{ kind: "clip" as const, start: 1, end: 1.001 }, 1],
  ])("%o has %i frames", (order, count) => {
    expect(framesOf(wholeOrder(order), title())).toBe(count);
  });
  it.each([["25", 25], ["24000/1001", 24000 / 1001], ["fast", null], ["1/0", null], ["-3", null]])("reads the rate %s", (written, rate) => {
    expect(rateOf(written)).toBe(rate);
  });
});

describe("how it is told", () => {
  it.each([[999, "999 B"], [1500, "1.5 kB"], [12_345, "12 kB"], [3_400_000, "3.4 MB"], [7.2e12, "7.2 TB"], [9e18, "9000000 TB"]])("%d bytes", (bytes, said) => {
    expect(sizeTold(bytes)).toBe(said);
  });
  it.each([[0.2, "1 s"], [80, "80 s"], [600, "10 min"], [9000, "2.5 h"]])("%d seconds", (seconds, said) => {
    expect(timeTold(seconds)).toBe(said);
  });
  it("shows a title without what lies behind", () => {
    expect(hasBackdrop(title())).toBe(true);
    const bare = asOrdered(title(), { backdrop: false, plate: true });
    expect(bare.layers.map(({ visible }) => visible)).toEqual(title().layers.map(({ kind }) => kind !== "backdrop"));
  });
  it("leaves out the plate by itself", () => {
    const plate = { kind: "plate", id: "shot", visible: true } as Title["layers"][number];
    const shot = { ...title(), layers: [...title().layers, plate] };
    const shown = asOrdered(shot, { backdrop: true, plate: false });
    expect(shown.layers.map(({ visible }) => visible)).toEqual(shot.layers.map(({ kind }) => kind !== "plate"));
  });
  it.each([[4, "4.0 s"], [65, "1:05"], [3605, "1:00:05"]])("a clip of %d seconds", (seconds, said) => {
    expect(lengthTold(seconds)).toBe(said);
  });
  it.each([
    ["wall.webm", true], ["wall.png", false], ["flag.webp", false], ["flag.anim.webp", true], ["wall.####.png", true],
    ["wall#1.png", false], ["##/wall.png", false], ["a.##.b.##.png", false],
  ])("knows by its name whether %s moves", (name, moves) => {
    expect(isClip(name)).toBe(moves);
  });
});

const entry = (more: Partial<ExportState> = {}): ExportState => ({
  id: "a", name: "Kelp", order: wholeOrder(), state: "running", stopping: false, done: 3, all: 9, remaining: 4, fault: "",
  ending: ".webm", size: 0, asked_at: "2026-01-01", ...more,
});
const answer = (data: unknown, status = 200) => ({ data, response: { status } }) as never;

describe("the list", () => {
  let there: ExportState[];
  beforeEach(() => {
    vi.useFakeTimers();
    setActivePinia(createPinia());
    localStorage.clear();
    there = [];
    vi.spyOn(api, "GET").mockImplementation((() => Promise.resolve(answer(there))) as never);
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.restoreAllMocks();
  });
  const asking = () => vi.spyOn(api, "POST").mockResolvedValue(answer(entry({ id: "mine", state: "waiting" })));

  it("is asked for while it is looked at, sooner while something is made", async () => {
    const exports = useExports();
    exports.watchThem(true);
    await vi.advanceTimersByTimeAsync(3100);
    expect(api.GET).toHaveBeenCalledTimes(2);
    there = [entry()];
    await vi.advanceTimersByTimeAsync(3000);
    vi.mocked(api.GET).mockClear();
    await vi.advanceTimersByTimeAsync(2000);
    expect(vi.mocked(api.GET).mock.calls.length).toBeGreaterThanOrEqual(3);
    exports.watchThem(false);
    await vi.advanceTimersByTimeAsync(1000);
    vi.mocked(api.GET).mockClear();
    await vi.advanceTimersByTimeAsync(9000);
    expect(api.GET).not.toHaveBeenCalled();
  });
  it("gives what was asked for here as soon as it is done, once, also when nobody looks", async () => {
    const give = vi.spyOn(files, "give").mockReturnValue();
    asking();
    const exports = useExports();
    expect(await exports.ask(title(), wholeOrder({ kind: "clip", form: "webm" }))).toBeNull();
    there = [entry({ id: "mine" }), entry({ id: "another", state: "done" })];
    await vi.advanceTimersByTimeAsync(4000);
    expect(give).not.toHaveBeenCalled();
    there = [entry({ id: "mine", state: "done" })];
    await vi.advanceTimersByTimeAsync(9000);
    expect(give.mock.calls).toEqual([["/api/exports/mine/file", "Kelp.webm"]]);
    expect(useNotices().shown?.text).toBe(text.exports.ready("Kelp.webm"));
    expect(exports.last.form).toBe("webm");
  });
  it("says what is refused, and keeps the settings of before", async () => {
    vi.spyOn(api, "POST").mockResolvedValueOnce({ error: { message: "no room" } } as never).mockRejectedValueOnce(new TypeError());
    const exports = useExports();
    expect(await exports.ask(title(), wholeOrder({ form: "exr" }))).toBe("no room");
    expect(await exports.ask(title(), wholeOrder({ form: "exr" }))).toBe(text.error.network);
    expect(exports.last.form).toBe("png");
  });
  it("forgets what has failed, and waits for it again once it is taken up", async () => {
    const give = vi.spyOn(files, "give").mockReturnValue();
    asking();
    const exports = useExports();
    await exports.ask(title(), wholeOrder());
    there = [entry({ id: "mine", state: "failed", fault: "no" })];
    await vi.advanceTimersByTimeAsync(4000);
    there = [entry({ id: "mine", state: "done" })];
    await exports.load();
    expect(give).not.toHaveBeenCalled();
    await exports.again("mine");
    expect(give).toHaveBeenCalledOnce();
  });
  it("gives no estimate where another one was asked for meanwhile", async () => {
    const post = vi.spyOn(api, "POST").mockResolvedValueOnce(answer(undefined, 204)).mockResolvedValueOnce(answer({ frames: 1 }));
    const exports = useExports();
    const { signal } = new AbortController();
    expect(await exports.estimate(title(), wholeOrder(), signal)).toBeUndefined();
    expect(await exports.estimate(title(), wholeOrder(), signal)).toEqual({ frames: 1 });
    expect(post.mock.calls[0]![0]).toBe("/api/exports/estimate");
  });
});
