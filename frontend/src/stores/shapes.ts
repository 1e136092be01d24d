// The shape that is worked on, and the pen that draws paths.
import { defineStore } from "pinia";
import { computed, ref, watch } from "vue";
import { useCard } from "@/composables/useCard";
import { startDrag } from "@/composables/useDrag";
import { movedNode, pulledNode, type Form, type Node, type Shape } from "@/model/shapes";
import { constant, moved, newId, type Layer } from "@/model/title";
import { useCatalogue } from "./catalogue";
import { useChosen } from "./chosen";
import { useMotion } from "./motion";
import { useOpened } from "./opened";

type ShapesLayer = Extract<Layer, { kind: "shapes" }>;

export const useShapes = defineStore("shapes", () => {
  const opened = useOpened();
  const chosen = useChosen();
  const motion = useMotion();
  const catalogue = useCatalogue();
  const { fromPane } = useCard();
  const id = ref("");
  /** Presses in the proof draw the path. */
  const pen = ref(false);

  const layer = computed(() => (chosen.layer?.kind === "shapes" ? (chosen.layer as ShapesLayer) : null));
  const shape = computed<Shape | undefined>(
    () => layer.value?.source.shapes.find((each) => each.id === id.value) ?? layer.value?.source.shapes.at(-1),
  );
  /** Where the drawn path stands: that of the shape, or the line that words run along. */
  const place = computed(() => {
    if (layer.value && shape.value?.form === "path") {
      return ["layers", layer.value.id, "source", "shapes", shape.value.id ?? "", "nodes"];
    }
    const words = chosen.layer?.kind === "lettering" ? chosen.layer : null;
    return words?.source.along?.on === "line" ? ["layers", words.id, "source", "along", "nodes"] : null;
  });
  const nodes = computed<Node[]>(() => {
    const found = layer.value ? shape.value?.nodes : chosen.layer?.kind === "lettering" ? chosen.layer.source.along?.nodes : null;
    return place.value ? (constant(found) as Node[] | undefined) ?? [] : [];
  });
  const closed = computed(() => layer.value !== null && (shape.value?.closed ?? true));
  /** What the path is turned and moved by, as its shape is. */
  const stand = computed(() => {
    const own = layer.value ? shape.value : undefined;
    return { x: Number(constant(own?.x ?? 0)), y: Number(constant(own?.y ?? 0)), turn: Number(constant(own?.turn ?? 0)) };
  });
  watch([() => chosen.layer?.id, () => chosen.stepId, () => shape.value?.id], () => (pen.value = false));

  function put(shapes: Shape[], selected?: string): void {
    if (!layer.value) return;
    opened.setLayer(layer.value.id, { source: { shapes } });
    if (selected !== undefined) id.value = selected;
  }
  function add(form: Form): void {
    if (!layer.value) return;
    const fresh = newId();
    const told = catalogue.model("shape").map((each) => [each.name, each.default] as const);
    put([...layer.value.source.shapes, { ...Object.fromEntries(told), id: fresh, form } as Shape], fresh);
  }
  function remove(wanted: string): void {
    const left = layer.value?.source.shapes.filter((each) => each.id !== wanted) ?? [];
    if (left.length) put(left, left.at(-1)!.id ?? "");
  }
  function move(wanted: string, by: number): void {
    const all = layer.value?.source.shapes ?? [];
    const from = all.findIndex((each) => each.id === wanted);
    const to = Math.min(Math.max(from + by, 0), all.length - 1);
    if (from !== to) put(moved(all, from, to), wanted);
  }
  function set(changes: Partial<Shape>, gesture: string | null = null): void {
    const own = layer.value;
    const now = shape.value;
    if (!own || !now) return;
    const shapes = own.source.shapes.map((each) => (each.id === now.id ? { ...each, ...changes } : each));
    opened.setLayer(own.id, { source: { shapes } }, gesture);
  }
  function setNodes(next: Node[], gesture: string | null = null): void {
    if (place.value && next.length > 1) motion.set(place.value, next, gesture);
  }

  /** From the proof to the path's own places, and back. */
  function toPath(point: { x: number; y: number }): { x: number; y: number } | null {
    const there = fromPane(point);
    if (!there) return null;
    const turn = (-stand.value.turn * Math.PI) / 180;
    const [dx, dy] = [there.x - stand.value.x, there.y - stand.value.y];
    return { x: dx * Math.cos(turn) - dy * Math.sin(turn), y: dx * Math.sin(turn) + dy * Math.cos(turn) };
  }
  let drawn: Node[] = [];
  /** The next presses draw the path anew; the pen is laid down where it was in use. */
  function startPen(): void {
    drawn = [];
    pen.value = !pen.value;
  }
  /** A press draws a corner there, a drag a curve. */
  function draw(event: PointerEvent): void {
    const pane = event.currentTarget as HTMLElement;
    const box = pane.getBoundingClientRect();
    const at = (x: number, y: number) => toPath({ x: x - box.left, y: y - box.top });
    const first = at(event.clientX, event.clientY);
    if (!first) return;
    const node = movedNode([0, 0, 0, 0, 0, 0], first);
    drawn = [...drawn, node];
    const gesture = `pen ${place.value?.join("/") ?? ""} ${drawn.length}`;
    const show = () => setNodes(drawn.length > 1 ? drawn : [drawn[0]!, drawn[0]!], gesture);
    show();
    opened.dragging = true;
    startDrag(
      event,
      ({ x, y }) => {
        const end = at(x, y);
        if (!end) return;
        const after = pulledNode(node, "after", end, true);
        drawn = [...drawn.slice(0, -1), [node[0], node[1], -after[4], -after[5], after[4], after[5]]];
        show();
      },
      () => opened.endGesture(),
    );
  }
  return {
    id, pen, layer, shape, place, nodes, closed, stand, add, remove, move, set, setNodes, toPath, startPen, draw,
  };
});
