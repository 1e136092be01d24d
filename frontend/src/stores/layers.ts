// Acts on the layers of the title on the bench.
import { defineStore } from "pinia";
import { isClip, moved, newId, type Layer, type LayerKind } from "@/model/title";
import { usersOfLayer, withNewIds } from "@/model/references";
import { text } from "@/text";
import { useChosen } from "./chosen";
import { useOpened } from "./opened";
import { useActs } from "./acts";
import { useCatalogue } from "./catalogue";
import { useNotices } from "./notices";

export const useLayers = defineStore("layers", () => {
  const opened = useOpened();
  const chosen = useChosen();
  const acts = useActs();
  const catalogue = useCatalogue();
  const notices = useNotices();

  function set(layers: Layer[], selected?: Layer): void {
    opened.change({ ...opened.title, layers });
    if (selected) chosen.select(selected.id, selected.build[0]?.id ?? null);
  }
  function move(layer: Layer, to: number): void {
    const layers = opened.title.layers;
    const from = layers.findIndex((each) => each.id === layer.id);
    const place = Math.min(Math.max(to, 0), layers.length - 1);
    if (from !== place) set(moved(layers, from, place));
  }
  function moveBy(layer: Layer, by: number): void {
    move(layer, opened.title.layers.findIndex((each) => each.id === layer.id) + by);
  }

  /** Of a fresh layer, from the engine: it lies where its kind belongs, and is selected. */
  async function made(kind: LayerKind, of: string[], picture?: string): Promise<void> {
    const before = new Set(opened.title.layers.map((each) => each.id));
    const fault = await acts.addLayer(kind, of, picture);
    if (fault !== null) notices.fault(fault);
    const layer = opened.title.layers.find((each) => !before.has(each.id));
    if (layer) chosen.select(layer.id, layer.build[0]?.id ?? null);
  }
  async function add(kind: LayerKind, picture?: string): Promise<void> {
    const own = catalogue.all?.pictures.filter((name) => !name.startsWith("shipped/")) ?? [];
    const usual = (kind === "plate" && own.find(isClip)) || own[0];
    const shown = kind === "picture" || kind === "plate" ? (picture ?? usual) : undefined;
    await made(kind, (kind === "copy" || kind === "backing") && chosen.layer ? [chosen.layer.id] : [], shown);
  }
  function duplicate(layer: Layer): void {
    const original = opened.document.layers.find((each) => each.id === layer.id) ?? layer;
    const name = text.bench.copyOf(layer.name).slice(0, 200);
    const copy = { ...original, id: newId(), name, build: withNewIds(original.build, newId) };
    const layers = [...opened.title.layers];
    layers.splice(layers.findIndex((each) => each.id === layer.id) + 1, 0, copy);
    set(layers, copy);
  }
  /** Deletes a layer, unless another one uses it: then it says which. */
  function remove(layer: Layer): void {
    const users = usersOfLayer(opened.title, layer.id, catalogue.entry);
    if (users.length) {
      notices.fault(text.bench.used(layer.name, users.map((each) => each.name).join(", ")));
      return;
    }
    opened.change({ ...opened.title, layers: opened.title.layers.filter((each) => each.id !== layer.id) });
    notices.say({ text: text.shelf.removed(layer.name || layer.kind), act: { label: text.act.undo, run: opened.undo } });
  }
  /** Several layers used as one, drawn in the place of the front one. */
  async function group(members: Layer[]): Promise<void> {
    const ids = opened.title.layers
      .filter((each) => each.kind !== "floor" && members.some((member) => member.id === each.id))
      .map((each) => each.id);
    if (ids.length) await made("group", ids);
  }
  function ungroup(layer: Layer): void {
    const users = usersOfLayer(opened.title, layer.id, catalogue.entry);
    if (users.length) remove(layer); // says who uses it
    else set(opened.title.layers.filter((each) => each.id !== layer.id));
  }
  return { move, moveBy, add, duplicate, remove, group, ungroup };
});
