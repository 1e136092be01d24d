// What refers to what, and what may be chosen.
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { api } from "@/api/client";
import { choicesFor, usersOfLayer, usersOfLight, usersOfStep, withNewIds } from "@/model/references";
import { counts, type Layer, type StepEntry, type Title } from "@/model/title";
import { useBench } from "./bench";
import { useCatalogue } from "@/stores/catalogue";
import { useNotices } from "@/stores/notices";
import { setting, step, title } from "./documents";

const ENTRIES: Record<string, Partial<StepEntry>> = {
  "surface.picture": { step: "surface.picture", label: "Picture", settings: [setting("picture", "image")] },
  "light.shade": {
    step: "light.shade", label: "Shade", settings: [setting("relief", "step"), setting("which", "light")],
  },
  "relief.bevel": { step: "relief.bevel", label: "Bevel", settings: [] },
};
const entryOf = (name: string) => ENTRIES[name] as StepEntry | undefined;

function withLayers(...layers: object[]): Title {
  return { ...title(), layers: [...title().layers, ...(layers as Layer[])] };
}
const bare = { name: "Other", visible: true, blend: "normal", opacity: 1, matte_from: null, build: [] };

describe("a layer is used", () => {
  const users: [string, object][] = [
    ["by one that takes its matte", { ...bare, id: "o", kind: "wash", matte_from: "word" }],
    ["by its copy", { ...bare, id: "o", kind: "copy", source: { layer: "word", take: "everything" } }],
    ["by its group", { ...bare, id: "o", kind: "group", source: { layers: ["word"] } }],
    ["by a step that shows it", { ...bare, id: "o", kind: "wash", build: [step("a", "surface.picture", { picture: "layer:word" })] }],
    ["by a step that counts where it is", {
      ...bare, id: "o", kind: "wash",
      build: [{ ...step("a", "relief.bevel"), where: { kind: "matte", layer: "word", inverted: false } }],
    }],
  ];
  it.each(users)("%s", (_, layer) => {
    expect(usersOfLayer(withLayers(layer), "word", entryOf).map((each) => each.id)).toEqual(["o"]);
    expect(usersOfLayer(withLayers(layer), "ground", entryOf)).toEqual([]);
  });
});

describe("a step and a light", () => {
  const build = [step("rim", "relief.bevel"), step("lit", "light.shade", { relief: "rim", which: "key" })];
  it("are used by what names them", () => {
    expect(usersOfStep(build, "rim", entryOf).map((each) => each.id)).toEqual(["lit"]);
    expect(usersOfStep(build, "lit", entryOf)).toEqual([]);
    const document = withLayers({ ...bare, id: "o", kind: "wash", build });
    expect(usersOfLight(document, "key", entryOf)).toHaveLength(1);
  });
  it("keep their references in a copy of the build", () => {
    let number = 0;
    const copy = withNewIds(build, () => `new${(number += 1)}`);
    expect(copy.map((each) => each.id)).toEqual(["new1", "new2"]);
    expect(copy[1]!.settings).toEqual({ relief: "new1", which: "key" });
  });
});

describe("choices", () => {
  const word = title().layers.at(-1)!;
  const build = [step("rim", "relief.bevel"), step("lit", "light.shade"), step("late", "relief.bevel")];
  const layer = { ...word, build } as Layer;
  const choose = (kind: string, document = title()) =>
    choicesFor(setting("x", kind), build[1]!, layer, document, ["shipped/chart.png", "own.jpg"], entryOf)
      .map((each) => each.value);

  it("of a step are the earlier ones", () => expect(choose("step")).toEqual(["", "rim"]));
  it("of a light are those of the title", () => expect(choose("light")).toEqual(["", "key"]));
  it("of a picture are the library and the other layers", () => {
    expect(choose("image")).toEqual(["", "shipped/chart.png", "own.jpg", "layer:ground"]);
  });
  it("leave out layers that would go round in a circle", () => {
    const copy = { ...bare, id: "copy", kind: "copy", source: { layer: "word", take: "face" } };
    expect(choose("image", withLayers(copy))).not.toContain("layer:copy");
  });
});

describe("a setting that counts beside several values", () => {
  const entry = { settings: [setting("fit", "choice", { default: "cover" })] } as unknown as StepEntry;
  const size = setting("size", "length", { when: { fit: "tile|mirror" } });
  it.each([["tile", true], ["mirror", true], ["cover", false]])("beside %s: %s", (fit, expected) => {
    expect(counts(step("a", "surface.picture", { fit }), entry, size)).toBe(expected);
  });
});

describe("removing what is used", () => {
  beforeEach(() => {
    setActivePinia(createPinia());
    localStorage.clear();
  });
  it("says by whom and keeps it", async () => {
    const document = title();
    const word = document.layers.at(-1)!;
    word.build = [step("rim", "relief.bevel"), step("lit", "light.shade", { relief: "rim" })];
    vi.spyOn(api, "GET").mockResolvedValue({ data: { id: "t", version: 1, document } } as never);
    useCatalogue().all = { steps: Object.values(ENTRIES), models: {} } as never;
    const bench = useBench();
    await bench.opened.open("t");
    bench.builds.removeStep("rim");
    expect(bench.chosen.layer!.build).toHaveLength(2);
    expect(useNotices().shown?.text).toBe("Bevel is used by Shade.");
    bench.builds.removeStep("lit");
    bench.builds.removeStep("rim");
    expect(bench.chosen.layer!.build).toHaveLength(0);
  });
});
