<script setup lang="ts">
// Colours at places in the lettering's box: shares of its width and height.
import { mdiClose, mdiPlus } from "@mdi/js";
import type { Spot } from "@/model/title";
import { text } from "@/text";
import ColourField from "./ColourField.vue";
import PointField from "./PointField.vue";

const props = defineProps<{ modelValue: Spot[] }>();
const emit = defineEmits<{ "update:modelValue": [value: Spot[]]; done: [] }>();

function set(at: number, changes: Partial<Spot>) {
  emit("update:modelValue", props.modelValue.map((spot, i) => (i === at ? { ...spot, ...changes } : spot)));
}
function place(at: number, [x, y]: [number, number]) {
  set(at, { x: x / 100, y: y / 100 });
}
function add() {
  emit("update:modelValue", [...props.modelValue, { x: 0.5, y: 0.5, colour: "#ffffff" }]);
  emit("done");
}
function remove(at: number) {
  emit("update:modelValue", props.modelValue.filter((_, i) => i !== at));
  emit("done");
}
</script>

<template>
  <fieldset class="spots">
    <div v-for="(spot, at) in modelValue" :key="at" class="spot">
      <ColourField
        :label="text.spots.colour(at + 1)"
        :model-value="spot.colour"
        @update:model-value="set(at, { colour: $event })"
        @done="emit('done')"
      />
      <PointField
        :label="text.spots.place(at + 1)"
        :model-value="[spot.x * 100, spot.y * 100]"
        @update:model-value="place(at, $event)"
        @done="emit('done')"
      />
      <v-btn
        v-if="modelValue.length > 1"
        :icon="mdiClose"
        variant="text"
        size="x-small"
        :aria-label="text.spots.remove(at + 1)"
        @click="remove(at)"
      />
    </div>
    <v-btn :prepend-icon="mdiPlus" variant="text" size="small" :disabled="modelValue.length >= 32" @click="add">
      {{ text.spots.add }}
    </v-btn>
  </fieldset>
</template>

<style scoped>
.spots {
  border: 0;
  padding: 0;
}
.spot {
  position: relative;
  border-bottom: 1px solid var(--line);
  padding: 2px 26px 2px 0;
}
.spot :deep(.v-btn--icon) {
  position: absolute;
  right: 0;
  top: 4px;
}
</style>
