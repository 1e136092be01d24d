<script setup lang="ts">
// A document as a strip around its lettering, in a finish if one is named. Asked for in turn, and
// only while it is in sight.
import { useElementVisibility } from "@vueuse/core";
import { computed, ref } from "vue";
import { useStrip } from "@/composables/useStrip";
import type { Title } from "@/model/title";

const props = withDefaults(
  defineProps<{
    document: Title;
    lane: string;
    label: string;
    finish?: string;
    layer?: string;
    width?: number;
    height?: number;
    paused?: boolean;
  }>(),
  { finish: undefined, layer: "", width: 400, height: 112, paused: false },
);
const root = ref<HTMLElement | null>(null);
const visible = useElementVisibility(root);
const asked = computed(() =>
  visible.value && !props.paused
    ? {
        document: props.document, lane: props.lane, finish: props.finish, layer: props.layer,
        width: props.width, height: props.height,
      }
    : null,
);
const { url, fault } = useStrip(asked);
</script>

<template>
  <span ref="root" class="strip" :style="{ aspectRatio: `${width} / ${height}` }">
    <img v-if="url" :src="url" :alt="label" />
    <span v-else-if="fault" class="fault">{{ fault }}</span>
  </span>
</template>

<style scoped>
.strip {
  display: block;
  border-radius: 4px;
  overflow: hidden;
  background: color-mix(in srgb, var(--ink) 10%, transparent);
}
img {
  display: block;
  width: 100%;
}
.fault {
  display: block;
  padding: 6px 8px;
  font-size: 12px;
  color: var(--accent);
}
</style>
