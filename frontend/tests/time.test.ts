// Time in the page: values are what the engine says they are, pegs, merging and frames.
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { api } from "@/api/client";
import { movingIn } from "@/model/parts";
import { valueAt, withValue } from "@/model/places";
import { coarseFirst } from "@/model/time/coarseFirst";
import { isLike, pegsFromText, pegsToText } from "@/model/time/copying";
import { easeName, eased, EASES, type Ease } from "@/model/time/easing";
import { FrameCache } from "@/model/time/frameCache";
import { frameKey } from "@/model/time/frameKeys";
import { merged } from "@/model/time/merging";
import { shaped } from "@/model/time/shaping";
import { standingAt, stillTime } from "@/model/time/standing";
import { pegAt, pegsOf, valueOver, withChangedPegs, withDrift, withoutPegs, withPeg, type Peg } from "@/model/time/varying";
import { inFrames, readTime, ticks } from "@/model/time/written";
import type { Title } from "@/model/title";
import { useCatalogue } from "@/stores/catalogue";
import { useClock } from "@/stores/clock";
import { useMotion } from "@/stores/motion";
import { usePegs } from "@/stores/pegs";
import { useTimeline } from "@/stores/timeline";
import { useBench } from "./bench";
import values from "./fixtures/values.json";
import { setting, step, title, told, toldModels } from "./documents";

const kindOf = (kind: string) => ({ kind, low: null, high: null });
const NUMBER = kindOf("number");
const moving = (...pegs: [number, unknown][]) => ({ pegs: pegs.map(([at, value]) => ({ at, value, ease: [0, 0, 1, 1] as Ease })) });

/** Numbers within a hair, everything else as it is. */
function near(found: unknown, wanted: unknown): void {
  if (typeof wanted === "number") expect(found).toBeCloseTo(wanted, 4);
  else if (typeof wanted === "object" && wanted !== null) {
    for (const [name, each] of Object.entries(wanted)) near((found as Record<string, unknown>)[name], each);
  } else expect(found).toBe(wanted);
}

describe("a value over time is the engine's own", () => {
  it.each(values.eases.map((each) => [JSON.stringify(each.ease), each] as const))("with the easing %s", (_, { ease, at }) => {
    at.forEach((wanted, i) => near(eased(ease as Ease, values.shares[i]!), wanted));
  });
  it.each(values.values.map((each, i) => [`${each.kind} ${i}`, each] as const))("as %s", (_, { kind, pegs, at }) => {
    at.forEach((wanted, i) => near(valueOver({ pegs: pegs as Peg[] }, values.times[i]!, kindOf(kind), null), wanted));
  });
  it.each(values.drift.map((each, i) => [`${each.kind} ${i}`, each] as const))("that drifts, as %s", (_, { kind, value, drift, loop, at }) => {
    at.forEach((wanted, i) => near(valueOver({ value, drift }, values.times[i]!, kindOf(kind), loop), wanted));
  });
  it("stays within the limits of its kind", () => {
    const past = { pegs: [{ at: 0, value: 0, ease: EASES.swingPast as Ease }, { at: 1, value: 1 }] };
    const all = Array.from({ length: 30 }, (_, i) => valueOver(past, i / 30, { kind: "fraction", low: 0, high: 1 }, null) as number);
    expect(Math.max(...all)).toBe(1);
  });
});

describe("pegs", () => {
  const line = moving([0, 10], [2, 30]);
  it("are set, changed and taken away", () => {
    const more = withPeg(line, 1, 99);
    expect(pegsOf(more).map((peg) => [peg.at, peg.value])).toEqual([[0, 10], [1, 99], [2, 30]]);
    expect(pegsOf(withPeg(more, 1.01, 5, undefined, 0.02)).map((peg) => peg.value)).toEqual([10, 5, 30]);
    expect(withoutPegs(more, [1], 0, NUMBER)).toEqual(line);
    expect(withoutPegs(line, [0, 1], 1, NUMBER)).toBeCloseTo(20);
    expect(pegAt(line, 2.00001)).toBe(1);
  });
  it("keep their order when they are moved past others, and give way to what is moved onto them", () => {
    const three = moving([0, 1], [1, 2], [2, 3]);
    const { value, which } = withChangedPegs(three, [0], (peg) => ({ ...peg, at: 1.5 }));
    expect(value.pegs!.map((peg) => peg.value)).toEqual([2, 1, 3]);
    expect(which).toEqual([1]);
    const onto = withChangedPegs(three, [0], (peg) => ({ ...peg, at: 1 }));
    expect(onto.value.pegs!.map((peg) => peg.value)).toEqual([1, 3]);
  });
  it("go to the clipboard and back, and nothing else comes from there", () => {
    const lanes = [{ kind: "length", pegs: line.pegs }];
    expect(pegsFromText(pegsToText(lanes))).toEqual(lanes);
    for (const other of ["", "[]", "{}", '{"mabrel_pegs":1,"lanes":[{"kind":"x","pegs":[{"at":"no"}]}]}']) {
      expect(pegsFromText(other)).toBeNull();
    }
  });
  it.each([
    [1.5, 0, true], [Number.NaN, 0, false], ["1", 0, false], [[1], 0, false], [null, 0, false],
    ["#fff", "#000", true], [null, "normal", true], [3, null, false],
    [[1, 2], [0, 0], true], [[1], [0, 0], false], [["a", 2], [0, 0], false], [1, [0, 0], false],
    [[{ place: 0 }, { place: 1 }], [{ place: 0 }, { place: 0.5 }, { place: 1 }], true],
    [[{ place: 0 }, {}], [{ place: 0 }, { place: 1 }], false],
    [[{ place: 0 }, null], [{ place: 0 }, { place: 1 }], false],
  ])("of %j go where the value is %j: %s", (value, example, fits) => {
    expect(isLike(value, example)).toBe(fits);
  });
  it("have drift beside them or none", () => {
    const drift = { amount: 1, rate: 1, seed: 0 };
    expect(withDrift(5, drift)).toEqual({ value: 5, drift });
    expect(withDrift(withDrift(5, drift), null)).toBe(5);
    expect(withDrift(line, drift)).toEqual({ ...line, drift });
  });
  it("are shaped by the hand: the line goes where it is dragged", () => {
    const even: Ease = [0, 0, 1, 1];
    const bent = shaped(even, 0.5, 0, 0.2);
    expect(eased(bent, 0.5)).toBeCloseTo(0.7, 1);
    expect(easeName(EASES.spring)).toBe("spring");
    expect(easeName([0.1, 0.2, 0.3, 0.4])).toBeNull();
  });
});

describe("times", () => {
  it.each([["2.5", 2.5], ["1:12", 1.48], ["(1+1)*2", 4], ["3 s", 3]])("%s is read", (words, time) => {
    expect(readTime(words, 25)).toBeCloseTo(time);
  });
  it("are refused where they are none", () => expect(readTime("soon", 25)).toBeNull());
  it("are written in frames", () => expect(inFrames(2.12, 25)).toBe("2:03"));
  it("have ticks that never crowd", () => {
    for (const perSecond of [2, 40, 160, 2000]) {
      const named = ticks(0, 700 / perSecond, perSecond, 25).filter((tick) => tick.label);
      expect(named.length).toBeGreaterThan(1);
      expect(named.length).toBeLessThan(14);
    }
  });
});

const entries = { "relief.inflate": { label: "Inflate", stage: "relief", settings: [setting("height", "number"), setting("map", "stops")] } };
function moved(): Title {
  let of = withValue(title(), ["layers", "word", "placement", "scale"], moving([0, 0], [1, 1]));
  of = withValue(of, ["layers", "word", "build", "inflate", "settings", "height"], moving([0, 1], [2, 3]));
  return withValue(of, ["lights", "key", "azimuth"], { value: 90, drift: { amount: 5, rate: 1, seed: 1 } });
}

describe("a title at a time", () => {
  it("has every value plain, and shares what does not move", () => {
    const document = moved();
    const now = standingAt(document, 0.5, told(entries));
    expect(valueAt(now, ["layers", "word", "placement", "scale"])).toBeCloseTo(0.5);
    expect(valueAt(now, ["layers", "word", "build", "inflate", "settings", "height"])).toBeCloseTo(1.5);
    expect(now.layers[0]).toBe(document.layers[0]);
    expect([...movingIn(document, told(entries))].map(({ part }) => part.label)).toEqual(["Key", "KELP", "Inflate"]);
  });
  it("takes changes as pegs where something moves, and as they are elsewhere", () => {
    const document = moved();
    const shown = standingAt(document, 0.5, told(entries));
    let next = withValue(shown, ["layers", "word", "placement", "scale"], 0.8);
    next = withValue(next, ["layers", "word", "placement", "x"], 40);
    const after = merged(document, shown, next, 0.5);
    expect(pegsOf(valueAt(after, ["layers", "word", "placement", "scale"])).map((peg) => [peg.at, peg.value])).toEqual([[0, 0], [0.5, 0.8], [1, 1]]);
    expect(valueAt(after, ["layers", "word", "placement", "x"])).toBe(40);
    expect(valueAt(after, ["lights", "key", "azimuth"])).toBe(valueAt(document, ["lights", "key", "azimuth"]));
  });
  it("keeps motion when layers and steps are moved, added and removed", () => {
    const document = moved();
    const shown = standingAt(document, 0.5, told(entries));
    const layers = [...shown.layers].reverse().map((layer) => ({ ...layer, build: [...layer.build, step("new", "light.shade")] }));
    const after = merged(document, shown, { ...shown, layers }, 0.5);
    expect(after.layers.map((layer) => layer.id)).toEqual(["word", "ground"]);
    expect(valueAt(after, ["layers", "word", "placement", "scale"])).toEqual(valueAt(document, ["layers", "word", "placement", "scale"]));
    expect(after.layers[0]!.build.at(-1)!.id).toBe("new");
  });
});

describe("frames", () => {
  const key = (of: Title, time: number) => frameKey(of, time, told(entries));
  it("are all of their own where a clip runs", () => {
    const plain = title();
    const shot = { ...plain.layers[1]!, kind: "picture", id: "shot", source: { picture: "wall.webm", height: 100 } };
    const running = { ...plain, layers: [...plain.layers, shot] } as unknown as Title;
    expect(key(running, 1)).not.toBe(key(running, 2));
    expect(key(plain, 1)).toBe(key(plain, 2));
    expect(stillTime(running, told(entries))).toBe(2.52);
    expect(stillTime(plain, told(entries))).toBe(0);
  });
  it("are the same picture where nothing has changed between them", () => {
    const still = withValue(moved(), ["lights", "key", "azimuth"], 90);
    expect(key(still, 2.5)).toBe(key(still, 4));
    expect(key(still, 0.5)).not.toBe(key(still, 0.6));
    expect(key({ ...still, name: "Another" }, 2.5)).toBe(key(still, 2.5));
  });
  it("that a change does not touch keep their key", () => {
    const before = withValue(moved(), ["lights", "key", "azimuth"], 90);
    const after = withValue(before, ["layers", "word", "build", "inflate", "settings", "height"], moving([0, 1], [1, 2], [2, 5], [3, 3]));
    expect(key(after, 0.5)).toBe(key(before, 0.5));
    expect(key(after, 1.5)).not.toBe(key(before, 1.5));
  });
  it("of letters in turn differ until the last has arrived", () => {
    const inTurn = { by: "letter", order: "forwards", seed: 1, delay: 0.5, about: "foot", x: 0, y: moving([0, -9], [1, 0]), turn: 0, scale: 1, opacity: 1 };
    const of = withValue(title(), ["layers", "word", "source", "in_turn"], inTurn);
    expect(key(of, 2)).not.toBe(key(of, 2.2));
    expect(key(of, 4.6)).toBe(key(of, 4.9));
  });
  it("in an open shutter are their own while something moves", () => {
    const of = { ...withValue(moved(), ["lights", "key", "azimuth"], 90), blur: { angle: 180, samples: 16, by_motion: true } };
    expect(key(of, 2.5)).toBe(key(of, 3));
    expect(key(of, 0.5)).not.toBe(key(of, 0.52));
  });
  it("stay within a stated memory, the oldest go first", () => {
    const image = () => ({ data: new Uint8ClampedArray(400), width: 10, height: 10 }) as ImageData;
    const cache = new FrameCache(1000);
    for (const [number, name] of ["a", "b", "c"].entries()) cache.put(name, image(), number);
    expect([cache.has("a"), cache.has("b"), cache.has("c")]).toEqual([false, true, true]);
    expect(cache.taken).toBe(800);
    cache.get("b");
    cache.put("d", image(), 3);
    expect([cache.has("b"), cache.has("c")]).toEqual([true, false]);
  });
});

describe("on the bench", () => {
  beforeEach(() => {
    setActivePinia(createPinia());
    localStorage.clear();
    useCatalogue().all = { models: toldModels, steps: [{ step: "relief.inflate", ...entries["relief.inflate"] }] } as never;
  });
  async function opened(document = title()) {
    vi.spyOn(api, "GET").mockResolvedValue({ data: { id: "t", version: 1, document }, response: { status: 200 } } as never);
    vi.spyOn(api, "PUT").mockResolvedValue({ data: { version: 2 }, response: { status: 200 } } as never);
    const bench = useBench();
    await bench.opened.open("t");
    return { ...bench, motion: useMotion(), clock: useClock(), timeline: useTimeline(), pegs: usePegs() };
  }
  const SCALE = ["layers", "word", "placement", "scale"];
  const scale = toldModels["placement"]!.find((each) => each.name === "scale")!;

  it("a peg button begins motion, a change at another time goes on with it, and it is stopped", async () => {
    const { motion, clock, opened: of } = await opened();
    expect(motion.stateOf(SCALE)).toBe("constant");
    motion.togglePeg(SCALE, scale);
    expect(motion.stateOf(SCALE)).toBe("pegged");
    clock.time = 1;
    expect(motion.stateOf(SCALE)).toBe("moving");
    motion.set(SCALE, 2);
    expect(pegsOf(motion.raw(SCALE)).map((peg) => [peg.at, peg.value])).toEqual([[0, 1], [1, 2]]);
    of.setLayer("word", { placement: { ...(of.title.layers[1] as { placement: object }).placement, scale: 3 } });
    expect(pegsOf(motion.raw(SCALE))[1]!.value).toBe(3);
    clock.time = 0.5;
    expect(Number(valueAt(of.title, SCALE))).toBeCloseTo(2, 1);
    motion.stop(SCALE, scale);
    expect(typeof motion.raw(SCALE)).toBe("number");
    of.undo();
    expect(motion.lanes).toHaveLength(1);
  });
  it("pegs of several lanes are moved, scaled in time, eased and deleted, each one step of undo", async () => {
    const { motion, timeline, pegs, opened: of } = await opened(moved());
    motion.chosen = [];
    pegs.chooseAll();
    expect(timeline.count).toBe(4);
    pegs.move(pegs.picked(), 1, (peg) => peg.value);
    of.endGesture();
    expect(pegsOf(motion.raw(SCALE)).map((peg) => peg.at)).toEqual([1, 2]);
    pegs.scale(pegs.picked(), [1, 3], [1, 5]);
    of.endGesture();
    expect(pegsOf(motion.raw(SCALE)).map((peg) => peg.at)).toEqual([1, 3]);
    pegs.ease("hold");
    expect(pegsOf(motion.raw(SCALE))[0]!.ease).toBe("hold");
    pegs.remove();
    expect(motion.lanes.map((lane) => lane.setting.name)).toEqual(["azimuth"]);
    for (let i = 0; i < 4; i += 1) of.undo();
    expect(pegsOf(motion.raw(SCALE)).map((peg) => peg.at)).toEqual([0, 1]);
  });
  it("walks from peg to peg and from frame to frame", async () => {
    const { motion, timeline, clock } = await opened(moved());
    expect(clock.time).toBeCloseTo(2.52); // where it stands
    clock.time = 0;
    expect(motion.pegBeside(1)).toBe(1);
    timeline.goTo(0.517);
    expect(clock.time).toBeCloseTo(0.52);
    timeline.stepBy(-10);
    expect(clock.time).toBeCloseTo(0.12);
    timeline.goTo(99);
    expect(clock.time).toBe(5);
  });
  it("the span in sight is zoomed about the pointer and fitted", async () => {
    const { timeline } = await opened();
    timeline.width = 516;
    timeline.zoom(0.5, timeline.x(2.5));
    expect(timeline.span).toBe(2.5);
    expect(timeline.timeAt(258)).toBeCloseTo(2.5);
    timeline.zoom(99, 100);
    expect(timeline.start).toBe(0);
  });
});

describe("the order in which a strip is made", () => {
  it("leaves nothing out and makes nothing twice", () => {
    for (const count of [0, 1, 2, 3, 7, 18, 64]) {
      const all = Array.from({ length: count }, (_, i) => i);
      expect([...coarseFirst(all)].sort((a, b) => a - b)).toEqual(all);
    }
  });
  it("comes near every place early: of eighteen, seven are within two of all others", () => {
    const all = Array.from({ length: 18 }, (_, i) => i);
    const first = coarseFirst(all).slice(0, 7);
    for (const place of all) expect(Math.min(...first.map((each) => Math.abs(each - place)))).toBeLessThanOrEqual(2);
  });
});
