// The bench's store: steps and what is selected.
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { text } from "@/text";
import { api } from "@/api/client";
import { useBench, type Bench } from "./bench";
import { step, title } from "./documents";

async function opened() {
  vi.spyOn(api, "GET").mockResolvedValue({ data: { id: "t", version: 1, document: title() } } as never);
  vi.spyOn(api, "PUT").mockResolvedValue({ data: { version: 2 }, response: { status: 200 } } as never);
  const bench = useBench();
  expect(await bench.opened.open("t")).toBe(true);
  return bench;
}
const build = (bench: Bench) => bench.chosen.layer!.build.map((step) => step.id);

beforeEach(() => {
  setActivePinia(createPinia());
  localStorage.clear();
});

describe("opening", () => {
  it("selects the front lettering and its first step", async () => {
    const bench = await opened();
    expect(bench.chosen.layer?.id).toBe("word");
    expect(bench.chosen.step?.id).toBe("inflate");
  });
  it("says when a title is not there, and what is wrong with one that can't be read", async () => {
    const answers = (status: number) =>
      vi.spyOn(api, "GET").mockResolvedValue({ error: { message: "layers[0]: no" }, response: { status } } as never);
    answers(404);
    expect(await useBench().opened.open("nowhere")).toBe(false);
    expect(useBench().opened.refusal).toBe(text.error.gone);
    answers(422);
    await useBench().opened.open("broken");
    expect(useBench().opened.refusal).toBe("layers[0]: no");
  });
  it("goes on with what was not acknowledged", async () => {
    const document = { ...title(), name: "Unsaved" };
    localStorage.setItem("mabrel.draft.t", JSON.stringify({ version: 1, document }));
    const bench = await opened();
    expect(bench.opened.title.name).toBe("Unsaved");
    expect(bench.opened.saving.state.value).toBe("waiting");
  });
});

describe("steps", () => {
  it("are added at a place and selected", async () => {
    const bench = await opened();
    const word = bench.opened.document.layers[1]!;
    const build = [word.build[0]!, step("new", "relief.bevel"), ...word.build.slice(1)];
    const post = vi.spyOn(api, "POST").mockResolvedValue({
      data: { ...bench.opened.document, layers: [bench.opened.document.layers[0], { ...word, build }] },
    } as never);
    await bench.builds.addStep("relief.bevel", 1);
    expect(post.mock.calls[0]).toMatchObject(["/api/look/step", { body: { layer: "word", step: "relief.bevel", at: 1 } }]);
    expect(bench.chosen.layer!.build.map((each) => each.step)[1]).toBe("relief.bevel");
    expect(bench.chosen.step?.step).toBe("relief.bevel");
  });
  it("are duplicated behind themselves with an id of their own", async () => {
    const bench = await opened();
    bench.builds.set("height", 0.7);
    bench.builds.duplicateStep("inflate");
    expect(bench.chosen.layer!.build[1]).toMatchObject({ step: "relief.inflate", settings: { height: 0.7 } });
    expect(new Set(build(bench)).size).toBe(4);
  });
  it("are removed, and the next one is selected", async () => {
    const bench = await opened();
    bench.builds.removeStep("inflate");
    expect(build(bench)).toEqual(["shade", "map"]);
    expect(bench.chosen.step?.id).toBe("shade");
    bench.builds.removeStep("shade");
    bench.builds.removeStep("map");
    expect(bench.chosen.stepId).toBeNull();
  });
  it("are moved, and held within the build", async () => {
    const bench = await opened();
    bench.builds.moveStep("inflate", 99);
    expect(build(bench)).toEqual(["shade", "map", "inflate"]);
    bench.builds.moveStep("inflate", -5);
    expect(build(bench)).toEqual(["inflate", "shade", "map"]);
  });
  it("come back with undo", async () => {
    const bench = await opened();
    bench.builds.removeStep("shade");
    bench.opened.undo();
    expect(build(bench)).toEqual(["inflate", "shade", "map"]);
    bench.opened.redo();
    expect(build(bench)).toEqual(["inflate", "map"]);
  });
});

describe("settings", () => {
  it("of one drag are one step back", async () => {
    const bench = await opened();
    for (const height of [0.2, 0.4, 0.6]) bench.builds.set("height", height);
    bench.opened.endGesture();
    bench.builds.set("height", 0.9);
    bench.opened.undo();
    expect(bench.chosen.step?.settings.height).toBe(0.6);
    bench.opened.undo();
    expect(bench.chosen.step?.settings.height).toBeUndefined();
  });
});

describe("acts of the engine", () => {
  it("replace the document and can be undone", async () => {
    const bench = await opened();
    const swapped = { ...title(), name: "Rust" };
    vi.spyOn(api, "POST").mockResolvedValue({ data: swapped } as never);
    expect(await bench.acts.swapWord("word", { text: "RUST" })).toBeNull();
    expect(bench.opened.title.name).toBe("Rust");
    bench.opened.undo();
    expect(bench.opened.title.name).toBe("Kelp");
  });
  it("give back what is wrong and change nothing", async () => {
    const bench = await opened();
    vi.spyOn(api, "POST").mockResolvedValue({ error: { message: "there is no font" } } as never);
    expect(await bench.acts.swapWord("word", { font: "Nope" })).toBe("there is no font");
    expect(bench.opened.title.name).toBe("Kelp");
  });
});
