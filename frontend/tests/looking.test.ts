// How the title is looked at: the card on the proof, keys, values under the pointer, views.
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { api } from "@/api/client";
import { cardOf } from "@/model/card";
import { float16 } from "@/model/float16";
import { directionVector, vectorDirection } from "@/model/light";
import { actOf, SHORTCUTS, withKey } from "@/model/shortcuts";
import type { PlacedLayer } from "@/model/title";
import { withoutBackdrops } from "@/model/views";
import { useBench } from "./bench";
import { useLayers } from "@/stores/layers";
import { useMarks } from "@/stores/marks";
import { useNotices } from "@/stores/notices";
import { useProof } from "@/stores/proof";
import { text } from "@/text";
import { title } from "./documents";

const answer = (data: unknown) => ({ data, response: { status: 200 } }) as never;

beforeEach(() => {
  setActivePinia(createPinia());
  localStorage.clear();
  vi.restoreAllMocks();
});
async function opened() {
  vi.spyOn(api, "GET").mockResolvedValue(answer({ id: "t", version: 1, document: title() }));
  vi.spyOn(api, "PUT").mockResolvedValue(answer({ version: 2 }));
  const bench = useBench();
  await bench.opened.open("t");
  return bench;
}

describe("a card", () => {
  const placed = (placement: object) => {
    const document = title();
    const layer = document.layers[1] as PlacedLayer;
    layer.placement = { ...layer.placement, ...placement };
    return cardOf(layer, document);
  };
  it("unmoved lies in the middle of the frame", () => {
    expect(placed({}).toFrame({ x: 10, y: -20 })).toEqual({ x: 170, y: 70 });
  });
  it("is moved, scaled and turned", () => {
    const { x, y } = placed({ x: 30, y: -10, scale: 2, turn_z: 90 }).toFrame({ x: 10, y: 0 });
    expect(x).toBeCloseTo(190);
    expect(y).toBeCloseTo(100);
  });
  it("nearer to the viewer is larger", () => {
    expect(placed({ z: 1000 }).toFrame({ x: 10, y: 0 }).x).toBeCloseTo(180);
  });
  it.each([{ turn_x: 30 }, { turn_y: -50, z: 200, x: 40 }, { turn_x: 20, turn_y: 35, turn_z: 10, scale: 0.4 }])(
    "leads back from the frame: %j",
    (placement) => {
      const card = placed(placement);
      const back = card.fromFrame(card.toFrame({ x: 33, y: -21 }))!;
      expect(back.x).toBeCloseTo(33, 6);
      expect(back.y).toBeCloseTo(-21, 6);
    },
  );
  it("without a size leads nowhere", () => expect(placed({ scale: 0 }).fromFrame({ x: 1, y: 1 })).toBeNull());
});

describe("a light's direction", () => {
  it.each([[225, 45], [10, -20], [300, 80]])("%d°, %d° is a vector, there and back", (azimuth, elevation) => {
    expect(vectorDirection(directionVector({ azimuth, elevation }))).toEqual({ azimuth, elevation });
  });
});

describe("half floats", () => {
  it("are read from base64", () => {
    // 1, -2, 0.333, 65504, NaN, 2^-24
    const halves = [0x3c00, 0xc000, 0x3555, 0x7bff, 0x7e00, 0x0001];
    const bytes = halves.flatMap((half) => [half & 255, half >> 8]);
    const read = float16(btoa(String.fromCharCode(...bytes)));
    expect([0, 1, 2, 3, 4, 5, 6].map(read)).toEqual([1, -2, 0.333251953125, 65504, NaN, 2 ** -24, NaN]);
  });
});

describe("keys", () => {
  const key = (name: string, more: object = {}) =>
    actOf({ key: name, ctrlKey: false, metaKey: false, shiftKey: false, altKey: false, ...more });
  it("mean acts", () => {
    expect(key("z", { ctrlKey: true })).toBe("undo");
    expect(key("Z", { metaKey: true, shiftKey: true })).toBe("redo");
    expect(key("?", { shiftKey: true })).toBe("sheet");
    expect(key("+", { shiftKey: true })).toBe("zoomIn");
    expect(key("M", { shiftKey: true })).toBe("marks");
    expect(key("s", { shiftKey: true })).toBeUndefined();
    expect(key("s", { altKey: true })).toBeUndefined();
    expect(key("s", { ctrlKey: true })).toBeUndefined();
  });
  it("are each used once, and every act has words", () => {
    const all = SHORTCUTS.flatMap(({ list }) => list);
    const keys = all.flatMap((each) => each.keys);
    expect(new Set(keys).size).toBe(keys.length);
    for (const { act } of all) expect(text.shortcuts.acts[act]).toBeTruthy();
    expect(withKey("Undo", "undo")).toBe("Undo (Ctrl Z)");
  });
});

describe("what is looked at", () => {
  it("is one step alone, or the work without one, and never saved", async () => {
    const bench = await opened();
    const on = () => bench.chosen.shown.layers[1]!.build.map((each) => each.on);
    bench.chosen.select("word", "shade");
    bench.chosen.toggleSolo("shade");
    expect(on()).toEqual([false, true, false]);
    bench.chosen.toggleSolo("shade");
    bench.chosen.without = true;
    expect(on()).toEqual([true, false, true]);
    expect(bench.opened.title.layers[1]!.build.every((each) => each.on)).toBe(true);
  });
  it("over a picture has no backdrop", () => {
    expect(withoutBackdrops(title()).layers.map((layer) => layer.visible)).toEqual([false, true]);
  });
});

describe("history", () => {
  it("survives a reload of the same saved state", async () => {
    const bench = await opened();
    bench.builds.set("height", 0.4);
    bench.opened.endGesture();
    await bench.opened.saving.save();
    bench.opened.close();
    await new Promise((done) => setTimeout(done, 20));
    setActivePinia(createPinia());
    vi.spyOn(api, "GET").mockResolvedValue(answer({ id: "t", version: 2, document: bench.opened.title }));
    const again = useBench();
    await again.opened.open("t");
    expect(again.opened.history.canUndo).toBe(true);
    again.opened.undo();
    expect(again.chosen.step?.settings.height).toBeUndefined();
  });
  it("begins anew where somebody else saved since", async () => {
    const bench = await opened();
    bench.builds.set("height", 0.4);
    await bench.opened.saving.save();
    bench.opened.close();
    setActivePinia(createPinia());
    vi.spyOn(api, "GET").mockResolvedValue(answer({ id: "t", version: 9, document: title() }));
    const again = useBench();
    await again.opened.open("t");
    expect(again.opened.history.canUndo).toBe(false);
  });
});

describe("marks", () => {
  const mark = { id: 4, name: "Mark 1", set_at: "2026-01-01T00:00:00Z" };
  it("are numbered on, and what they hold can be gone back to and compared with", async () => {
    const bench = await opened();
    const marks = useMarks();
    vi.spyOn(api, "GET").mockResolvedValue(answer([mark]));
    const post = vi.spyOn(api, "POST").mockResolvedValue(answer({ ...mark, id: 5, name: "Mark 2" }));
    await marks.set();
    expect(post.mock.calls[0]![1]).toMatchObject({ body: { name: "Mark 2", document: { name: "Kelp" } } });
    expect(marks.all.map((each) => each.name)).toEqual(["Mark 2", "Mark 1"]);
    vi.spyOn(api, "GET").mockResolvedValue(answer({ ...title(), name: "As it was" }));
    await marks.goBack("Mark 1", marks.documentOf(mark));
    expect(bench.opened.title.name).toBe("As it was");
    useNotices().shown!.act!.run();
    expect(bench.opened.title.name).toBe("Kelp");
    await marks.compare("Mark 1", marks.documentOf(mark));
    expect(useProof().compared).toMatchObject({ name: "Mark 1", document: { name: "As it was" } });
  });
  it("tell where the studio does not answer", async () => {
    await opened();
    vi.spyOn(api, "GET").mockRejectedValue(new TypeError());
    await useMarks().load();
    expect(useNotices().shown?.text).toBe(text.error.network);
  });
});

describe("layers", () => {
  it("are grouped and taken apart again, all with undo", async () => {
    const bench = await opened();
    const layers = useLayers();
    const group = { ...bench.opened.document.layers[1]!, id: "group", kind: "group", name: "Group", source: { layers: ["word"] }, build: [] };
    vi.spyOn(api, "POST").mockResolvedValue(answer({ ...bench.opened.document, layers: [...bench.opened.document.layers, group] }));
    await layers.group([bench.opened.title.layers[1]!]);
    expect(bench.chosen.layer).toMatchObject({ kind: "group", source: { layers: ["word"] } });
    layers.remove(bench.opened.title.layers[1]!);
    expect(useNotices().shown?.text).toContain("is used by");
    layers.ungroup(bench.chosen.layer!);
    expect(bench.opened.title.layers.map((each) => each.id)).toEqual(["ground", "word"]);
    bench.opened.undo();
    bench.opened.undo();
    expect(bench.opened.title.layers).toHaveLength(2);
  });
  it("are added, moved and deleted, and a deleted one comes back", async () => {
    const bench = await opened();
    const layers = useLayers();
    const made = { ...bench.opened.document.layers[1]!, id: "gull", kind: "picture", name: "gull", source: { picture: "gull.svg" }, build: [] };
    vi.spyOn(api, "POST").mockResolvedValue(answer({ ...bench.opened.document, layers: [...bench.opened.document.layers, made] }));
    await layers.add("picture", "gull.svg");
    expect(bench.chosen.layer).toMatchObject({ kind: "picture", name: "gull", source: { picture: "gull.svg" } });
    layers.move(bench.chosen.layer!, 0);
    expect(bench.opened.title.layers[0]!.kind).toBe("picture");
    layers.remove(bench.opened.title.layers[0]!);
    expect(bench.opened.title.layers).toHaveLength(2);
    useNotices().shown!.act!.run();
    expect(bench.opened.title.layers[0]!.kind).toBe("picture");
  });
});
