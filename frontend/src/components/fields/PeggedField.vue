<script setup lang="ts">
// Any field with the peg button of its setting beside it.
import { computed } from "vue";
import PegButton from "./PegButton.vue";
import type { Place } from "@/model/places";
import type { Setting } from "@/model/title";

const props = defineProps<{
  /** Of the model that has the setting. */
  of: Place;
  setting?: Setting;
}>();
const place = computed(() => [...props.of, props.setting?.name ?? ""]);
</script>

<template>
  <div class="placed" :class="{ pegged: setting?.moves }">
    <slot />
    <PegButton v-if="setting?.moves" :place="place" :setting="setting" />
  </div>
</template>

<style scoped>
.placed {
  position: relative;
}
.pegged {
  padding-right: 17px;
}
.placed > :deep(.peg) {
  position: absolute;
  top: 0;
  right: -4px;
}
</style>
