// The shelf, words on the bench, the rig.
import { mount } from "@vue/test-utils";
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { api } from "@/api/client";
import LightSettings from "@/components/bench/LightSettings.vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import SpotsField from "@/components/fields/SpotsField.vue";
import type { Light } from "@/model/title";
import { useBench } from "./bench";
import { useCatalogue } from "@/stores/catalogue";
import { useMarks } from "@/stores/marks";
import { useNotices } from "@/stores/notices";
import { useShelf } from "@/stores/shelf";
import { text } from "@/text";
import { title, toldModels } from "./documents";

const summary = { id: "t", name: "Kelp", version: 3 } as never;
const answer = (data: unknown, status = 200) => ({ data, response: { status } }) as never;

beforeEach(() => {
  setActivePinia(createPinia());
  localStorage.clear();
  vi.restoreAllMocks();
});

describe("the shelf", () => {
  it("says when the studio does not answer, and keeps what it had", async () => {
    vi.spyOn(api, "GET").mockResolvedValueOnce(answer([summary])).mockRejectedValueOnce(new TypeError());
    const shelf = useShelf();
    await shelf.load();
    await shelf.load();
    expect(shelf.titles).toEqual([summary]);
    expect(useNotices().shown).toEqual({ text: text.error.network, kind: "fault" });
  });
  it("makes a title, or says what is wrong", async () => {
    const post = vi.spyOn(api, "POST").mockResolvedValueOnce(answer({ id: "new" }));
    const making = { text: "KELP", font: "Anton", width: 320, height: 180 };
    expect(await useShelf().make(making as never, "enamel")).toBe("new");
    expect(post.mock.calls[0]![1]).toMatchObject({ body: { ...making, finish: "enamel" } });
    post.mockResolvedValueOnce({ error: { message: "no such font" } } as never);
    expect(await useShelf().make(making as never, "enamel")).toBeNull();
    expect(useNotices().shown?.text).toBe("no such font");
  });
  it("takes back a removal", async () => {
    vi.spyOn(api, "GET").mockResolvedValue(answer([]));
    vi.spyOn(api, "DELETE").mockResolvedValue(answer(undefined));
    const post = vi.spyOn(api, "POST").mockResolvedValue(answer(undefined));
    await useShelf().removeAll([summary]);
    useNotices().shown!.act!.run();
    await vi.waitFor(() => expect(post).toHaveBeenCalled());
    expect(post.mock.calls[0]![0]).toBe("/api/titles/{title_id}/restore");
  });
  it("renames the version that is there, and tells of a conflict", async () => {
    vi.spyOn(api, "GET").mockResolvedValue(answer({ version: 7, document: title() }));
    const put = vi.spyOn(api, "PUT").mockResolvedValue({ error: {}, response: { status: 409 } } as never);
    await useShelf().rename(summary, "Wrack");
    expect(put.mock.calls[0]![1]).toMatchObject({ body: { version: 7, document: { name: "Wrack" } } });
    expect(useNotices().shown?.text).toBe(text.saved.conflict);
  });
});

describe("marks", () => {
  it("stands in the list that was asked for while it was being set", async () => {
    const mark = { id: "m", name: "Mark 1" };
    let slow: (list: unknown) => void = () => undefined;
    const get = vi.spyOn(api, "GET").mockResolvedValueOnce(answer([]));
    get.mockReturnValueOnce(new Promise((resolve) => (slow = resolve)) as never);
    get.mockResolvedValue(answer([mark]));
    vi.spyOn(api, "POST").mockResolvedValue(answer(mark));
    const marks = useMarks();
    const setting = marks.set();
    await vi.waitFor(() => expect(get).toHaveBeenCalledOnce());
    const asked = marks.load();
    await setting;
    slow(answer([]));
    await asked;
    expect(marks.all).toEqual([mark]);
  });
});

async function opened() {
  vi.spyOn(api, "GET").mockResolvedValue(answer({ id: "t", version: 1, document: title() }));
  vi.spyOn(api, "PUT").mockResolvedValue(answer({ version: 2 }));
  const bench = useBench();
  useCatalogue().all = { models: toldModels, steps: [] } as never;
  await bench.opened.open("t");
  return bench;
}

describe("other words", () => {
  it("rename a layer that was named after its words, and no other", async () => {
    const bench = await opened();
    bench.opened.setWords("word", "WRACK");
    expect(bench.chosen.layer?.name).toBe("WRACK");
    bench.opened.setLayer("word", { name: "Main" });
    bench.opened.setWords("word", "SALT");
    expect(bench.chosen.layer?.name).toBe("Main");
    bench.opened.setWords("ground", "NOTHING");
    expect(bench.opened.title.layers[0]!.name).toBe("Ground");
  });
  it("are set smaller where they have outgrown the frame, in one undo with the typing", async () => {
    const bench = await opened();
    bench.opened.setWords("word", "A LONG SENTENCE");
    const smaller = structuredClone(bench.opened.title);
    (smaller.layers.at(-1) as { source: { size: number } }).source.size = 31;
    vi.spyOn(api, "POST").mockResolvedValue(answer(smaller));
    await bench.acts.fitWord("word");
    expect(bench.chosen.layer).toMatchObject({ source: { size: 31 } });
    bench.opened.undo();
    expect(bench.chosen.layer).toMatchObject({ source: { text: "KELP", size: 60 } });
  });
  it("stay as they were typed where the studio does not answer", async () => {
    const bench = await opened();
    bench.opened.setWords("word", "SALT");
    vi.spyOn(api, "POST").mockRejectedValue(new TypeError());
    await bench.acts.fitWord("word");
    expect(bench.chosen.layer).toMatchObject({ source: { text: "SALT", size: 60 } });
  });
});

describe("the rig", () => {
  const stubs = { VBtn: true, VMenu: true, VSlider: true };
  const panel = (light: Light) => mount(LightSettings, { props: { light }, global: { stubs } });
  const withLight = async (light: object) => {
    const bench = await opened();
    bench.opened.change({ ...bench.opened.title, lights: [...bench.opened.title.lights, light as Light] });
    return { bench, panel: panel(light as Light) };
  };
  const common = { id: "two", name: "Two", colour: "#ffffff", strength: 1 };

  it("shows direction for parallel light and a place for the others", async () => {
    const labelled = (panel: { findAll(of: string): { attributes(of: string): string | undefined }[] }) =>
      panel.findAll("input").map((each) => (each.attributes("aria-label") ?? "").split(",")[0]);
    const distant = await withLight({ ...common, kind: "distant", azimuth: 10, elevation: 20 });
    expect(labelled(distant.panel)).toContain("Azimuth");
    const spot = await withLight({ ...common, kind: "spot", x: 5, y: 6, z: 7, to_x: 0, to_y: 0, to_z: 0, cone: 30, tightness: 1 });
    expect(labelled(spot.panel)).toEqual(expect.arrayContaining(["x", "Aim z", "Cone"]));
    expect(labelled(spot.panel)).not.toContain("Azimuth");
  });
  it("says when a light stands behind the lettering", async () => {
    const behind = { ...common, kind: "point", x: 0, y: 0, z: -20 };
    expect((await withLight(behind)).panel.text()).toContain(text.bench.behind);
  });
  it("is turned as one", async () => {
    const { bench, panel } = await withLight({ ...common, kind: "distant", azimuth: 10, elevation: 20 });
    const turn = panel.findAll("input").find((each) => each.attributes("aria-label")?.startsWith("Turn"))!;
    await turn.setValue("30");
    await turn.trigger("blur");
    expect(bench.opened.title.rig).toEqual({ turn: 30, raised: 0, strength: 1 });
    expect(bench.opened.title.lights[1]).toMatchObject({ azimuth: 10 });
  });
  it("sets one side of a place and leaves the others", async () => {
    const { bench, panel } = await withLight({ ...common, kind: "point", x: 5, y: 6, z: 7 });
    const field = panel.findAll("input").find((each) => each.attributes("aria-label")?.startsWith("y"))!;
    await field.setValue("120/2");
    await field.trigger("blur");
    expect(bench.opened.title.lights[1]).toMatchObject({ x: 5, y: 60, z: 7 });
  });
});

describe("fields", () => {
  it("of a reference offer the choices and hand on the chosen one", () => {
    const choices = [{ value: "", title: "–" }, { value: "layer:a", title: "A" }];
    const field = mount(ChoiceField, {
      props: { label: "Picture", modelValue: "", choices },
      global: { stubs: { VSelect: true } },
    });
    const select = field.findComponent({ name: "VSelect" });
    expect(select.attributes("aria-label")).toBe("Picture");
    select.vm.$emit("update:modelValue", "layer:a");
    expect(field.emitted()["update:modelValue"]).toEqual([["layer:a"]]);
    expect(field.emitted().done).toHaveLength(1);
  });
  it("of colour spots move, add and remove", async () => {
    const spots = [{ x: 0.1, y: 0.2, colour: "#ff0000" }, { x: 0.5, y: 0.5, colour: "#00ff00" }];
    const field = mount(SpotsField, { props: { modelValue: spots }, global: { stubs: { VBtn: { template: "<button><slot /></button>" } } } });
    const place = field.get('[aria-label="Spot 1, %, x"]');
    await place.setValue("75");
    await place.trigger("blur");
    const last = () => (field.emitted()["update:modelValue"] as unknown[][]).at(-1)![0];
    expect(last()).toEqual([{ x: 0.75, y: 0.2, colour: "#ff0000" }, spots[1]]);
    const buttons = field.findAll("button");
    await buttons.at(-1)!.trigger("click");
    expect(last()).toHaveLength(3);
    await field.get('[aria-label="Remove spot 2"]').trigger("click");
    expect(last()).toEqual([spots[0]]);
  });
});
