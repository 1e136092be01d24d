<script setup lang="ts">
// How the clips run that a step's settings name.
import { computed } from "vue";
import PlayFields from "./PlayFields.vue";
import { isClip, settingOf, type Step, type StepSetting } from "@/model/title";
import { text } from "@/text";

const props = defineProps<{ layer: string; step: Step; settings: readonly StepSetting[] }>();
const clip = computed(() => {
  const named = props.settings.filter((each) => each.kind === "image").map((each) => settingOf(props.step, each));
  return named.find((name): name is string => typeof name === "string" && isClip(name));
});
</script>

<template>
  <template v-if="clip">
    <h3>{{ text.bench.runs(clip) }}</h3>
    <PlayFields :of="['layers', layer, 'build', step.id, 'play']" :name="clip" />
  </template>
</template>

<style scoped>
h3 {
  padding: 8px 0 2px;
  font-size: 13px;
  overflow-wrap: anywhere;
}
</style>
