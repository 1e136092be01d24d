<script setup lang="ts">
// Something in the side view that is dragged, or moved with the arrow keys.
defineProps<{ label: string; now: number; said: string; title: string }>();
const emit = defineEmits<{ press: [event: PointerEvent]; keys: [event: KeyboardEvent] }>();
</script>

<template>
  <g
    tabindex="0"
    role="slider"
    :aria-label="label"
    :aria-valuenow="now"
    :aria-valuetext="said"
    @pointerdown="emit('press', $event)"
    @keydown="emit('keys', $event)"
  >
    <title>{{ title }}</title>
    <slot />
  </g>
</template>
