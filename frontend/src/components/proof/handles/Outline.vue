<script setup lang="ts">
// A line that is seen on any picture.
defineProps<{ d: string; dashed?: boolean }>();
</script>

<template>
  <g class="outline">
    <path class="under" :d="d" />
    <path :class="{ dashed }" :d="d" />
  </g>
</template>

<style scoped>
path {
  fill: none;
  stroke: #fff;
  stroke-width: 1.25;
}
.under {
  stroke: #101314;
  stroke-opacity: 0.55;
  stroke-width: 3;
}
.dashed {
  stroke-dasharray: 5 4;
}
</style>
