<script setup lang="ts">
import { useElementVisibility } from "@vueuse/core";
import { ref, toRef } from "vue";
import { useFinishPicture, type Making } from "@/composables/useFinishPicture";
import { text } from "@/text";

const props = defineProps<{ name: string; label: string; help: string; making: Making }>();
const emit = defineEmits<{ choose: [] }>();
const root = ref<HTMLElement | null>(null);
const visible = useElementVisibility(root);
const url = useFinishPicture(props.name, toRef(props, "making"), visible);
</script>

<template>
  <button
    ref="root"
    class="plain card"
    type="button"
    :title="help"
    :aria-label="text.shelf.make(label, making.text)"
    :data-word="making.text"
    @click="emit('choose')"
  >
    <span class="strip"><img v-if="url" :src="url" :alt="`${making.text}, ${label}`" /></span>
    <span class="name">{{ label }}</span>
  </button>
</template>

<style scoped>
.strip {
  display: block;
  aspect-ratio: 600 / 168;
  border-radius: 4px;
  overflow: hidden;
  background: color-mix(in srgb, var(--ink) 10%, transparent);
}
img {
  display: block;
  width: 100%;
}
.card:hover .strip,
.card:focus-visible .strip {
  outline: 3px solid var(--accent);
  outline-offset: 1px;
}
.name {
  display: block;
  padding-top: 4px;
  font-size: 12px;
  font-weight: 550;
}
</style>
