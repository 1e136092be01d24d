<script setup lang="ts">
// The scene from the side: the viewer at the left, cards at their depth, the lights around them.
import SideGrip from "./SideGrip.vue";
import { startDrag } from "@/composables/useDrag";
import { BOTTOM, FAR, MIDDLE, TALL, WIDE, useSideScene } from "@/composables/useSideScene";
import { constant, numberOf, withLight, type Light, type PlacedLayer } from "@/model/title";
import { directionVector, vectorDirection } from "@/model/light";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

const opened = useOpened();
const chosen = useChosen();
const { unit, drawn, lamps, floors, eye } = useSideScene();

const NEAR = 200; // frame pixels of distance for one that is dragged, at the usual distance

/** Moves a light in the plane that is seen from the side; across the frame it stays. */
function setLight(light: Light, at: { x: number; y: number }) {
  const changes: Record<string, number> =
    light.kind === "distant"
      ? { ...distantAt(light, at) }
      : {
          z: Math.round((MIDDLE.x - at.x) * unit.value),
          y: Math.round((at.y - MIDDLE.y) * unit.value),
        };
  opened.change(withLight(opened.title, light.id, changes), `${light.id}.side`);
}
function distantAt(light: Light & { kind: "distant" }, at: { x: number; y: number }) {
  const [x] = directionVector({ azimuth: numberOf(light.azimuth), elevation: numberOf(light.elevation) });
  return vectorDirection([x, (at.y - MIDDLE.y) / FAR, (MIDDLE.x - at.x) / FAR]);
}
function dragLight(event: PointerEvent, light: Light, from: { x: number; y: number }) {
  chosen.selectLight(light.id);
  opened.dragging = true;
  startDrag(event, ({ dx, dy }) => setLight(light, { x: from.x + dx, y: from.y + dy }), () => opened.endGesture());
}
function lightKeys(event: KeyboardEvent, light: Light, from: { x: number; y: number }) {
  const by = event.shiftKey ? 6 : 1;
  const ways: Record<string, [number, number]> = {
    ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by],
  };
  const way = ways[event.key];
  if (!way) return;
  event.preventDefault();
  setLight(light, { x: from.x + way[0], y: from.y + way[1] });
  opened.endGesture();
}
function setDepth(layer: PlacedLayer, z: number) {
  const most = numberOf(opened.title.camera.distance, 2000) * 0.9;
  const held = Math.round(Math.min(Math.max(z, -100000), most));
  opened.setLayer(layer.id, { placement: { ...layer.placement, z: held } }, `${layer.id}.depth`);
}
function dragCard(event: PointerEvent, layer: PlacedLayer) {
  if (layer.id !== chosen.layer?.id || chosen.lightId !== null) chosen.select(layer.id, layer.build[0]?.id ?? null);
  const from = numberOf(layer.placement.z);
  opened.dragging = true;
  startDrag(
    event,
    ({ dx, fine }) => setDepth(layer, from - dx * unit.value * (fine ? 0.1 : 1)),
    () => opened.endGesture(),
  );
}
function cardKeys(event: KeyboardEvent, layer: PlacedLayer) {
  const way = { ArrowLeft: 1, ArrowRight: -1 }[event.key];
  if (!way) return;
  event.preventDefault();
  setDepth(layer, numberOf(layer.placement.z) + way * (event.shiftKey ? 10 : 1));
  opened.endGesture();
}
function setCamera(changes: object) {
  opened.change({ ...opened.title, camera: { ...opened.title.camera, ...changes } }, "camera.side");
}
function dragCamera(event: PointerEvent) {
  chosen.selectStand("camera");
  const { distance, lift } = opened.title.camera;
  const from = { distance: numberOf(distance, 2000), lift: numberOf(lift) };
  opened.dragging = true;
  startDrag(
    event,
    ({ dx, dy, fine }) => {
      const step = fine ? 0.1 : 1;
      setCamera({
        distance: Math.round(Math.min(Math.max(from.distance - (dx * NEAR * step) / 10, 50), 100000)),
        lift: Math.round(from.lift + dy * unit.value * step),
      });
    },
    () => opened.endGesture(),
  );
}
function cameraKeys(event: KeyboardEvent) {
  const by = event.shiftKey ? 100 : 10;
  const { distance, lift } = opened.title.camera;
  const ways: Record<string, object> = {
    ArrowLeft: { distance: numberOf(distance, 2000) + by },
    ArrowRight: { distance: Math.max(numberOf(distance, 2000) - by, 50) },
    ArrowUp: { lift: numberOf(lift) - by },
    ArrowDown: { lift: numberOf(lift) + by },
  };
  if (!ways[event.key]) return;
  event.preventDefault();
  setCamera(ways[event.key]!);
  opened.endGesture();
}
</script>

<template>
  <section class="side" :aria-label="text.side.title">
    <h2>{{ text.side.title }}</h2>
    <svg :viewBox="`0 0 ${WIDE} ${TALL}`" :height="TALL">
      <path class="sight" :d="`M${eye.x + 6} ${eye.y}L${WIDE} ${MIDDLE.y - 44}M${eye.x + 6} ${eye.y}L${WIDE} ${MIDDLE.y + 44}`" />
      <path class="plane" :d="`M${MIDDLE.x} 6V${BOTTOM}`" />
      <path v-for="each in floors" :key="each.layer.id" class="floor" :d="`M8 ${each.y}H${WIDE - 8}`">
        <title>{{ each.layer.name }}</title>
      </path>
      <SideGrip
        class="camera"
        :class="{ chosen: chosen.standId === 'camera' }"
        :label="text.side.camera"
        :title="text.side.camera"
        :now="numberOf(opened.title.camera.distance, 2000)"
        :said="`${numberOf(opened.title.camera.distance, 2000)} px`"
        @press="dragCamera"
        @keys="cameraKeys"
      >
        <circle class="grab" :cx="eye.x" :cy="eye.y" r="9" />
        <path class="viewer" :d="`M${eye.x - 6} ${eye.y}l13 -7v14z`" />
      </SideGrip>
      <SideGrip
        v-for="card in drawn"
        :key="card.layer.id"
        class="card"
        :class="{ chosen: card.chosen }"
        :label="text.side.card(card.layer.name)"
        :title="card.layer.name"
        :now="numberOf(card.layer.placement.z)"
        :said="`${numberOf(card.layer.placement.z)} px`"
        @press="dragCard($event, card.layer)"
        @keys="cardKeys($event, card.layer)"
      >
        <path
          v-if="card.deep > 0.5"
          class="deep"
          :d="`M${card.top.x} ${card.top.y}h${card.deep}L${card.bottom.x + card.deep} ${card.bottom.y}h${-card.deep}z`"
        />
        <path class="grab" :d="`M${card.top.x} ${card.top.y}L${card.bottom.x} ${card.bottom.y}`" />
        <path class="front" :d="`M${card.top.x} ${card.top.y}L${card.bottom.x} ${card.bottom.y}`" />
      </SideGrip>
      <SideGrip
        v-for="lamp in lamps"
        :key="lamp.light.id"
        class="lamp"
        :class="{ behind: lamp.behind, chosen: lamp.chosen }"
        :label="text.side.light(lamp.light.name)"
        :title="lamp.behind ? `${lamp.light.name}: ${text.bench.behind}` : lamp.light.name"
        :now="Math.round(MIDDLE.x - lamp.at.x)"
        :said="lamp.behind ? text.bench.behind : lamp.light.name"
        @press="dragLight($event, lamp.light, lamp.at)"
        @keys="lightKeys($event, lamp.light, lamp.at)"
      >
        <path class="ray" :d="`M${lamp.at.x} ${lamp.at.y}L${MIDDLE.x} ${MIDDLE.y}`" />
        <circle class="grab" :cx="lamp.at.x" :cy="lamp.at.y" r="9" />
        <circle class="bulb" :cx="lamp.at.x" :cy="lamp.at.y" r="5" :fill="String(constant(lamp.light.colour))" />
        <text :x="lamp.at.x" :y="lamp.at.y < 18 ? lamp.at.y + 15 : lamp.at.y - 8">{{ lamp.light.name }}</text>
      </SideGrip>
    </svg>
    <p v-for="lamp in lamps.filter((each) => each.behind)" :key="lamp.light.id" class="warning" role="status">
      {{ lamp.light.name }}: {{ text.bench.behind }}
    </p>
  </section>
</template>

<style scoped>
svg {
  width: 100%;
  margin-top: 4px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--raised);
  touch-action: none;
  overflow: hidden;
}
.sight,
.plane,
.floor {
  stroke: var(--line);
  fill: none;
}
.plane {
  stroke-dasharray: 2 3;
}
.floor {
  stroke: var(--quiet);
}
.viewer {
  fill: var(--ink);
}
.card,
.lamp,
.camera {
  outline: none !important;
  cursor: ew-resize;
}
.lamp,
.camera {
  cursor: grab;
}
.grab {
  stroke: transparent;
  stroke-width: 14;
  fill: transparent;
}
.front {
  stroke: var(--ink);
  stroke-width: 3;
}
.deep {
  fill: color-mix(in srgb, var(--ink) 12%, transparent);
  stroke: color-mix(in srgb, var(--ink) 40%, transparent);
}
.card.chosen .front {
  stroke: var(--accent);
  stroke-width: 4;
}
.card.chosen .deep {
  fill: color-mix(in srgb, var(--accent) 16%, transparent);
  stroke: var(--accent);
}
.camera.chosen .viewer {
  fill: var(--accent);
}
.camera:focus-visible .viewer,
.card:focus-visible .front,
.lamp:focus-visible .bulb {
  stroke: var(--focus);
  stroke-width: 4;
}
.bulb {
  stroke: var(--ink);
}
.lamp.chosen .bulb {
  stroke: var(--accent);
  stroke-width: 2.5;
}
.ray {
  stroke: #c08a1c;
  stroke-dasharray: 3 3;
}
.lamp.behind .ray,
.lamp.behind .bulb {
  stroke: #c0341b;
}
.lamp text {
  font-size: 10px;
  fill: var(--ink);
  text-anchor: middle;
}
.warning {
  color: var(--accent);
  font-size: 12px;
}
</style>
