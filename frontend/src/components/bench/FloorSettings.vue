<script setup lang="ts">
// A floor: its colour, where it lies and how far one sees it.
import ChoiceField from "@/components/fields/ChoiceField.vue";
import ColourField from "@/components/fields/ColourField.vue";
import BenchNumber from "./BenchNumber.vue";
import { constant, type Layer } from "@/model/title";
import { useBench } from "@/stores/bench";
import { text } from "@/text";

const props = defineProps<{ layer: Extract<Layer, { kind: "floor" }> }>();
const bench = useBench();
const WAYS = [
  { value: "auto", title: text.floor.auto },
  { value: "level", title: text.floor.level },
];

function set(changes: object, gesture: string | null = null) {
  bench.setLayer(props.layer.id, changes, gesture);
}
</script>

<template>
  <section :aria-label="text.floor.title">
    <h2>{{ text.floor.title }}</h2>
    <ColourField
      :label="text.light.colour"
      :model-value="String(constant(layer.source.colour))"
      @update:model-value="set({ source: { colour: $event } }, 'ground')"
      @done="bench.endGesture()"
    />
    <ChoiceField
      :label="text.floor.meets"
      :model-value="layer.level === null ? 'auto' : 'level'"
      :choices="WAYS"
      @update:model-value="set({ level: $event === 'auto' ? null : Math.round(bench.title.frame.height / 4) })"
    />
    <BenchNumber
      v-if="layer.level !== null"
      :label="text.floor.height"
      :value="layer.level"
      :low="-100000"
      :high="100000"
      :usual="[0, bench.title.frame.height]"
      unit="px"
      @change="set({ level: $event }, 'floor.level')"
    />
    <BenchNumber
      :label="text.floor.far"
      :help="text.floor.farHelp"
      :value="layer.far"
      :low="100"
      :high="1000000"
      :usual="[1000, 20000]"
      :standard="9000"
      :otherwise="9000"
      unit="px"
      @change="set({ far: $event }, 'floor.far')"
    />
  </section>
</template>
