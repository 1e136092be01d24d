<script setup lang="ts">
// On or off.
defineProps<{ label: string; help?: string; modelValue: boolean }>();
const emit = defineEmits<{ "update:modelValue": [value: boolean] }>();
</script>

<template>
  <v-checkbox
    class="switch"
    :model-value="modelValue"
    density="compact"
    hide-details
    :label="label"
    :title="help"
    @update:model-value="emit('update:modelValue', Boolean($event))"
  />
</template>
