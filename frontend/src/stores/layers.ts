// Acts on the layers of the title on the bench.
import { defineStore } from "pinia";
import { moved, newId, type Layer } from "@/model/title";
import { usersOfLayer, withNewIds } from "@/model/references";
import { text } from "@/text";
import { useBench } from "./bench";
import { useCatalogue } from "./catalogue";
import { useNotices } from "./notices";

export type LayerKind = "lettering" | "picture" | "copy" | "backdrop" | "floor" | "wash";

export const useLayers = defineStore("layers", () => {
  const bench = useBench();
  const catalogue = useCatalogue();
  const notices = useNotices();

  function set(layers: Layer[], chosen?: Layer): void {
    bench.change({ ...bench.title, layers });
    if (chosen) bench.select(chosen.id, chosen.build[0]?.id ?? null);
  }
  function move(layer: Layer, to: number): void {
    const layers = bench.title.layers;
    const from = layers.findIndex((each) => each.id === layer.id);
    const place = Math.min(Math.max(to, 0), layers.length - 1);
    if (from !== place) set(moved(layers, from, place));
  }
  function moveBy(layer: Layer, by: number): void {
    move(layer, bench.title.layers.findIndex((each) => each.id === layer.id) + by);
  }

  function fresh(kind: LayerKind, picture?: string): Layer {
    const common = { id: newId(), visible: true, blend: "normal" as const, opacity: 1, matte_from: null, build: [] };
    const placed = {
      ...common, face_opacity: 1, placement: { x: 0, y: 0, z: 0, turn_x: 0, turn_y: 0, turn_z: 0, scale: 1 },
    };
    const { height } = bench.title.frame;
    const own = catalogue.all?.pictures.find((name) => !name.startsWith("shipped/"));
    const shown = picture ?? own ?? "shipped/chart.png";
    const made = {
      lettering: () => ({
        ...placed, kind, name: text.bench.newWord,
        source: {
          text: text.bench.newWord, font: "Titan One", style: "", align: "centre", axes: {},
          size: Math.round(height / 5), letter_spacing: 0, line_spacing: 1,
        },
      }),
      picture: () => ({
        ...placed, kind, name: shown.replace(/^shipped\/|\.\w+$/g, "").slice(0, 200),
        source: { picture: shown, height: Math.round(height / 3), matte: "alpha", cut: null },
      }),
      copy: () => ({
        ...placed, kind, name: text.sources.copy, source: { layer: bench.layer?.id ?? "", take: "everything" },
      }),
      backdrop: () => ({ ...common, kind, name: text.bench.addBackdrop, source: { colour: "#5a6468" } }),
      floor: () => ({
        ...common, kind, name: text.bench.addFloor, source: { colour: "#6f777a" }, level: null, far: 9000,
      }),
      wash: () => ({ ...common, kind, name: text.bench.wash }),
    };
    return made[kind]() as unknown as Layer;
  }
  function add(kind: LayerKind, picture?: string): void {
    const layer = fresh(kind, picture);
    const layers = [...bench.title.layers];
    // A ground lies beneath all that stands on it; a floor before the backdrops.
    const first = layers.findIndex((each) => each.kind !== "backdrop");
    const at = { backdrop: 0, floor: first < 0 ? layers.length : first }[kind as string] ?? layers.length;
    layers.splice(at, 0, layer);
    set(layers, layer);
  }
  function duplicate(layer: Layer): void {
    const copy = {
      ...layer, id: newId(), name: text.bench.copyOf(layer.name).slice(0, 200), build: withNewIds(layer.build, newId),
    };
    const layers = [...bench.title.layers];
    layers.splice(layers.findIndex((each) => each.id === layer.id) + 1, 0, copy);
    set(layers, copy);
  }
  /** Deletes a layer, unless another one uses it: then it says which. */
  function remove(layer: Layer): void {
    const users = usersOfLayer(bench.title, layer.id, catalogue.entry);
    if (users.length) {
      notices.fault(text.bench.used(layer.name, users.map((each) => each.name).join(", ")));
      return;
    }
    bench.change({ ...bench.title, layers: bench.title.layers.filter((each) => each.id !== layer.id) });
    notices.say({ text: text.shelf.removed(layer.name || layer.kind), act: { label: text.act.undo, run: bench.undo } });
  }
  /** Several layers used as one, drawn in the place of the front one. */
  function group(members: Layer[]): void {
    const ids = bench.title.layers
      .filter((each) => each.kind !== "floor" && members.some((member) => member.id === each.id))
      .map((each) => each.id);
    if (!ids.length) return;
    const made = {
      ...fresh("lettering"), kind: "group", name: text.sources.group, source: { layers: ids },
    } as unknown as Layer;
    const layers = [...bench.title.layers];
    layers.splice(layers.findIndex((each) => each.id === ids.at(-1)) + 1, 0, made);
    set(layers, made);
  }
  function ungroup(layer: Layer): void {
    const users = usersOfLayer(bench.title, layer.id, catalogue.entry);
    if (users.length) remove(layer); // says who uses it
    else set(bench.title.layers.filter((each) => each.id !== layer.id));
  }
  return { move, moveBy, add, duplicate, remove, group, ungroup };
});
