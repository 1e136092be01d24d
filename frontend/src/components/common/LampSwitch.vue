<script setup lang="ts">
import { useLamp } from "@/composables/useLamp";
import { text } from "@/text";

const lamp = useLamp();
</script>

<template>
  <button class="plain quiet" type="button" @click="lamp = lamp === 'day' ? 'lampOff' : 'day'">
    {{ lamp === "day" ? text.lamp.off : text.lamp.on }}
  </button>
</template>

<style scoped>
button {
  white-space: nowrap;
}
</style>
