<script setup lang="ts">
// A place between two others where one more can be put.
import type { Point } from "@/model/card";

defineProps<{ at: Point; label: string }>();
const emit = defineEmits<{ add: [] }>();
</script>

<template>
  <g
    class="add"
    role="button"
    tabindex="0"
    :aria-label="label"
    @pointerdown.stop.prevent="emit('add')"
    @keydown.enter.prevent="emit('add')"
  >
    <circle :cx="at.x" :cy="at.y" r="4" />
  </g>
</template>

<style scoped>
.add {
  pointer-events: auto;
  cursor: copy;
}
.add circle {
  fill: #fff8;
  stroke: #101314;
}
</style>
