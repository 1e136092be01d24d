<script setup lang="ts">
// The lights of the title; the first is the key light.
import { mdiPlus } from "@mdi/js";
import PickRow from "./PickRow.vue";
import { usersOfLight } from "@/model/references";
import { constant, newId, numberOf, type Light } from "@/model/title";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { useCatalogue } from "@/stores/catalogue";
import { useNotices } from "@/stores/notices";
import { text } from "@/text";

const opened = useOpened();
const chosen = useChosen();
const catalogue = useCatalogue();
const notices = useNotices();

function add(kind: Light["kind"]) {
  const common = { id: newId(), name: text.bench.fillLight, colour: "#8fb4ff", strength: 0.5 };
  const { width, height } = opened.title.frame;
  const place = { x: Math.round(width * 0.26), y: Math.round(height * -0.28), z: Math.round(width * 0.18) };
  const lights: Record<Light["kind"], object> = {
    distant: { ...common, kind, azimuth: 20, elevation: 30 },
    point: { ...common, kind, ...place },
    spot: { ...common, kind, ...place, to_x: 0, to_y: 0, to_z: 0, cone: 35, tightness: 1 },
  };
  const light = lights[kind] as Light;
  opened.change({ ...opened.title, lights: [...opened.title.lights, light] });
  chosen.selectLight(light.id);
}
function remove(light: Light) {
  const users = usersOfLight(opened.title, light.id, catalogue.entry);
  if (users.length) {
    const names = users.map((step) => catalogue.entry(step.step)?.label ?? step.step);
    notices.fault(text.bench.used(light.name, names.join(", ")));
    return;
  }
  opened.change({ ...opened.title, lights: opened.title.lights.filter((each) => each.id !== light.id) });
}
</script>

<template>
  <section :aria-label="text.bench.light">
    <header class="titled">
      <h2>{{ text.bench.lights }}</h2>
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
    <p v-if="!opened.title.lights.length" class="quiet">{{ text.bench.noLight }}</p>
    <ul class="picks">
      <PickRow
        v-for="light in opened.title.lights"
        :key="light.id"
        :chosen="light.id === chosen.lightId"
        :remove="text.bench.deleteLight(light.name)"
        @pick="chosen.selectLight(light.id)"
        @remove="remove(light)"
      >
        <span class="lamp" :style="{ background: String(constant(light.colour)) }"></span>
        <span class="name">{{ light.name }}</span>
        <span v-if="numberOf(light.kind === 'distant' ? light.elevation : light.z) <= 0" class="behind">
          {{ text.bench.behindShort }}
        </span>
        <span v-else class="quiet mono told">
          {{ light.kind === "distant" ? `${Math.round(numberOf(light.azimuth))}°` : text.light.kinds[light.kind] }}
        </span>
      </PickRow>
    </ul>
  </section>
</template>

<style scoped>
.lamp {
  flex: none;
  width: 12px;
  height: 12px;
  border: 1px solid var(--quiet);
  border-radius: 50%;
}
.name,
.told {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.name {
  flex: 1 0 auto;
  max-width: 65%;
}
.told {
  min-width: 0;
}
.behind {
  color: var(--accent);
  font-size: 12px;
}
</style>
