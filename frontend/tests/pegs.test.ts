// Acts on pegs: chosen, moved, scaled in time, eased, copied and pasted; and the span that is looked at.
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { api } from "@/api/client";
import type { Peg } from "@/model/time/varying";
import type { Title } from "@/model/title";
import { useArrivals, type ArrivalEntry } from "@/stores/arrivals";
import { useCatalogue } from "@/stores/catalogue";
import { useClock } from "@/stores/clock";
import { useMotion } from "@/stores/motion";
import { useNotices } from "@/stores/notices";
import { usePegs } from "@/stores/pegs";
import { EDGE, useTimeline } from "@/stores/timeline";
import { text } from "@/text";
import { useBench } from "./bench";
import { title, toldModels } from "./documents";

const SCALE = ["layers", "word", "placement", "scale"];
const TURN = ["layers", "word", "placement", "turn_z"];
const EVEN = [0, 0, 1, 1] as [number, number, number, number];
const peg = (at: number, value: unknown): Peg => ({ at, value, ease: EVEN });

/** A word whose scale moves from 0 to 1 s and whose turn moves from 1 to 3 s. */
function moving(): Title {
  const plain = title();
  return {
    ...plain,
    layers: plain.layers.map((each) =>
      each.id === "word" && "placement" in each
        ? {
            ...each,
            placement: {
              ...each.placement,
              scale: { pegs: [peg(0, 0), peg(0.4, 1.2), peg(1, 1)] },
              turn_z: { pegs: [peg(1, 10), peg(3, 0)] },
            },
          }
        : each),
  } as Title;
}
async function opened(document = moving()) {
  vi.spyOn(api, "GET").mockResolvedValue({ data: { id: "t", version: 1, document }, response: { status: 200 } } as never);
  vi.spyOn(api, "PUT").mockResolvedValue({ data: { version: 2 }, response: { status: 200 } } as never);
  const { opened: of } = useBench();
  await of.open("t");
  const [pegs, motion, timeline, clock] = [usePegs(), useMotion(), useTimeline(), useClock()];
  clock.time = 0;
  timeline.width = 500 + 2 * EDGE;
  const key = (place: string[]) => motion.lanes.find((lane) => lane.place.join("/") === place.join("/"))!.key;
  const keys = { scale: key(SCALE), turn: key(TURN) };
  const now = (place: string[]) => (motion.raw(place) as { pegs: Peg[] }).pegs;
  const pairs = (place: string[]) => now(place).map(({ at, value }) => [at, value]);
  return { of, pegs, motion, timeline, clock, keys, now, pairs };
}
let clipboard = "";

beforeEach(() => {
  vi.restoreAllMocks();
  setActivePinia(createPinia());
  localStorage.clear();
  clipboard = "";
  vi.stubGlobal("navigator", {
    ...navigator,
    clipboard: {
      writeText: (words: string) => Promise.resolve(void (clipboard = words)),
      readText: () => Promise.resolve(clipboard),
    },
  });
  useCatalogue().all = { models: toldModels, steps: [] } as never;
});

describe("chosen pegs", () => {
  it("move together, by as many frames, and are one undo", async () => {
    const { of, pegs, timeline, keys, pairs } = await opened();
    timeline.choosePeg(keys.scale, 2, false);
    timeline.choosePeg(keys.turn, 0, true);
    pegs.nudge(5, 0);
    expect(pairs(SCALE)).toEqual([[0, 0], [0.4, 1.2], [1.2, 1]]);
    expect(pairs(TURN)).toEqual([[1.2, 10], [3, 0]]);
    of.undo();
    expect([pairs(SCALE)[2], pairs(TURN)[0]]).toEqual([[1, 1], [1, 10]]);
  });
  it("stay chosen when one passes another", async () => {
    const { pegs, timeline, keys, pairs } = await opened();
    timeline.choosePeg(keys.scale, 1, false);
    pegs.nudge(20, 0);
    expect(pairs(SCALE).map(([at]) => at)).toEqual([0, 1, 1.2]);
    expect(timeline.pegs).toEqual({ [keys.scale]: [2] });
  });
  it("go up and down by a hundredth of what is usual, and no further than the limits", async () => {
    const { pegs, timeline, keys, now } = await opened();
    timeline.choosePeg(keys.scale, 0, false);
    pegs.nudge(0, 1);
    expect(now(SCALE)[0]!.value).toBeCloseTo(0.03, 6);
    pegs.nudge(0, -500);
    expect(now(SCALE)[0]!.value).toBe(0);
  });
  it("never go before the beginning", async () => {
    const { pegs, timeline, keys, pairs } = await opened();
    timeline.choosePeg(keys.turn, 0, false);
    pegs.nudge(-100, 0);
    expect(pairs(TURN)[0]).toEqual([0, 10]);
  });
  it("are scaled in time about the end that stays", async () => {
    const { pegs, keys, timeline, pairs } = await opened();
    timeline.pegs = { [keys.scale]: [0, 1, 2] };
    pegs.scale(pegs.picked(), [0, 1], [0, 2]);
    expect(pairs(SCALE).map(([at]) => at)).toEqual([0, 0.8, 2]);
  });
  it("take one easing", async () => {
    const { pegs, timeline, keys, now } = await opened();
    timeline.pegs = { [keys.scale]: [0, 1] };
    pegs.ease("hold");
    expect(now(SCALE).map(({ ease }) => ease)).toEqual(["hold", "hold", EVEN]);
  });
  it("are removed; the last one leaves its value", async () => {
    const { motion, pegs, timeline, keys, pairs } = await opened();
    timeline.pegs = { [keys.turn]: [0], [keys.scale]: [0, 1, 2] };
    pegs.remove();
    expect(pairs(TURN)).toEqual([[3, 0]]);
    expect(motion.raw(SCALE)).toBe(0);
    expect(timeline.count).toBe(0);
  });
  it("can all be chosen, of the chosen lanes or of every one", async () => {
    const { motion, pegs, timeline, keys } = await opened();
    pegs.chooseAll();
    expect(timeline.count).toBe(5);
    motion.chosen = [keys.turn];
    pegs.chooseAll();
    expect(timeline.pegs).toEqual({ [keys.turn]: [0, 1] });
  });
});

describe("a lane", () => {
  it("gets a peg on the frame that is meant, with the value that it has there", async () => {
    const { pegs, motion, timeline, keys, pairs } = await opened();
    const lane = motion.lanes.find(({ key }) => key === keys.turn)!;
    pegs.add(lane, 2.013);
    expect(pairs(TURN)[1]![0]).toBe(2);
    expect(pairs(TURN)[1]![1]).toBeCloseTo(5, 6);
    expect(timeline.pegs).toEqual({ [keys.turn]: [1] });
  });
  it("drifts, and stops drifting", async () => {
    const { pegs, motion, keys } = await opened();
    const lane = () => motion.lanes.find(({ key }) => key === keys.turn)!;
    pegs.drift(lane(), { amount: 3, rate: 1, seed: 1 } as never);
    expect(lane().value.drift).toMatchObject({ amount: 3 });
    pegs.drift(lane(), null);
    expect(lane().value.drift ?? null).toBeNull();
  });
  it("is asked for the peg before and after now", async () => {
    const { clock, motion, keys } = await opened();
    clock.time = 1;
    expect([motion.pegBeside(-1), motion.pegBeside(1)]).toEqual([0.4, 3]);
    motion.chosen = [keys.turn];
    expect(motion.pegBeside(-1)).toBeNull();
  });
});

describe("pegs on the clipboard", () => {
  it("come in at now, in the lanes that are chosen", async () => {
    const { pegs, motion, clock, timeline, keys, pairs } = await opened();
    timeline.pegs = { [keys.scale]: [0, 1] };
    await pegs.copy();
    clock.time = 2;
    motion.chosen = [keys.scale];
    await pegs.paste();
    expect(pairs(SCALE)).toEqual([[0, 0], [0.4, 1.2], [1, 1], [2, 0], [2.4, 1.2]]);
    expect(timeline.pegs).toEqual({ [keys.scale]: [3, 4] });
  });
  it("of one number fit another, within its limits", async () => {
    const { pegs, motion, clock, timeline, keys, pairs } = await opened();
    timeline.pegs = { [keys.turn]: [0] };
    await pegs.copy();
    clock.time = 4;
    motion.chosen = [keys.scale];
    await pegs.paste();
    expect(pairs(SCALE).at(-1)).toEqual([4, 10]);
  });
  const lane = (peg: string) => `{"mabrel_pegs":1,"lanes":[{"kind":"length","pegs":[${peg}]}]}`;
  it.each([
    "words",
    '{"mabrel_pegs":1,"lanes":[{"kind":"length","pegs":"all"}]}',
    lane("null"),
    lane('{"at":"now"}'),
    lane('{"at":-1,"value":1}'),
    lane('{"at":1e9,"value":1}'),
    lane('{"at":1,"value":[[1]]}'),
    lane('{"at":1,"value":"1"}'),
    lane('{"at":1,"value":1,"ease":"fast"}'),
    lane('{"at":1,"value":1,"ease":{"bounce":1000000000}}'),
    lane('{"at":1,"value":1,"ease":[0,0,1]}'),
  ])(
    "says that %s is none", async (words) => {
      const { of, pegs, motion, keys } = await opened();
      clipboard = words;
      motion.chosen = [keys.scale];
      const before = of.document;
      await pegs.paste();
      expect([useNotices().shown?.text, of.document === before]).toEqual([text.timing.notPegs, true]);
    });
  it("asks where to", async () => {
    const { pegs, motion, timeline, keys } = await opened();
    timeline.pegs = { [keys.scale]: [0] };
    await pegs.copy();
    motion.chosen = [];
    await pegs.paste();
    expect(useNotices().shown?.text).toBe(text.timing.pasteWhere);
  });
});

describe("a peg that is typed", () => {
  it("stays within what its setting and time allow", async () => {
    const { pegs, motion, keys, pairs } = await opened();
    const turn = () => motion.lanes.find(({ key }) => key === keys.turn)!;
    pegs.setValue(turn(), 0, 1e300);
    expect(pairs(TURN)[0]).toEqual([1, turn().setting.high]);
    pegs.setTime(turn(), 1, 1e9);
    expect(pairs(TURN)[1]).toEqual([86_400, 0]);
    pegs.setTime(turn(), 1, -3);
    expect(pairs(TURN)[0]).toEqual([0, 0]);
  });
});

describe("the span in sight", () => {
  it("is all of it, and a pixel is a moment", async () => {
    const { timeline } = await opened();
    expect([timeline.x(0), timeline.x(5), timeline.timeAt(EDGE + 250)]).toEqual([EDGE, EDGE + 500, 2.5]);
  });
  it("zooms about the pointer, not nearer than four frames, not wider than the title", async () => {
    const { timeline } = await opened();
    const pixel = timeline.x(2);
    timeline.zoom(0.5, pixel);
    expect([timeline.span, timeline.timeAt(pixel)]).toEqual([2.5, 2]);
    timeline.zoom(1e-6, pixel);
    expect(timeline.span).toBeCloseTo(0.16, 9);
    timeline.zoom(1e6, pixel);
    expect([timeline.span, timeline.start, timeline.view.span]).toEqual([5, 0, null]);
  });
  it("is moved no further than its ends", async () => {
    const { timeline } = await opened();
    timeline.pan(100);
    expect(timeline.start).toBe(0); // all of it is in sight
    timeline.zoom(0.5, timeline.x(0));
    timeline.pan(100);
    expect(timeline.start).toBeCloseTo(0.5, 9);
    timeline.pan(1e6);
    expect(timeline.start).toBe(2.5);
  });
  it("draws what is near to a mark to it, unless it is to be free", async () => {
    const { timeline } = await opened();
    expect(timeline.snapped(1.04, false)).toBe(1); // a whole second
    expect(timeline.snapped(1.55, false)).toBe(1.56); // a frame
    expect(timeline.snapped(1.57, false, [1.6])).toBe(1.6); // another peg
    expect(timeline.snapped(1.04321, true)).toBe(1.0432);
    expect(timeline.snapped(-3, false)).toBe(0);
  });
  it("goes by frames and stays within the title", async () => {
    const { timeline, clock } = await opened();
    timeline.goTo(1.013);
    expect(clock.time).toBe(1);
    timeline.stepBy(-10);
    expect(clock.time).toBe(0.6);
    timeline.goTo(99);
    expect(clock.time).toBe(5);
  });
});

describe("laying an arrival", () => {
  const entry = { name: "fades", label: "Fades", way: "arrival", length: 1, own: false, help: "" } as ArrivalEntry;
  const asked = () => {
    const post = vi.spyOn(api, "POST").mockResolvedValue({ data: moving(), response: { status: 200 } } as never);
    return () => post.mock.calls[0]![1] as { body: Record<string, unknown> };
  };
  it("begins with the title; run back it ends with it", async () => {
    const { clock, timeline } = await opened();
    const body = asked();
    clock.time = 3;
    await useArrivals().lay(entry, "word", false);
    expect(body().body).toMatchObject({ arrival: "fades", layer: "word", at: 0, length: 1, run_back: false });
    expect([timeline.tab, clock.time]).toEqual(["timing", 0]);
    vi.restoreAllMocks();
    const back = asked();
    await useArrivals().lay(entry, "word", true);
    expect(back().body).toMatchObject({ at: 4, run_back: true });
  });
  it("is no longer than the title", async () => {
    await opened();
    const body = asked();
    await useArrivals().lay({ ...entry, length: 60 }, "word", false);
    expect(body().body).toMatchObject({ at: 0, length: 5 });
  });
  it("says what was wrong, and changes nothing", async () => {
    const { of, timeline } = await opened();
    vi.spyOn(api, "POST").mockResolvedValue({ error: { message: "no such layer" }, response: { status: 422 } } as never);
    const before = of.document;
    await useArrivals().lay(entry, "word", false);
    expect([useNotices().shown?.text, of.document === before, timeline.tab]).toEqual(["no such layer", true, "section"]);
  });
  it("keeps no file that is none", async () => {
    const post = vi.spyOn(api, "POST");
    await useArrivals().take(new File(["{broken"], "own.arrival.json"));
    expect(post).not.toHaveBeenCalled();
    expect(useNotices().shown?.text).toBe(text.arrivals.broken("own.arrival.json"));
  });
});
