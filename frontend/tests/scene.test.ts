// The scene in the page: cards under a swung camera and on handles, floors, what may be shown.
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { api } from "@/api/client";
import { cardOf, standing, swung, turned } from "@/model/card";
import { layersToShow } from "@/model/references";
import type { Layer, PlacedLayer, Title } from "@/model/title";
import { withoutBackdrops } from "@/model/views";
import { useBench } from "./bench";
import { useLayers } from "@/stores/layers";
import { title as trial } from "./documents";

const FLOOR = {
  kind: "floor", id: "floor", name: "Floor", visible: true, blend: "normal", opacity: 1, matte_from: null,
  build: [], source: { colour: "#808080" }, level: null, far: 9000,
} as unknown as Layer;

function scene(changes: Partial<Title> = {}, word: object = {}): Title {
  const title = trial();
  const layers = title.layers.map((layer) => (layer.kind === "lettering" ? { ...layer, ...word } : layer));
  return { ...title, layers: layers as Layer[], ...changes };
}
const wordOf = (title: Title) => title.layers.find((layer) => layer.kind === "lettering") as PlacedLayer;
const PLACE = { x: 0, y: 0, z: 0, turn_x: 0, turn_y: 0, turn_z: 0, scale: 1 };
const CAMERA = { distance: 1000, pan: 0, lift: 0, swing: 0, rise: 0 };

beforeEach(() => setActivePinia(createPinia()));

describe("cards", () => {
  it("are seen from the right where the camera has swung to the right", () => {
    const title = scene({ camera: { ...CAMERA, swing: 30 } });
    const card = cardOf(wordOf(title), title);
    const middle = card.toFrame({ x: 0, y: 0 });
    const [left, right] = [-100, 100].map((x) => card.toFrame({ x, y: 0 }).x - middle.x) as [number, number];
    expect(middle).toEqual({ x: 160, y: 90 });
    expect(right).toBeGreaterThan(-left); // the right end is nearer
  });
  it("turn as one with the handle that they hang on", () => {
    const handles = [{ id: "rig", name: "Rig", placement: { ...PLACE, x: 50, turn_z: 90, scale: 2 } }];
    const title = scene({ handles }, { handle: "rig", placement: { ...PLACE, x: 30, y: 10 } });
    const { place, scale } = standing(wordOf(title), title);
    expect(place[0]).toBeCloseTo(30);
    expect(place[1]).toBeCloseTo(60);
    expect(scale).toBe(2);
  });
  it("stand as they are where they hang on nothing", () => {
    const title = scene({}, { placement: { ...PLACE, x: 7, z: -3 } });
    expect(standing(wordOf(title), title).place).toEqual([7, 0, -3]);
  });
  it("are found again from where they are seen", () => {
    const title = scene({ camera: { ...CAMERA, swing: 20, rise: 12, lift: -40 } });
    const card = cardOf(wordOf(title), title);
    const back = card.fromFrame(card.toFrame({ x: 33, y: -21 }))!;
    expect(back.x).toBeCloseTo(33);
    expect(back.y).toBeCloseTo(-21);
  });
});

describe("a camera that rises", () => {
  it("brings what lies behind up in the picture", () => {
    const title = scene({ camera: { ...CAMERA, rise: 90 } });
    const [x, y, z] = turned(swung(title), [0, 0, -100]);
    expect(x).toBeCloseTo(0);
    expect(y).toBeCloseTo(-100);
    expect(z).toBeCloseTo(0);
  });
});

describe("floors", () => {
  it("are hidden with the backdrops", () => {
    const title = scene();
    const shown = withoutBackdrops({ ...title, layers: [FLOOR, ...title.layers] });
    expect(shown.layers.filter((layer) => layer.visible).map((layer) => layer.kind)).toEqual(["lettering"]);
  });
  it("are not offered where a layer shows another one", () => {
    const title = scene();
    const offered = layersToShow({ ...title, layers: [FLOOR, ...title.layers] }, wordOf(title).id, () => undefined);
    expect(offered.map((choice) => choice.value)).toEqual(["ground"]);
  });
  it("stay out of groups", async () => {
    const bench = useBench();
    const title = scene();
    bench.opened.replace({ ...title, layers: [FLOOR, ...title.layers] });
    const post = vi.spyOn(api, "POST").mockResolvedValue({ data: bench.opened.document } as never);
    await useLayers().group(bench.opened.title.layers);
    expect(post.mock.calls[0]).toMatchObject(["/api/look/layer", { body: { kind: "group", of: ["ground", "word"] } }]);
  });
});

describe("what is selected beside the layers", () => {
  it("is the camera, a handle or a light, one at a time", () => {
    const bench = useBench();
    bench.opened.replace(scene());
    bench.chosen.selectStand("camera");
    expect(bench.chosen.apart).toBe(true);
    bench.chosen.selectLight("key");
    expect(bench.chosen.standId).toBeNull();
    bench.chosen.select("word", null);
    expect(bench.chosen.apart).toBe(false);
  });
});
