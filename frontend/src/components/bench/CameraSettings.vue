<script setup lang="ts">
// Where the viewer stands, and how far it has gone around the lettering.
import BenchNumber from "./BenchNumber.vue";
import { useBench } from "@/stores/bench";
import { text } from "@/text";

const bench = useBench();
const PLACE = { low: -100000, high: 100000, usual: [-1500, 1500], unit: "px", standard: 0 } as const;
const TURN = { low: -3600, high: 3600, usual: [-60, 60], unit: "°", standard: 0 } as const;
const ROWS = [
  { name: "distance", low: 10, high: 1000000, usual: [400, 6000], unit: "px", standard: 2000, otherwise: 2000 },
  { name: "pan", ...PLACE },
  { name: "lift", ...PLACE },
  { name: "swing", ...TURN, help: text.stand.swingHelp },
  { name: "rise", ...TURN, help: text.stand.riseHelp },
] as const;

function set(name: string, value: number) {
  bench.change({ ...bench.title, camera: { ...bench.title.camera, [name]: value } }, `camera.${name}`);
}
</script>

<template>
  <section :aria-label="text.stand.camera">
    <h2>{{ text.stand.camera }}</h2>
    <BenchNumber
      v-for="row in ROWS"
      :key="row.name"
      v-bind="row"
      :usual="[row.usual[0], row.usual[1]]"
      :label="text.stand[row.name]"
      :value="bench.title.camera[row.name]"
      @change="set(row.name, $event)"
    />
  </section>
</template>
