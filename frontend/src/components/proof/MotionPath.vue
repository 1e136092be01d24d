<script setup lang="ts">
// The way of the chosen place on the proof: a line with a dot for each frame, and its pegs.
import { computed } from "vue";
import Outline from "./handles/Outline.vue";
import { cardOf, type Point } from "@/model/card";
import { valueAt } from "@/model/places";
import { standingAt } from "@/model/time/standing";
import { pegsOf } from "@/model/time/varying";
import type { PlacedLayer, Title } from "@/model/title";
import { useCatalogue } from "@/stores/catalogue";
import { useClock } from "@/stores/clock";
import { useMotion, type Lane } from "@/stores/motion";
import { useOpened } from "@/stores/opened";
import { useProof } from "@/stores/proof";
import { useTimeline } from "@/stores/timeline";
import { text } from "@/text";

const opened = useOpened();
const catalogue = useCatalogue();
const clock = useClock();
const motion = useMotion();
const proof = useProof();
const timeline = useTimeline();
const MOST = 300; // dots

const lane = computed<Lane | undefined>(() =>
  timeline.tab === "timing"
    ? motion.lanes.find(({ key, place, setting }) =>
        motion.chosen.includes(key) && (setting.kind === "point" || place.includes("placement")))
    : undefined,
);
/** Where it is seen in a title that stands still. */
function seen(title: Title, of: Lane): Point | null {
  const layer = title.layers.find((each) => each.id === of.place[1]);
  if (of.place[0] !== "layers" || !layer || !("placement" in layer)) return null;
  const own = of.setting.kind === "point" ? (valueAt(title, of.place) as [number, number]) : [0, 0];
  const { x, y } = cardOf(layer as PlacedLayer, title).toFrame({ x: own[0]!, y: own[1]! });
  return proof.toPane(x, y);
}
function at(time: number, of: Lane): Point | null {
  return seen(standingAt(opened.document, time, catalogue), of);
}
const dots = computed(() => {
  const of = lane.value;
  if (!of || clock.playing) return [];
  const times = pegsOf(of.value).map((peg) => peg.at);
  const [from, to] = [Math.min(...times, timeline.duration), Math.max(...times, 0)];
  const every = Math.max(motion.frame, (to - from) / MOST);
  const found: Point[] = [];
  for (let time = from; time <= to + 1e-9; time += every) {
    const point = at(time, of);
    if (point) found.push(point);
  }
  return found;
});
const pegs = computed(() => {
  const of = lane.value;
  return of && dots.value.length ? pegsOf(of.value).flatMap((peg) => at(peg.at, of) ?? []) : [];
});
const path = computed(() => dots.value.map(({ x, y }, i) => `${i ? "L" : "M"}${x.toFixed(1)} ${y.toFixed(1)}`).join(""));
</script>

<template>
  <g v-if="dots.length > 1" class="way" role="img" :aria-label="text.timing.path">
    <Outline :d="path" dashed />
    <circle v-for="(dot, i) in dots" :key="i" class="dot" :cx="dot.x" :cy="dot.y" r="1.6" />
    <circle v-for="(peg, i) in pegs" :key="`peg ${i}`" class="peg" :cx="peg.x" :cy="peg.y" r="5" />
  </g>
</template>

<style scoped>
.dot {
  fill: #fff;
  stroke: #101314;
  stroke-width: 0.6;
}
.peg {
  fill: var(--accent);
  stroke: #fff;
  stroke-width: 1.5;
}
</style>
