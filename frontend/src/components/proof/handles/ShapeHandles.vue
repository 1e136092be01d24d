<script setup lang="ts">
// The middle, the size and the turn of the shape that is worked on.
import { computed } from "vue";
import Handle from "./Handle.vue";
import Outline from "./Outline.vue";
import { useCard } from "@/composables/useCard";
import type { Point } from "@/model/card";
import { numberOf } from "@/model/title";
import { useShapes } from "@/stores/shapes";
import { text } from "@/text";

const shapes = useShapes();
const { toPane, fromPane } = useCard();
const tenth = (value: number) => Math.round(value * 10) / 10;

const boxed = computed(() => {
  const now = shapes.layer && shapes.shape;
  if (!now || now.form === "path" || (now.form === "frame" && now.around)) return null;
  const { x, y } = shapes.stand;
  const [a, b] = [numberOf(now.width, 400) / 2, numberOf(now.height, 300) / 2];
  const turn = (shapes.stand.turn * Math.PI) / 180;
  const at = (u: number, v: number) =>
    toPane({ x: x + u * Math.cos(turn) - v * Math.sin(turn), y: y + u * Math.sin(turn) + v * Math.cos(turn) });
  return { x, y, turn, middle: at(0, 0), side: at(a, 0), foot: at(0, b), outline: [at(-a, -b), at(a, -b), at(a, b), at(-a, b)] };
});
const path = computed(() =>
  boxed.value ? `M${boxed.value.outline.map(({ x, y }) => `${x.toFixed(1)} ${y.toFixed(1)}`).join("L")}Z` : "",
);
const gesture = () => `${shapes.shape?.id ?? ""}.handles`;
function move(to: Point) {
  const place = fromPane(to);
  if (place) shapes.set({ x: tenth(place.x), y: tenth(place.y) }, gesture());
}
function side(to: Point) {
  const place = fromPane(to);
  if (!place || !boxed.value) return;
  const [dx, dy] = [place.x - boxed.value.x, place.y - boxed.value.y];
  shapes.set({ width: tenth(2 * Math.hypot(dx, dy)), turn: tenth((Math.atan2(dy, dx) * 180) / Math.PI) }, gesture());
}
function foot(to: Point) {
  const place = fromPane(to);
  if (!place || !boxed.value) return;
  const { x, y, turn } = boxed.value;
  shapes.set({ height: tenth(2 * Math.abs(-(place.x - x) * Math.sin(turn) + (place.y - y) * Math.cos(turn))) }, gesture());
}
</script>

<template>
  <g v-if="boxed">
    <Outline :d="path" dashed />
    <Handle :at="boxed.middle" :label="text.shapes.move" @to="move" />
    <Handle :at="boxed.side" shape="square" :label="text.shapes.side" @to="side" />
    <Handle :at="boxed.foot" shape="square" :label="text.shapes.foot" @to="foot" />
  </g>
</template>
