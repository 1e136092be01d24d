<script setup lang="ts">
// The camera, and the handles by which several layers turn as one.
import { mdiPlus } from "@mdi/js";
import PickRow from "./PickRow.vue";
import { newId, type RigHandle } from "@/model/title";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

const opened = useOpened();
const chosen = useChosen();
const PLACEMENT = { x: 0, y: 0, z: 0, turn_x: 0, turn_y: 0, turn_z: 0, scale: 1 };

function hanging(handle: RigHandle): number {
  return opened.title.layers.filter((layer) => "handle" in layer && layer.handle === handle.id).length;
}
function add() {
  const handles = opened.title.handles;
  const handle = { id: newId(), name: text.stand.handle(handles.length + 1), placement: PLACEMENT };
  opened.change({ ...opened.title, handles: [...handles, handle] });
  chosen.selectStand(handle.id);
}
/** What hung on it stays, measured in the scene's own axes. */
function remove(handle: RigHandle) {
  const layers = opened.title.layers.map((layer) =>
    "handle" in layer && layer.handle === handle.id ? { ...layer, handle: null } : layer,
  );
  const handles = opened.title.handles.filter((each) => each.id !== handle.id);
  opened.change({ ...opened.title, layers, handles });
  if (chosen.standId === handle.id) chosen.standId = null;
}
</script>

<template>
  <section :aria-label="text.stand.title">
    <header class="titled">
      <h2>{{ text.stand.title }}</h2>
      <v-btn :icon="mdiPlus" variant="text" size="x-small" :aria-label="text.stand.addHandle" @click="add" />
    </header>
    <ul class="picks">
      <PickRow :chosen="chosen.standId === 'camera'" @pick="chosen.selectStand('camera')">
        <span>{{ text.stand.camera }}</span>
      </PickRow>
      <PickRow
        v-for="handle in opened.title.handles"
        :key="handle.id"
        :chosen="chosen.standId === handle.id"
        :remove="text.stand.deleteHandle(handle.name)"
        @pick="chosen.selectStand(handle.id)"
        @remove="remove(handle)"
      >
        <span>{{ handle.name }}</span>
        <span class="quiet">{{ text.stand.hangs(hanging(handle)) }}</span>
      </PickRow>
    </ul>
  </section>
</template>
