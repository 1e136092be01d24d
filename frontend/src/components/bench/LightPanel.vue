<script setup lang="ts">
// The rig: each light's direction, strength and colour.
import { mdiClose, mdiPlus } from "@mdi/js";
import ColourField from "@/components/fields/ColourField.vue";
import NumberField from "@/components/fields/NumberField.vue";
import { constant, newId, numberOf, withLight, type Light } from "@/model/title";
import { useBench } from "@/stores/bench";
import { text } from "@/text";

const bench = useBench();

function set(light: Light, changes: Partial<Light>, name: string) {
  bench.change(withLight(bench.title, light.id, changes), `${light.id}.${name}`);
}
function add() {
  const light: Light = {
    kind: "distant", id: newId(), name: text.bench.fillLight, azimuth: 20, elevation: 30, colour: "#8fb4ff", strength: 0.5,
  };
  bench.change({ ...bench.title, lights: [...bench.title.lights, light] });
}
function remove(light: Light) {
  bench.change({ ...bench.title, lights: bench.title.lights.filter((each) => each.id !== light.id) });
}
</script>

<template>
  <section :aria-label="text.bench.light">
    <header>
      <h2>{{ text.bench.light }}</h2>
      <v-btn :icon="mdiPlus" variant="text" size="x-small" :aria-label="text.bench.addLight" @click="add" />
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
      <NumberField
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
        :label="text.light.elevation"
        :model-value="numberOf(light.elevation)"
        :low="-90"
        :high="90"
        unit="°"
        @update:model-value="set(light, { elevation: $event }, 'elevation')"
        @start="bench.dragging = true"
        @done="bench.endGesture()"
      />
      <p v-if="numberOf(light.elevation) <= 0" class="behind" role="status">{{ text.bench.behind }}</p>
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
.light :deep(.number) {
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
