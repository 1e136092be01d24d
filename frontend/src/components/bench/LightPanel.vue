<script setup lang="ts">
// The rig: each light's direction, strength and colour.
import { mdiClose, mdiPlus } from "@mdi/js";
import ColourField from "@/components/fields/ColourField.vue";
import NumberField from "@/components/fields/NumberField.vue";
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
const SIDES = ["x", "y", "z"] as const;
const AIM = ["to_x", "to_y", "to_z"] as const;

const TURNS = [["turn", -180, 180], ["raised", -180, 180]] as const;

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
      <template v-if="light.kind !== 'distant'">
        <NumberField
          v-for="side in light.kind === 'spot' ? [...SIDES, ...AIM] : SIDES"
          :key="side"
          :label="text.light.places[side]"
          :model-value="numberOf(light[side as 'x'])"
          :low="-100000"
          :high="100000"
          :usual="[-1500, 1500]"
          unit="px"
          @update:model-value="set(light, { [side]: $event }, side)"
          @start="bench.dragging = true"
          @done="bench.endGesture()"
        />
      </template>
      <NumberField
        v-if="light.kind === 'spot'"
        :label="text.light.cone"
        :model-value="numberOf(light.cone)"
        :low="1"
        :high="90"
        unit="°"
        @update:model-value="set(light, { cone: $event }, 'cone')"
        @start="bench.dragging = true"
        @done="bench.endGesture()"
      />
      <NumberField
        v-if="light.kind === 'distant'"
        :label="text.light.azimuth"
        :model-value="numberOf(light.azimuth)"
        :low="-3600"
        :high="3600"
        :usual="[0, 360]"
        unit="°"
        @update:model-value="set(light, { azimuth: $event }, 'azimuth')"
        @start="bench.dragging = true"
        @done="bench.endGesture()"
      />
      <NumberField
        v-if="light.kind === 'distant'"
        :label="text.light.elevation"
        :model-value="numberOf(light.elevation)"
        :low="-90"
        :high="90"
        unit="°"
        @update:model-value="set(light, { elevation: $event }, 'elevation')"
        @start="bench.dragging = true"
        @done="bench.endGesture()"
      />
      <p v-if="numberOf(light.kind === 'distant' ? light.elevation : light.z) <= 0" class="behind" role="status">{{ text.bench.behind }}</p>
      <NumberField
        :label="text.light.strength"
        :model-value="numberOf(light.strength, 1)"
        :low="0"
        :high="10"
        :usual="[0, 2]"
        :standard="1"
        unit="%"
        @update:model-value="set(light, { strength: $event }, 'strength')"
        @start="bench.dragging = true"
        @done="bench.endGesture()"
      />
      <ColourField
        :label="text.light.colour"
        :model-value="String(constant(light.colour))"
        @update:model-value="set(light, { colour: $event }, 'colour')"
        @done="bench.endGesture()"
      />
    </div>
    <template v-if="bench.title.lights.length > 1">
      <h3>{{ text.light.rig }}</h3>
      <NumberField
        v-for="[name, low, high] in TURNS"
        :key="name"
        :label="text.light.rigged[name]"
        :help="text.light.rigHelp"
        :model-value="numberOf(bench.title.rig[name])"
        :low="low"
        :high="high"
        :standard="0"
        unit="°"
        @update:model-value="setRig({ [name]: $event }, name)"
        @start="bench.dragging = true"
        @done="bench.endGesture()"
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
