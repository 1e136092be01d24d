<script setup lang="ts">
// A line of a list to pick from, which can be deleted too where it says how.
import { mdiClose } from "@mdi/js";

defineProps<{ chosen: boolean; remove?: string }>();
const emit = defineEmits<{ pick: []; remove: [] }>();
</script>

<template>
  <li :class="{ chosen }">
    <button
      class="plain pick"
      type="button"
      :aria-pressed="chosen"
      @click="emit('pick')"
      @keydown.delete="remove && emit('remove')"
    >
      <slot />
    </button>
    <v-btn
      v-if="remove"
      :icon="mdiClose"
      variant="text"
      size="x-small"
      :aria-label="remove"
      @click="emit('remove')"
    />
  </li>
</template>
