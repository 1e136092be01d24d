<script setup lang="ts">
// The selected layer's card: dragged to move it, by a corner to scale it (with Alt to tilt it), by
// an edge to tilt it, by the knob to turn it.
import { computed } from "vue";
import Handle from "./Handle.vue";
import Outline from "./Outline.vue";
import TiltEdges from "./TiltEdges.vue";
import type { Box } from "@/composables/useBoxes";
import { useCard } from "@/composables/useCard";
import { startDrag } from "@/composables/useDrag";
import type { Point } from "@/model/card";
import { numberOf, type PlacedLayer } from "@/model/title";
import { useOpened } from "@/stores/opened";
import { useProof } from "@/stores/proof";
import { text } from "@/text";

const props = defineProps<{ layer: PlacedLayer; box: Box }>();
const opened = useOpened();
const proof = useProof();
const { toPane } = useCard();

const corners = computed(() => {
  const { left, top, right, bottom } = props.box;
  return [
    { x: left, y: top }, { x: right, y: top }, { x: right, y: bottom }, { x: left, y: bottom },
  ].map(toPane);
});
const middle = computed(() => toPane({ x: 0, y: 0 }));
const KNOB = 26;
const knob = computed(() => {
  const foot = toPane({ x: 0, y: props.box.top });
  const [dx, dy] = [foot.x - middle.value.x, foot.y - middle.value.y];
  const long = Math.max(Math.hypot(dx, dy), 1);
  return { foot, at: { x: foot.x + (dx / long) * KNOB, y: foot.y + (dy / long) * KNOB } };
});
const path = computed(() => `M${corners.value.map(({ x, y }) => `${x.toFixed(1)} ${y.toFixed(1)}`).join("L")}Z`);
const tenth = (value: number) => Math.round(value * 10) / 10;

function place(changes: object) {
  opened.setLayer(props.layer.id, { placement: { ...props.layer.placement, ...changes } }, "placement.handle");
}
/** Frame pixels that the card moves for one on the proof. */
const perPixel = computed(() => {
  const distance = numberOf(opened.title.camera.distance, 2000);
  return (distance - numberOf(props.layer.placement.z)) / distance / proof.scale;
});
function moved(from: { x: number; y: number }, dx: number, dy: number) {
  place({ x: tenth(from.x + dx * perPixel.value), y: tenth(from.y + dy * perPixel.value) });
}
function press(event: PointerEvent) {
  if (event.button !== 0) return;
  (event.currentTarget as SVGElement).focus();
  const from = { x: numberOf(props.layer.placement.x), y: numberOf(props.layer.placement.y) };
  opened.dragging = true;
  startDrag(event, ({ dx, dy }) => moved(from, dx, dy), () => opened.endGesture());
}
function keys(event: KeyboardEvent) {
  const by = event.shiftKey ? 10 : 1;
  const ways: Record<string, [number, number]> = {
    ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by],
  };
  const way = ways[event.key];
  if (!way) return;
  event.preventDefault();
  event.stopPropagation();
  const { x, y } = props.layer.placement;
  place({ x: numberOf(x) + way[0], y: numberOf(y) + way[1] });
  opened.endGesture();
}
function drag(corner: Point, to: Point, alt: boolean) {
  if (alt) tilt(corner, to);
  else scale(corner, to);
}
/** Pushed inwards, a corner goes back and away from the viewer. */
function tilt(corner: Point, to: Point) {
  const [across, down] = [corner.x - middle.value.x, corner.y - middle.value.y];
  const share = (moved: number, half: number) => ((moved / Math.max(Math.abs(half), 20)) * Math.sign(half) * 90) / 4;
  const { turn_x, turn_y } = props.layer.placement;
  place({
    turn_y: tenth(numberOf(turn_y) - Math.sign(across) * share(to.x - corner.x, across)),
    turn_x: tenth(numberOf(turn_x) + Math.sign(down) * share(to.y - corner.y, down)),
  });
}
function scale(corner: Point, to: Point) {
  const long = (point: Point) => Math.hypot(point.x - middle.value.x, point.y - middle.value.y);
  const wanted = (numberOf(props.layer.placement.scale, 1) * long(to)) / Math.max(long(corner), 1);
  place({ scale: Math.round(Math.min(Math.max(wanted, 0.01), 100) * 1000) / 1000 });
}
function turn(to: Point) {
  const angle = (point: Point) => (Math.atan2(point.y - middle.value.y, point.x - middle.value.x) * 180) / Math.PI;
  const by = angle(to) - angle(knob.value.at);
  const turned = numberOf(props.layer.placement.turn_z) + by;
  place({ turn_z: tenth(((((turned + 180) % 360) + 360) % 360) - 180) });
}
</script>

<template>
  <g>
    <Outline :d="path" dashed />
    <path
      class="body"
      :d="path"
      tabindex="0"
      role="button"
      :aria-label="text.handles.move(layer.name)"
      @pointerdown.stop="press"
      @keydown="keys"
    />
    <TiltEdges :layer="layer" :corners="corners" @turn="place" />
    <Outline :d="`M${knob.foot.x} ${knob.foot.y}L${knob.at.x} ${knob.at.y}`" />
    <Handle :at="knob.at" :label="text.handles.turn(layer.name)" @to="turn" />
    <Handle
      v-for="(corner, index) in corners"
      :key="index"
      :at="corner"
      shape="square"
      :label="text.handles.scale(layer.name)"
      @to="(to, alt) => drag(corner, to, alt)"
    />
  </g>
</template>

<style scoped>
.body {
  fill: transparent;
  pointer-events: auto;
  cursor: move;
  touch-action: none;
}
</style>
