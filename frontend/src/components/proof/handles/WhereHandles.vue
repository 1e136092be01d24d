<script setup lang="ts">
// The ellipse, rectangle or polygon within which the selected step counts.
import { computed } from "vue";
import AddBetween from "./AddBetween.vue";
import Handle from "./Handle.vue";
import Outline from "./Outline.vue";
import { useCard } from "@/composables/useCard";
import type { Point } from "@/model/card";
import { constant, numberOf, type Where } from "@/model/title";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

const opened = useOpened();
const chosen = useChosen();
const { toPane, fromPane } = useCard();
const where = computed(() => chosen.step?.where ?? null);
const tenth = (value: number) => Math.round(value * 10) / 10;

function set(changes: object) {
  if (!chosen.step) return;
  opened.setStep(chosen.step.id, { where: { ...where.value, ...changes } as Where }, `${chosen.step.id}.where`);
}

const boxed = computed(() => {
  const now = where.value;
  if (now?.kind !== "ellipse" && now?.kind !== "rectangle") return null;
  const [x, y] = [numberOf(now.x), numberOf(now.y)];
  const [a, b] = [numberOf(now.width, 400) / 2, numberOf(now.height, 200) / 2];
  const turn = (numberOf(now.turn) * Math.PI) / 180;
  const at = (u: number, v: number) =>
    toPane({ x: x + u * Math.cos(turn) - v * Math.sin(turn), y: y + u * Math.sin(turn) + v * Math.cos(turn) });
  const round = Array.from({ length: 64 }, (_, i) => at(a * Math.cos((i * Math.PI) / 32), b * Math.sin((i * Math.PI) / 32)));
  const square = [at(-a, -b), at(a, -b), at(a, b), at(-a, b)];
  return { x, y, turn, middle: at(0, 0), side: at(a, 0), foot: at(0, b), outline: now.kind === "ellipse" ? round : square };
});
function moveBox(to: Point) {
  const place = fromPane(to);
  if (place) set({ x: tenth(place.x), y: tenth(place.y) });
}
function moveSide(to: Point) {
  const place = fromPane(to);
  if (!place || !boxed.value) return;
  const [dx, dy] = [place.x - boxed.value.x, place.y - boxed.value.y];
  set({ width: tenth(2 * Math.hypot(dx, dy)), turn: tenth((Math.atan2(dy, dx) * 180) / Math.PI) });
}
function moveFoot(to: Point) {
  const place = fromPane(to);
  if (!place || !boxed.value) return;
  const { x, y, turn } = boxed.value;
  set({ height: tenth(2 * Math.abs(-(place.x - x) * Math.sin(turn) + (place.y - y) * Math.cos(turn))) });
}

const corners = computed(() => {
  const now = where.value;
  if (now?.kind !== "polygon") return null;
  return (constant(now.points) as [number, number][]).map(([x, y]) => ({ x, y }));
});
const between = computed(() =>
  (corners.value ?? []).map((corner, i, all) => {
    const next = all[(i + 1) % all.length]!;
    return { x: (corner.x + next.x) / 2, y: (corner.y + next.y) / 2 };
  }),
);
function setCorners(points: Point[]) {
  set({ points: points.map(({ x, y }) => [tenth(x), tenth(y)]) });
}
function moveCorner(index: number, to: Point) {
  const place = fromPane(to);
  if (place && corners.value) setCorners(corners.value.map((corner, i) => (i === index ? place : corner)));
}
function addCorner(index: number) {
  if (!corners.value) return;
  const points = [...corners.value];
  points.splice(index + 1, 0, between.value[index]!);
  setCorners(points);
  opened.endGesture();
}
function removeCorner(index: number) {
  if (!corners.value || corners.value.length <= 3) return;
  setCorners(corners.value.filter((_, i) => i !== index));
  opened.endGesture();
}
const path = computed(() => {
  const points = boxed.value?.outline ?? corners.value?.map(toPane) ?? [];
  return points.length ? `M${points.map(({ x, y }) => `${x.toFixed(1)} ${y.toFixed(1)}`).join("L")}Z` : "";
});
</script>

<template>
  <g v-if="path">
    <Outline :d="path" dashed />
    <template v-if="boxed">
      <Handle :at="boxed.middle" :label="text.where.move" @to="moveBox" />
      <Handle :at="boxed.side" shape="square" :label="text.where.side" @to="moveSide" />
      <Handle :at="boxed.foot" shape="square" :label="text.where.foot" @to="moveFoot" />
    </template>
    <template v-else-if="corners">
      <AddBetween
        v-for="(point, index) in between"
        :key="`between ${index}`"
        :at="toPane(point)"
        :label="text.where.addCorner"
        @add="addCorner(index)"
      />
      <Handle
        v-for="(corner, index) in corners"
        :key="index"
        :at="toPane(corner)"
        :label="text.where.corner(index + 1)"
        @to="moveCorner(index, $event)"
        @remove="removeCorner(index)"
      />
    </template>
  </g>
</template>
