<script setup lang="ts">
// The rig: each light's direction, strength and colour.
import { mdiClose, mdiPlus } from "@mdi/js";
import ColourField from "@/components/fields/ColourField.vue";
import BenchNumber from "./BenchNumber.vue";
import { usersOfLight } from "@/model/references";
import { constant, newId, numberOf, withLight, type Light } from "@/model/title";
import { useBench } from "@/stores/bench";
import { useCatalogue } from "@/stores/catalogue";
import { useNotices } from "@/stores/notices";
import { text } from "@/text";

const bench = useBench();
const catalogue = useCatalogue();
const notices = useNotices();

function set(light: Light, changes: object, name: string) {
  bench.change(withLight(bench.title, light.id, changes), `${light.id}.${name}`);
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
function add(kind: Light["kind"]) {
  const common = { id: newId(), name: text.bench.fillLight, colour: "#8fb4ff", strength: 0.5 };
  const place = { x: 500, y: -300, z: 350 };
  const lights: Record<Light["kind"], object> = {
    distant: { ...common, kind, azimuth: 20, elevation: 30 },
    point: { ...common, kind, ...place },
    spot: { ...common, kind, ...place, to_x: 0, to_y: 0, to_z: 0, cone: 35, tightness: 1 },
  };
  const light = lights[kind] as Light;
  bench.change({ ...bench.title, lights: [...bench.title.lights, light] });
}
function remove(light: Light) {
  const users = usersOfLight(bench.title, light.id, catalogue.entry);
  if (users.length) {
    const names = users.map((step) => catalogue.entry(step.step)?.label ?? step.step);
    notices.fault(text.bench.used(light.name, names.join(", ")));
    return;
  }
  bench.change({ ...bench.title, lights: bench.title.lights.filter((each) => each.id !== light.id) });
}
</script>

<template>
  <section :aria-label="text.bench.light">
    <header>
      <h2>{{ text.bench.light }}</h2>
      <v-menu>
        <template #activator="{ props: activator }">
          <v-btn v-bind="activator" :icon="mdiPlus" variant="text" size="x-small" :aria-label="text.bench.addLight" />
        </template>
        <v-list>
          <v-list-item :title="text.bench.addDistant" @click="add('distant')" />
          <v-list-item :title="text.bench.addPoint" @click="add('point')" />
          <v-list-item :title="text.bench.addSpot" @click="add('spot')" />
        </v-list>
      </v-menu>
    </header>
    <p v-if="!bench.title.lights.length" class="quiet">{{ text.bench.noLight }}</p>
    <div v-for="light in bench.title.lights" :key="light.id" class="light">
      <header>
        <span>{{ light.name }}</span>
        <v-btn
          :icon="mdiClose"
          variant="text"
          size="x-small"
          :aria-label="text.bench.deleteLight(light.name)"
          @click="remove(light)"
        />
      </header>
      <BenchNumber
        v-for="row in ROWS[light.kind]"
        :key="row.name"
        v-bind="row"
        :value="light[row.name as keyof Light]"
        @change="set(light, { [row.name]: $event }, row.name)"
      />
      <p v-if="numberOf(light.kind === 'distant' ? light.elevation : light.z) <= 0" class="behind" role="status">{{ text.bench.behind }}</p>
      <ColourField
        :label="text.light.colour"
        :model-value="String(constant(light.colour))"
        @update:model-value="set(light, { colour: $event }, 'colour')"
        @done="bench.endGesture()"
      />
    </div>
    <template v-if="bench.title.lights.length > 1">
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
    </template>
  </section>
</template>

<style scoped>
header {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
.light {
  padding: 2px 0 6px;
}
.light :deep(.number),
section > :deep(.number) {
  grid-template-columns: 56px 1fr 58px;
  gap: 4px;
}
.light :deep(.colour) {
  grid-template-columns: 56px 1fr 72px;
  gap: 4px;
}
.behind {
  color: var(--accent);
}
</style>
