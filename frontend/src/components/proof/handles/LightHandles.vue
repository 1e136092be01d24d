<script setup lang="ts">
// The place of a point or spot light, and what a spot is aimed at.
import { computed } from "vue";
import Handle from "./Handle.vue";
import Outline from "./Outline.vue";
import type { Point } from "@/model/card";
import { constant, numberOf, withLight } from "@/model/title";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { useProof } from "@/stores/proof";
import { text } from "@/text";

const opened = useOpened();
const chosen = useChosen();
const proof = useProof();
const light = computed(() => (chosen.light && chosen.light.kind !== "distant" ? chosen.light : null));
const centre = computed(() => ({ x: opened.title.frame.width / 2, y: opened.title.frame.height / 2 }));

// A light before or behind the frame is seen where the viewer sees it.
function seen(x: unknown, y: unknown, z: unknown): Point {
  const { camera } = opened.title;
  const [px, py, distance] = [numberOf(camera.pan), numberOf(camera.lift), numberOf(camera.distance, 2000)];
  const share = distance / Math.max(distance - numberOf(z), distance * 0.05);
  const [fx, fy] = [px + (numberOf(x) - px) * share, py + (numberOf(y) - py) * share];
  return proof.toPane(fx + centre.value.x, fy + centre.value.y);
}
function placeOf(to: Point, z: unknown): Point {
  const { camera } = opened.title;
  const [px, py, distance] = [numberOf(camera.pan), numberOf(camera.lift), numberOf(camera.distance, 2000)];
  const share = distance / Math.max(distance - numberOf(z), distance * 0.05);
  const frame = proof.toFrame(to.x, to.y);
  const [fx, fy] = [frame.x - centre.value.x, frame.y - centre.value.y];
  return { x: Math.round(px + (fx - px) / share), y: Math.round(py + (fy - py) / share) };
}
const at = computed(() => light.value && seen(light.value.x, light.value.y, light.value.z));
const aim = computed(() =>
  light.value?.kind === "spot" ? seen(light.value.to_x, light.value.to_y, light.value.to_z) : null,
);
function set(changes: object) {
  opened.change(withLight(opened.title, light.value!.id, changes), `${light.value!.id}.place`);
}
function move(to: Point) {
  const { x, y } = placeOf(to, light.value!.z);
  set({ x, y });
}
function moveAim(to: Point) {
  if (light.value?.kind !== "spot") return;
  const { x, y } = placeOf(to, light.value.to_z);
  set({ to_x: x, to_y: y });
}
</script>

<template>
  <g v-if="light && at">
    <Outline v-if="aim" :d="`M${at.x} ${at.y}L${aim.x} ${aim.y}`" dashed />
    <Handle v-if="aim" :at="aim" shape="square" :label="text.handles.aim(light.name)" @to="moveAim" />
    <Handle :at="at" :fill="String(constant(light.colour))" :label="text.handles.light(light.name)" @to="move" />
  </g>
</template>
