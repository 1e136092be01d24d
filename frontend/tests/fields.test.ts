// The controls of the settings.
import { mount } from "@vue/test-utils";
import { describe, expect, it } from "vitest";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import ColourField from "@/components/fields/ColourField.vue";
import CurveField from "@/components/fields/CurveField.vue";
import NumberField from "@/components/fields/NumberField.vue";
import PointField from "@/components/fields/PointField.vue";
import SettingField from "@/components/fields/SettingField.vue";
import StopsField from "@/components/fields/StopsField.vue";
import type { StepSetting } from "@/model/title";

const stubs = { VSlider: true, VSelect: true };
const last = (wrapper: { emitted: () => Record<string, unknown[][]> }, event = "update:modelValue") =>
  wrapper.emitted()[event]?.at(-1)?.[0];

describe("a number", () => {
  const make = (more: object = {}) =>
    mount(NumberField, {
      props: { label: "Width", modelValue: 20, low: 0, high: 100, unit: "px", standard: 28, ...more },
      global: { stubs },
    });
  async function type(field: ReturnType<typeof make>, words: string) {
    await field.get("input").setValue(words);
    await field.get("input").trigger("blur");
    return last(field);
  }

  it("takes typed sums", async () => expect(await type(make(), "12*1.5")).toBe(18));
  it("is held within its limits", async () => {
    expect(await type(make(), "900")).toBe(100);
    expect(await type(make(), "-4")).toBe(0);
  });
  it("keeps what it had where the words are no sum", async () => {
    const field = make();
    expect(await type(field, "wide")).toBeUndefined();
    expect(field.get("input").element.value).toBe("20");
  });
  it("is shown and typed in per cent where it is a share", async () => {
    const field = make({ modelValue: 0.25, high: 1, unit: "%" });
    expect(field.get("input").element.value).toBe("25");
    expect(await type(field, "40 %")).toBe(0.4);
  });
  it("is nudged by arrow keys, by ten with Shift", async () => {
    const field = make();
    await field.get("input").trigger("keydown.up");
    expect(last(field)).toBe(20.1);
    await field.get("input").trigger("keydown.down", { shiftKey: true });
    expect(last(field)).toBe(19);
  });
  it("goes back to its default on a double click", async () => {
    const field = make();
    await field.get(".label").trigger("dblclick");
    expect(last(field)).toBe(28);
  });
  it("is whole where it counts something", async () => {
    expect(await type(make({ whole: true }), "7/2")).toBe(4);
  });
});

describe("a colour", () => {
  it("takes pasted codes and refuses others", async () => {
    const field = mount(ColourField, { props: { label: "Colour", modelValue: "#112233" } });
    await field.get(".code").setValue("abc");
    await field.get(".code").trigger("blur");
    expect(last(field)).toBe("#aabbcc");
    await field.get(".code").setValue("blue");
    await field.get(".code").trigger("blur");
    expect(field.emitted()["update:modelValue"]).toHaveLength(1);
  });
  it("keeps its opacity when it is picked", async () => {
    const field = mount(ColourField, { props: { label: "Colour", modelValue: "#11223380" } });
    await field.get("input[type=color]").setValue("#ff0000");
    expect(last(field)).toBe("#ff000080");
  });
});

describe("a choice", () => {
  it("of few stands side by side", async () => {
    const field = mount(ChoiceField, { props: { label: "Mix", modelValue: "srgb", choices: ["srgb", "oklab"] }, global: { stubs } });
    expect(field.findAll("[role=radio]").map((each) => each.text())).toEqual(["sRGB", "OKLab"]);
    await field.findAll("[role=radio]")[1]!.trigger("click");
    expect(last(field)).toBe("oklab");
  });
});

describe("a point", () => {
  it("is typed axis by axis", async () => {
    const field = mount(PointField, { props: { label: "Point", modelValue: [10, 20] as [number, number] } });
    await field.findAll("input")[1]!.setValue("20/4");
    await field.findAll("input")[1]!.trigger("blur");
    expect(last(field)).toEqual([10, 5]);
  });
});

describe("a curve", () => {
  const points: [number, number][] = [[0, 0], [0.5, 0.8], [1, 1]];
  const make = () => mount(CurveField, { props: { label: "Profile", modelValue: points } });

  it("loses a point on a double click but keeps two", async () => {
    const field = make();
    await field.findAll("circle")[1]!.trigger("dblclick");
    expect(last(field)).toEqual([[0, 0], [1, 1]]);
    const two = mount(CurveField, { props: { label: "Profile", modelValue: [[0, 0], [1, 1]] } });
    await two.findAll("circle")[0]!.trigger("dblclick");
    expect(last(two)).toBeUndefined();
  });
  it("moves a point by keys, never past its neighbours", async () => {
    const field = make();
    await field.findAll("circle")[1]!.trigger("keydown", { key: "ArrowUp" });
    expect(last(field)).toEqual([[0, 0], [0.5, 0.81], [1, 1]]);
    const tight = mount(CurveField, { props: { label: "P", modelValue: [[0, 0], [0.005, 1], [1, 1]] } });
    await tight.findAll("circle")[1]!.trigger("keydown", { key: "ArrowLeft" });
    expect((last(tight) as number[][])[1]![0]).toBeGreaterThan(0);
  });
  it("is drawn through its points", () => {
    expect(make().get(".line").attributes("d")).toMatch(/^M 0 120 L 0 120 C /);
  });
});

describe("stops", () => {
  const stops = [
    { place: 0, colour: "#000000", midpoint: 0.5 },
    { place: 0.4, colour: "#ff0000", midpoint: 0.3 },
    { place: 1, colour: "#ffffff", midpoint: 0.5 },
  ];
  const make = (more: object = {}) =>
    mount(StopsField, { props: { modelValue: stops, ...more }, global: { stubs } });
  const act = (field: ReturnType<typeof make>, name: string) =>
    field.findAll(".acts button").find((each) => each.text() === name)!.trigger("click");

  it("are spread evenly", async () => {
    const field = make();
    await act(field, "Spread evenly");
    expect((last(field) as typeof stops).map((each) => each.place)).toEqual([0, 0.5, 1]);
  });
  it("are reversed with their midpoints", async () => {
    const field = make();
    await act(field, "Reverse");
    const turned = last(field) as typeof stops;
    expect(turned.map((each) => [each.place, each.colour])).toEqual([
      [0, "#ffffff"], [0.6, "#ff0000"], [1, "#000000"],
    ]);
    expect(turned[0]!.midpoint).toBeCloseTo(0.7);
  });
  it("are removed by Delete, but the last one stays", async () => {
    const field = make();
    await field.findAll(".peg")[1]!.trigger("focus");
    await field.findAll(".peg")[1]!.trigger("keydown", { key: "Delete" });
    expect((last(field) as typeof stops).map((each) => each.colour)).toEqual(["#000000", "#ffffff"]);
    const one = make({ modelValue: stops.slice(0, 1) });
    await one.get(".peg").trigger("keydown", { key: "Delete" });
    expect(last(one)).toBeUndefined();
  });
  it("stay in order when one is moved past another", async () => {
    const field = make({ modelValue: [stops[0]!, { ...stops[1]!, place: 0.005 }, stops[2]!] });
    await field.findAll(".peg")[0]!.trigger("focus");
    await field.findAll(".peg")[0]!.trigger("keydown", { key: "ArrowRight" });
    const places = (last(field) as typeof stops).map((each) => each.place);
    expect(places).toEqual([...places].sort((a, b) => a - b));
  });
  it("show the histogram and the pointer's mark", () => {
    const field = make({ histogram: Array(64).fill(1 / 64), pointer: 0.25, repeats: 2 });
    expect(field.findAll("rect")).toHaveLength(64);
    expect(field.get(".pointer").attributes("style")).toContain("25%");
    expect(field.get(".mark").attributes("style")).toContain("50%");
    expect(field.find(".result").exists()).toBe(true);
  });
});

describe("a setting", () => {
  const setting = (kind: string, more: object = {}): StepSetting =>
    ({ name: "x", label: "X", kind, unit: "", low: 0, high: 1, default: 0, choices: null, help: "", when: null, ...more });
  const kinds: [string, unknown, object, object][] = [
    ["length", 3, { high: 100 }, NumberField],
    ["fraction", 0.5, {}, NumberField],
    ["count", 2, { high: 9 }, NumberField],
    ["colour", "#ffffff", {}, ColourField],
    ["choice", "a", { choices: ["a", "b"] }, ChoiceField],
    ["point", [1, 2], {}, PointField],
    ["curve", [[0, 0], [1, 1]], {}, CurveField],
    ["stops", [{ place: 0, colour: "#ffffff" }], {}, StopsField],
  ];
  it.each(kinds)("of the kind %s has its control", (kind, value, more, control) => {
    const field = mount(SettingField, { props: { setting: setting(kind, more), value }, global: { stubs } });
    expect(field.findComponent(control as never).exists()).toBe(true);
  });
  it("that changes over time can be made constant", async () => {
    const value = { pegs: [{ at: 0, value: 0.3 }, { at: 1, value: 0.9 }] };
    const field = mount(SettingField, { props: { setting: setting("fraction"), value }, global: { stubs } });
    expect(field.text()).toContain("Changes over time");
    await field.get("button").trigger("click");
    expect(last(field, "change")).toBe(0.3);
  });
});
