// Editors' rules: curves, gradients, units, steps on the clipboard, finding steps.
import { describe, expect, it } from "vitest";
import { stepsAsText, stepsFromText } from "@/model/clipboard";
import { stopsAsCss, stopsFromCss } from "@/model/cssGradient";
import { curveFromText, simplified, valueAt } from "@/model/curve";
import { freshCut, withPick } from "@/model/cut";
import { coloursOf } from "@/model/palette";
import { sameUnit } from "@/model/same";
import { foundSteps } from "@/model/search";
import { shelved } from "@/model/shelf";
import type { StepEntry } from "@/model/title";
import { measured } from "@/model/units";
import { freshWhere } from "@/model/where";
import { step, title, told } from "./documents";

describe("units", () => {
  it.each([
    ["12", "px", 12], ["0.5em", "px", 150], ["10 %", "px", 30], ["12px*2", "px", null], ["2*3px", "px", 6],
    ["1rad", "°", 57.29577951308232], ["90deg", "°", 90], ["25 %", "%", 25], ["3em", "°", null], ["wide", "px", null],
  ])("%s in a field of %s", (words, unit, value) => expect(measured(words, unit, 300)).toBe(value));
  it("without letters knows no em", () => expect(measured("1em", "px")).toBeNull());
});

describe("a CSS gradient", () => {
  const stops = [
    { place: 0, colour: "#102030", midpoint: 0.25 },
    { place: 0.4, colour: "#ffffff", midpoint: 0.5 },
    { place: 1, colour: "#000000", midpoint: 0.5 },
  ];
  it("holds places and midpoints, there and back", () => {
    expect(stopsAsCss(stops)).toBe("linear-gradient(90deg, #102030 0%, 10%, #ffffff 40%, #000000 100%)");
    expect(stopsFromCss(stopsAsCss(stops))).toEqual(stops);
  });
  it("spreads what has no place, and knows rgb and names", () => {
    const found = stopsFromCss("linear-gradient(to right, gold, rgb(10, 20, 30), rgb(100% 0% 0% / 50%), white)");
    expect(found?.map((stop) => [stop.colour, stop.place])).toEqual([
      ["#ffd700", 0], ["#0a141e", 0.3333], ["#ff0000", 0.6667], ["#ffffff", 1],
    ]);
  });
  it("keeps hard edges in order", () => {
    const found = stopsFromCss("linear-gradient(#000 0% 50%, #fff 40% 100%)");
    expect(found?.map((stop) => stop.place)).toEqual([0, 0.5, 0.5, 1]);
  });
  it.each(["", "linear-gradient(#000)", "linear-gradient(#000, nonsense, #fff)", "hello"])("is not %j", (words) =>
    expect(stopsFromCss(words)).toBeNull(),
  );
});

describe("a curve", () => {
  it("goes through its points and never overshoots", () => {
    const points: [number, number][] = [[0, 0], [0.25, 1], [0.5, 0.08], [1, 0.1]];
    for (const [x, y] of points) expect(valueAt(points, x)).toBeCloseTo(y, 6);
    for (let x = 0; x <= 1; x += 0.01) expect(valueAt(points, x)).toBeLessThanOrEqual(1 + 1e-9);
  });
  it("is typed as pairs, in shares, per cent or levels", () => {
    expect(curveFromText("0 0, 0.5 0.8, 1 1")).toEqual([[0, 0], [0.5, 0.8], [1, 1]]);
    expect(curveFromText("[[0,1],[1,0]]")).toEqual([[0, 1], [1, 0]]);
    expect(curveFromText("0/0 51/255 255/0".replaceAll("/", " "))).toEqual([[0, 0], [0.2, 1], [1, 0]]);
    for (const wrong of ["0 0", "0 0 1", "0 0, 0 1", "words"]) expect(curveFromText(wrong), wrong).toBeNull();
  });
  it("that was drawn becomes few points", () => {
    const drawn = Array.from({ length: 200 }, (_, i): [number, number] => [i / 199, Math.abs((i / 199) * 2 - 1)]);
    const few = simplified(drawn);
    expect(few.length).toBeLessThan(12);
    for (const [x, y] of drawn) expect(Math.abs(valueAt(few, x) - y)).toBeLessThan(0.021);
  });
  it("drawn backwards counts from left to right", () => {
    const back: [number, number][] = [[1, 0.2], [0.5, 0.9], [0, 0.1]];
    expect(simplified(back).map(([x]) => x)).toEqual([0, 0.5, 1]);
  });
});

const entry = (kind: string, settings: object[] = [], words = ""): StepEntry =>
  ({ step: kind, stage: kind.split(".")[0], label: kind.split(".")[1], help: "", words, reads: [], writes: [], lit: false, settings }) as never;
const setting = (name: string, kind: string, more: object = {}) => ({ name, label: name, kind, unit: "", default: "", ...more });
const known: Record<string, StepEntry> = {
  "light.shade": entry("light.shade", [setting("relief", "step"), setting("which", "light")], "gloss, plastic"),
  "relief.inflate": entry("relief.inflate", [setting("height", "number", { default: 1 })], "puffy, balloon"),
  "tone.gradient_map": entry("tone.gradient_map"),
  "surface.picture": entry("surface.picture", [setting("picture", "image", { default: "shipped/a.png" })]),
  "relief.bevel": entry("relief.bevel", [setting("width", "length", { unit: "px", default: 28 })], "rim, carved"),
};
const entryOf = (kind: string) => known[kind];

describe("steps on the clipboard", () => {
  let count = 0;
  const newId = () => `new-${++count}`;

  it("come back with ids of their own that still refer to one another", () => {
    const text = stepsAsText([step("rim", "relief.bevel"), step("lit", "light.shade", { relief: "rim" })]);
    const found = stepsFromText(text, title(), entryOf, newId);
    expect(found).toMatchObject([{ step: "relief.bevel" }, { step: "light.shade" }]);
    const [rim, lit] = found as ReturnType<typeof step>[];
    expect(lit!.settings.relief).toBe(rim!.id);
    expect(rim!.id).not.toBe("rim");
  });
  it("lose what is not there in the other title", () => {
    const shade = step("lit", "light.shade", { relief: "gone", which: "no-light" });
    const picture = { ...step("p", "surface.picture", { picture: "layer:gone" }), where: { kind: "matte", layer: "gone", inverted: false } };
    const found = stepsFromText(stepsAsText([shade, picture as never]), title(), entryOf, newId) as ReturnType<typeof step>[];
    expect(found.map((each) => each.settings)).toEqual([{}, {}]);
    expect(found[1]!.where).toBeNull();
  });
  it.each([["no JSON", "none"], ["{}", "none"], ['{"mabrel_steps":1,"steps":[7]}', "none"]])("are not %j", (words, said) =>
    expect(stepsFromText(words, title(), entryOf, newId)).toBe(said),
  );
  it("of an unknown kind are refused", () => {
    expect(stepsFromText(stepsAsText([step("x", "tone.nothing")]), title(), entryOf, newId)).toBe("unknown");
  });
});

describe("finding", () => {
  it("a step looks at names first, then at needs", () => {
    const all = Object.values(known);
    expect(foundSteps(all, "puffy").map((each) => each.step)).toEqual(["relief.inflate"]);
    expect(foundSteps(all, "re").map((each) => each.step)[0]).toBe("surface.picture");
    expect(foundSteps(all, "relief carved").map((each) => each.step)).toEqual(["relief.bevel"]);
    expect(foundSteps(all, "nothing like it")).toEqual([]);
  });
  it("another setting looks at the unit", () => {
    const document = title();
    document.layers[1]!.build.push(step("rim", "relief.bevel", { width: 12 }));
    expect(sameUnit(document, "px", entryOf)).toMatchObject([{ layer: "KELP", step: "bevel", label: "width", value: 12 }]);
    expect(sameUnit(document, "°", entryOf)).toEqual([]);
  });
  it("colours gives each once", () => {
    const document = title();
    document.layers[1]!.build[2]!.settings = { stops: [{ place: 0, colour: "#AABBCC" }, { place: 1, colour: "#aabbcc" }] };
    expect(coloursOf(document)).toEqual(["#ffffff", "#333333", "#aabbcc"]);
  });
  it("titles stand by series, in order", () => {
    const one = (name: string, series: string, changed_at: string) => ({ id: name, name, series, changed_at, width: 1, height: 1 });
    const titles = [one("Buoy 10", "Ferry", "2"), one("Buoy 2", "Ferry", "3"), one("Kelp", "", "1")];
    expect(shelved(titles, "", "name").map((each) => [each.name, each.titles.map((t) => t.name)])).toEqual([
      ["", ["Kelp"]], ["Ferry", ["Buoy 2", "Buoy 10"]],
    ]);
    expect(shelved(titles, "ferry", "changed")[0]!.titles.map((t) => t.name)).toEqual(["Buoy 2", "Buoy 10"]);
    expect(shelved(titles, "nothing", "name")).toEqual([]);
  });
});

describe("fresh forms", () => {
  const box = { left: -200, top: -50, right: 200, bottom: 50 };
  it("of where fit the lettering", () => {
    expect(freshWhere("ellipse", box, "")).toMatchObject({ x: 0, y: 0, width: 240, height: 90 });
    expect((freshWhere("polygon", box, "") as { points: number[][] }).points).toHaveLength(4);
    expect(freshWhere("matte", box, "word")).toMatchObject({ layer: "word" });
    expect(freshWhere("everywhere", box, "")).toBeNull();
  });
  it("of a cut gather picks", () => {
    const cut = withPick(freshCut("colours", told()), { x: 1.2, y: 0.33333 }, told());
    expect(cut).toMatchObject({ kind: "colours", picks: [{ x: 1, y: 0.333 }] });
    expect((withPick(cut, { x: 0, y: 0 }, told()) as { picks: unknown[] }).picks).toHaveLength(2);
    expect(withPick(freshCut("screen", told()), { x: 0, y: 0 }, told())).toMatchObject({ kind: "colours", picks: [{ x: 0, y: 0 }] });
    expect(freshCut("none", told())).toBeNull();
  });
});
