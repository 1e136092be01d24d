// The controls of the settings.
import { mount } from "@vue/test-utils";
import { describe, expect, it } from "vitest";
import { ref } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import { fieldContext } from "@/components/fields/context";
import ColourField from "@/components/fields/ColourField.vue";
import CurveField from "@/components/fields/CurveField.vue";
import NumberField from "@/components/fields/NumberField.vue";
import PointField from "@/components/fields/PointField.vue";
import SettingField from "@/components/fields/SettingField.vue";
import StopsField from "@/components/fields/StopsField.vue";
import { setting as settingOf } from "./documents";

const open = { template: "<div><slot name='activator' :props='{}' /><slot /></div>" };
const stubs = { VSlider: true, VSelect: true, VMenu: open, VCard: open, VList: open, VListItem: true, VIcon: true };
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
  it("takes units, also those of the letters' size", async () => {
    const em = { em: ref(300), sameAs: () => [], colours: () => [], pickColour: null, say: () => undefined };
    const field = mount(NumberField, {
      props: { label: "Width", modelValue: 20, low: 0, high: 100, unit: "px" },
      global: { stubs, provide: { [fieldContext as symbol]: em } },
    });
    expect(await type(field as never, "0.1em")).toBe(30);
    expect(await type(field as never, "5 %")).toBe(15);
    expect(await type(make({ unit: "°", high: 360 }), "0.25turn")).toBe(90);
  });
  it("keeps digits that are not shown when it is only looked at", async () => {
    const field = make({ modelValue: 25.27 });
    expect(field.get("input").element.value).toBe("25.3");
    await field.get("input").trigger("focus");
    await field.get("input").trigger("blur");
    expect(last(field)).toBeUndefined();
  });
  it("is whole where it counts something", async () => {
    expect(await type(make({ whole: true }), "7/2")).toBe(4);
  });
});

describe("a colour", () => {
  it("takes pasted codes and refuses others", async () => {
    const field = mount(ColourField, { props: { label: "Colour", modelValue: "#112233" }, global: { stubs } });
    await field.get(".typed").setValue("abc");
    await field.get(".typed").trigger("blur");
    expect(last(field)).toBe("#aabbcc");
    await field.get(".typed").setValue("blue");
    await field.get(".typed").trigger("blur");
    expect(field.emitted()["update:modelValue"]).toHaveLength(1);
  });
  it("keeps its opacity when it is picked", async () => {
    const field = mount(ColourField, { props: { label: "Colour", modelValue: "#11223380" }, global: { stubs } });
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
  const curve = (points: [number, number][], name = "profile") => ({
    name, label: "Profile", points, standard: [[0, 0], [1, 1]] as [number, number][],
  });
  const points: [number, number][] = [[0, 0], [0.5, 0.8], [1, 1]];
  const make = (given = points, ...more: ReturnType<typeof curve>[]) =>
    mount(CurveField, { props: { curves: [curve(given), ...more] }, global: { stubs } });
  const given = (field: ReturnType<typeof make>) => field.emitted("change")?.at(-1);

  it("loses a point on a double click but keeps two", async () => {
    const field = make();
    await field.findAll(".point")[1]!.trigger("dblclick");
    expect(given(field)).toEqual(["profile", [[0, 0], [1, 1]]]);
    const two = make([[0, 0], [1, 1]]);
    await two.findAll(".point")[0]!.trigger("dblclick");
    expect(given(two)).toBeUndefined();
  });
  it("moves a point by keys, never past its neighbours", async () => {
    const field = make();
    await field.findAll(".point")[1]!.trigger("keydown", { key: "ArrowUp" });
    expect(given(field)![1]).toEqual([[0, 0], [0.5, 0.81], [1, 1]]);
    const tight = make([[0, 0], [0.005, 1], [1, 1]]);
    await tight.findAll(".point")[1]!.trigger("keydown", { key: "ArrowLeft" });
    expect((given(tight)![1] as number[][])[1]![0]).toBeGreaterThan(0);
  });
  it("is drawn through its points", () => {
    expect(make().get(".line").attributes("d")).toMatch(/^M 0 120 L 0 120 C /);
  });
  it("takes typed points and says what is wrong with others", async () => {
    const field = make();
    await field.findAll(".acts button").at(-1)!.trigger("click");
    await field.get("textarea").setValue("0 0, 128 255, 255 40");
    await field.get("textarea").trigger("change");
    expect(given(field)![1]).toEqual([[0, 0], [0.502, 1], [1, 0.157]]);
    await field.get("textarea").setValue("0 0, 0 1");
    await field.get("textarea").trigger("change");
    expect(field.get("[role=alert]").text()).toContain("Pairs of numbers");
  });
  it("of several shows one at a time, and which of them do anything", async () => {
    const field = make(points, curve([[0, 0], [1, 1]], "red"));
    const tabs = field.findAll("[role=tab]");
    expect(tabs.map((tab) => tab.find(".dot").exists())).toEqual([true, false]);
    await tabs[1]!.trigger("click");
    await field.findAll(".point")[1]!.trigger("keydown", { key: "ArrowDown" });
    expect(given(field)).toEqual(["red", [[0, 0], [1, 0.99]]]);
  });
  it("marks the pointer on its line and shows the histogram", () => {
    const field = mount(CurveField, {
      props: { curves: [curve([[0, 0], [1, 1]])], pointer: 0.5, histogram: Array(64).fill(1 / 64) }, global: { stubs },
    });
    expect(field.get(".pointer circle").attributes("cy")).toBe("60");
    expect(field.findAll(".histogram rect")).toHaveLength(64);
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
  it("have midpoints between them that are moved by keys", async () => {
    const field = make();
    expect(field.findAll(".midpoint").map((each) => each.attributes("style"))).toEqual(["left: 20%;", "left: 58%;"].map((style) => expect.stringContaining(style.slice(0, 8))));
    await field.findAll(".midpoint")[0]!.trigger("keydown", { key: "ArrowRight", shiftKey: true });
    expect((last(field) as typeof stops)[0]!.midpoint).toBe(0.55);
  });
  it("are pasted as a CSS gradient", async () => {
    const field = make();
    await act(field, "Paste CSS");
    await field.get("textarea").setValue("linear-gradient(90deg, #fff, #abc 30%, black)");
    expect(last(field)).toEqual([
      { place: 0, colour: "#ffffff", midpoint: 0.5 },
      { place: 0.3, colour: "#aabbcc", midpoint: 0.5 },
      { place: 1, colour: "#000000", midpoint: 0.5 },
    ]);
    await act(field, "Paste CSS");
    await field.get("textarea").setValue("no gradient");
    expect(field.get("[role=alert]").text()).toContain("no CSS gradient");
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
  const setting = (kind: string, more: object = {}) => settingOf("x", kind, { low: 0, high: 1, default: 0, ...more });
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
});
