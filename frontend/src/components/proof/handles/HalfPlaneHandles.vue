<script setup lang="ts">
// The line on one side of which the selected step counts.
import { computed } from "vue";
import Handle from "./Handle.vue";
import Outline from "./Outline.vue";
import { useCard } from "@/composables/useCard";
import type { Point } from "@/model/card";
import { numberOf, type Where } from "@/model/title";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

const LONG = 4000; // pixels of the card to each side: beyond any frame
const ARM = 90;
const opened = useOpened();
const chosen = useChosen();
const { toPane, fromPane } = useCard();
const tenth = (value: number) => Math.round(value * 10) / 10;

const half = computed(() => {
  const now = chosen.step?.where;
  if (now?.kind !== "half") return null;
  const [x, y] = [numberOf(now.x), numberOf(now.y)];
  const turn = (numberOf(now.turn, 90) * Math.PI) / 180;
  const at = (along: number, away: number) =>
    toPane({ x: x + away * Math.cos(turn) - along * Math.sin(turn), y: y + away * Math.sin(turn) + along * Math.cos(turn) });
  return { x, y, middle: at(0, 0), towards: at(0, ARM), ends: [at(-LONG, 0), at(LONG, 0)] as const };
});
const path = computed(() => {
  if (!half.value) return "";
  const { ends, middle, towards } = half.value;
  const line = (a: Point, b: Point) => `M${a.x.toFixed(1)} ${a.y.toFixed(1)}L${b.x.toFixed(1)} ${b.y.toFixed(1)}`;
  return line(...ends) + line(middle, towards);
});

function set(changes: object) {
  if (!chosen.step) return;
  opened.setStep(chosen.step.id, { where: { ...chosen.step.where, ...changes } as Where }, `${chosen.step.id}.where`);
}
function move(to: Point) {
  const place = fromPane(to);
  if (place) set({ x: tenth(place.x), y: tenth(place.y) });
}
function turn(to: Point) {
  const place = fromPane(to);
  if (!place || !half.value) return;
  set({ turn: tenth((Math.atan2(place.y - half.value.y, place.x - half.value.x) * 180) / Math.PI) });
}
</script>

<template>
  <g v-if="half">
    <Outline :d="path" dashed />
    <Handle :at="half.middle" :label="text.where.move" @to="move" />
    <Handle :at="half.towards" shape="square" :label="text.where.towards" @to="turn" />
  </g>
</template>
