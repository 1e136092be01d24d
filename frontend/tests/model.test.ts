// The model: sums, colours, light, and changes to a document.
import { describe, expect, it } from "vitest";
import { calculate } from "@/model/arithmetic";
import { asCode, channels, colourAt, folded, gradientCss } from "@/model/colour";
import { lightFromTip, rigged, shadowTip, unrigged } from "@/model/light";
import {
  constant, counts, frontLettering, isVarying, moved, numberOf, settingOf, withBuild, withLight,
  withSetting, withStep, type StepEntry,
} from "@/model/title";
import { step, title } from "./documents";

describe("sums in number fields", () => {
  it.each([
    ["12*1.5", 18],
    ["12×1.5", 18],
    ["(100-4)/2", 48],
    ["-3 + 10", 7],
    ["2*-3", -6],
    ["1,5", 1.5],
    ["− 4", -4],
    ["1e3", 1000],
    [".5", 0.5],
    ["10 - 4 - 3", 3],
    ["12 / 4 / 3", 1],
  ])("%s is %d", (words, value) => expect(calculate(words)).toBeCloseTo(value));

  it.each(["", "much", "12*", "(1", "1)", "1/0", "1 2", "alert(1)", "--"])(
    "%s is no sum",
    (words) => expect(calculate(words)).toBeNull(),
  );
});

describe("colour codes", () => {
  it("are taken with and without #, short and long", () => {
    expect(asCode("B4471F")).toBe("#b4471f");
    expect(asCode(" #abc ")).toBe("#aabbcc");
    expect(asCode("#11223344")).toBe("#11223344");
  });
  it.each(["red", "#12", "#gggggg", "", "#1234567"])("%s is none", (words) =>
    expect(asCode(words)).toBeNull(),
  );
  it("come apart into channels", () => expect(channels("#ff8000")).toEqual([255, 128, 0]));
});

describe("gradients", () => {
  const stops = [
    { place: 0, colour: "#000000", midpoint: 0.5 },
    { place: 0.5, colour: "#ffffff", midpoint: 0.25 },
    { place: 1, colour: "#000000", midpoint: 0.5 },
  ];
  it("mix evenly up to their midpoint", () => {
    expect(colourAt(stops, 0.25)).toBe("#808080");
    expect(colourAt(stops, 0.625)).toBe("#808080"); // a quarter of the way: its midpoint
  });
  it("rest before the first stop and after the last", () => {
    expect(colourAt(stops.slice(1, 2), 0)).toBe("#ffffff");
    expect(colourAt(stops, 1)).toBe("#000000");
  });
  it("run there and back again through slide and repeats", () => {
    expect(folded(0.3)).toBeCloseTo(0.3);
    expect(folded(0.75, 0, 2)).toBeCloseTo(0.5);
    expect(folded(0.2, 0.9)).toBeCloseTo(0.9);
    expect(folded(0, -0.3)).toBeCloseTo(0.3);
  });
  it("become CSS", () => {
    expect(gradientCss(stops)).toMatch(/^linear-gradient\(to right, #000000 0.00%.*#000000 100.00%\)$/);
  });
});

describe("the gnomon", () => {
  it.each([
    { azimuth: 225, elevation: 45 },
    { azimuth: 10, elevation: 20 },
    { azimuth: 90, elevation: 70 },
    { azimuth: 359.5, elevation: 33.3 },
  ])("gives back the light of its own shadow: %o", (light) => {
    const [x, y] = shadowTip(light, 34);
    const back = lightFromTip(x, y, 34);
    expect(back.azimuth).toBeCloseTo(light.azimuth, 0);
    expect(back.elevation).toBeCloseTo(light.elevation, 0);
  });
  it("throws its shadow away from the light", () => {
    const [x, y] = shadowTip({ azimuth: 225, elevation: 45 }, 34);
    expect(x).toBeCloseTo(24.04, 1);
    expect(y).toBeCloseTo(24.04, 1);
  });
  it.each([
    { turn: 40, raised: 0 },
    { turn: 0, raised: 35 },
    { turn: -120, raised: 70 },
  ])("shows a light as the rig turned it, and sets it back: %o", (rig) => {
    const light = { azimuth: 225, elevation: 45 };
    const back = unrigged(rigged(light, rig), rig);
    expect(back.azimuth).toBeCloseTo(225, 0);
    expect(back.elevation).toBeCloseTo(45, 0);
  });
  it("turns with the rig about the viewer's axis, and is raised to the front", () => {
    expect(rigged({ azimuth: 10, elevation: 30 }, { turn: 50, raised: 0 })).toEqual({ azimuth: 60, elevation: 30 });
    expect(rigged({ azimuth: 90, elevation: 0 }, { turn: 0, raised: 90 }).elevation).toBe(90);
  });
  it("has no shadow under a light straight above", () => {
    expect(Math.hypot(...shadowTip({ azimuth: 0, elevation: 90 }, 34))).toBeLessThan(0.1);
    expect(lightFromTip(0, 0, 34).elevation).toBe(90);
  });
});

describe("a document", () => {
  const document = title();

  it("is never changed in place", () => {
    const before = JSON.stringify(document);
    withSetting(document, "inflate", "height", 2);
    withStep(document, "shade", (each) => ({ ...each, on: false }));
    withBuild(document, "word", []);
    withLight(document, "key", { azimuth: 1 });
    expect(JSON.stringify(document)).toBe(before);
  });
  it("shares what a change leaves alone", () => {
    const changed = withSetting(document, "inflate", "height", 2);
    expect(changed.layers[0]).toBe(document.layers[0]);
    expect(changed.layers[1]!.build[1]).toBe(document.layers[1]!.build[1]);
    expect(changed.layers[1]!.build[0]!.settings.height).toBe(2);
  });
  it("has its lettering in front", () => expect(frontLettering(document)?.id).toBe("word"));
  it("moves one entry of a list", () => {
    expect(moved([1, 2, 3, 4], 0, 2)).toEqual([2, 3, 1, 4]);
    expect(moved([1, 2, 3, 4], 3, 0)).toEqual([4, 1, 2, 3]);
  });
});

describe("values over time", () => {
  it("are told from constant ones", () => {
    expect(isVarying({ pegs: [] })).toBe(true);
    expect(isVarying({ value: 1, drift: {} })).toBe(true);
    for (const plain of [1, "#fff", [1, 2], null, { place: 0 }]) expect(isVarying(plain)).toBe(false);
  });
  it("show their first peg, or what they drift around", () => {
    expect(constant({ pegs: [{ value: 3 }, { value: 5 }] })).toBe(3);
    expect(constant({ value: 7, drift: {} })).toBe(7);
    expect(numberOf({ pegs: [{ value: 3 }] })).toBe(3);
    expect(numberOf("no number", 4)).toBe(4);
  });
});

describe("settings", () => {
  const entry = {
    settings: [
      { name: "light", default: "rig" },
      { name: "azimuth", default: 225, when: { light: "own" } },
    ],
  } as unknown as StepEntry;
  const [light, azimuth] = entry.settings as [StepEntry["settings"][number], StepEntry["settings"][number]];

  it("take their default where a document leaves them out", () => {
    expect(settingOf(step("shade", "light.shade"), azimuth)).toBe(225);
    expect(settingOf(step("shade", "light.shade", { azimuth: 10 }), azimuth)).toBe(10);
  });
  it("count only beside the values that they depend on", () => {
    expect(counts(step("shade", "light.shade"), entry, azimuth)).toBe(false);
    expect(counts(step("shade", "light.shade", { light: "own" }), entry, azimuth)).toBe(true);
    expect(counts(step("shade", "light.shade"), entry, light)).toBe(true);
  });
});
