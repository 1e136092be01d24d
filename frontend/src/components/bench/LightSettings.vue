<script setup lang="ts">
// The selected light: direction or place, strength, colour; and the rig turned as one.
import ColourField from "@/components/fields/ColourField.vue";
import BenchNumber from "./BenchNumber.vue";
import { constant, numberOf, withLight, type Light } from "@/model/title";
import { useBench } from "@/stores/bench";
import { text } from "@/text";

const props = defineProps<{ light: Light }>();
const bench = useBench();

function set(changes: object, name: string) {
  bench.change(withLight(bench.title, props.light.id, changes), `${props.light.id}.${name}`);
}
function rename(event: Event) {
  const name = (event.target as HTMLInputElement).value.trim().slice(0, 200);
  if (name) set({ name }, "name");
  bench.endGesture();
}
interface Row {
  name: string;
  label: string;
  low: number;
  high: number;
  usual?: [number, number];
  unit: string;
  standard?: number;
  otherwise?: number;
}
const place = (name: keyof typeof text.light.places): Row => ({
  name, label: text.light.places[name], low: -100000, high: 100000, usual: [-1500, 1500], unit: "px",
});
const PLACE = [place("x"), place("y"), place("z")];
const CONE: Row = { name: "cone", label: text.light.cone, low: 1, high: 90, unit: "°" };
const STRENGTH: Row = {
  name: "strength", label: text.light.strength, low: 0, high: 10, usual: [0, 2], unit: "%", standard: 1, otherwise: 1,
};
const ROWS: Record<Light["kind"], Row[]> = {
  distant: [
    { name: "azimuth", label: text.light.azimuth, low: -3600, high: 3600, usual: [0, 360], unit: "°" },
    { name: "elevation", label: text.light.elevation, low: -90, high: 90, unit: "°" },
    STRENGTH,
  ],
  point: [...PLACE, STRENGTH],
  spot: [...PLACE, place("to_x"), place("to_y"), place("to_z"), CONE, STRENGTH],
};

const TURNS = ["turn", "raised"] as const;

function setRig(changes: object, name: string) {
  bench.change({ ...bench.title, rig: { ...bench.title.rig, ...changes } }, `rig.${name}`);
}
</script>

<template>
  <section :aria-label="text.bench.light">
    <input class="name" :value="light.name" :aria-label="text.act.rename" maxlength="200" @change="rename" />
    <p class="quiet">{{ text.light.kinds[light.kind] }}</p>
    <BenchNumber
      v-for="row in ROWS[light.kind]"
      :key="row.name"
      v-bind="row"
      :value="light[row.name as keyof Light]"
      @change="set({ [row.name]: $event }, row.name)"
    />
    <p v-if="numberOf(light.kind === 'distant' ? light.elevation : light.z) <= 0" class="behind" role="status">
      {{ text.bench.behind }}
    </p>
    <ColourField
      :label="text.light.colour"
      :model-value="String(constant(light.colour))"
      @update:model-value="set({ colour: $event }, 'colour')"
      @done="bench.endGesture()"
    />
    <h3>{{ text.light.rig }}</h3>
    <BenchNumber
      v-for="name in TURNS"
      :key="name"
      :label="text.light.rigged[name]"
      :help="text.light.rigHelp"
      :value="bench.title.rig[name]"
      :low="-180"
      :high="180"
      :standard="0"
      unit="°"
      @change="setRig({ [name]: $event }, name)"
    />
  </section>
</template>

<style scoped>
.name {
  width: 100%;
  border: 1px solid transparent;
  border-radius: 3px;
  background: none;
  color: inherit;
  font: inherit;
  font-size: 15px;
  font-weight: 650;
  padding: 0 2px;
}
.name:hover,
.name:focus {
  border-color: var(--line);
  background: var(--raised);
}
h3 {
  margin-top: 12px;
}
p {
  margin-bottom: 6px;
}
.behind {
  color: var(--accent);
}
</style>
