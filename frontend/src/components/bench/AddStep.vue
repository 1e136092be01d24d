<script setup lang="ts">
// Adds a step at this place of the build, found by its name or by what it does.
import { mdiPlus } from "@mdi/js";
import { computed, nextTick, ref, watch } from "vue";
import { foundSteps } from "@/model/search";
import type { StepEntry } from "@/model/title";
import { useBuilds } from "@/stores/builds";
import { useCatalogue } from "@/stores/catalogue";
import { usePanels } from "@/stores/panels";
import { text } from "@/text";

const props = defineProps<{ at: number; stage: string; quiet?: boolean }>();
const builds = useBuilds();
const panels = usePanels();
const catalogue = useCatalogue();
const open = ref(false);
const sought = ref("");
const field = ref<{ focus(): void } | null>(null);

const found = computed<StepEntry[]>(() => {
  const all = catalogue.all?.steps ?? [];
  if (sought.value.trim()) return foundSteps(all, sought.value, props.stage);
  return [...all].sort((a, b) => Number(b.stage === props.stage) - Number(a.stage === props.stage));
});

// Opened by its key from anywhere; where two stages meet, the first one answers.
watch(
  () => panels.adding,
  (at) => {
    if (at !== props.at || props.quiet) return;
    open.value = true;
    panels.adding = null;
  },
);
watch(open, async (now) => {
  if (!now) return;
  sought.value = "";
  await nextTick();
  setTimeout(() => field.value?.focus(), 60);
});

function add(entry: StepEntry | undefined) {
  if (!entry) return;
  void builds.addStep(entry.step, props.at);
  open.value = false;
}
</script>

<template>
  <v-menu v-model="open" :close-on-content-click="false">
    <template #activator="{ props: activator }">
      <button
        v-bind="activator"
        type="button"
        class="plus"
        :aria-label="text.bench.addStepTo(text.stages[stage] ?? stage)"
        :title="text.bench.addStep"
      >
        <v-icon :icon="mdiPlus" size="14" />
      </button>
    </template>
    <v-card class="list">
      <v-text-field
        ref="field"
        v-model="sought"
        :placeholder="text.bench.findStep"
        :aria-label="text.bench.findStep"
        @keydown.enter="add(found[0])"
      />
      <p class="needs quiet links">
        <button v-for="need in text.bench.needs" :key="need" type="button" class="plain" @click="sought = need">{{ need }}</button>
      </p>
      <ul>
        <li v-for="entry in found" :key="entry.step">
          <button class="plain" type="button" @click="add(entry)">
            <span class="stage" :style="{ '--stage': `var(--stage-${entry.stage})` }"></span>
            <span>{{ entry.label }}</span>
            <span class="quiet">{{ entry.help }}</span>
          </button>
        </li>
      </ul>
    </v-card>
  </v-menu>
</template>

<style scoped>
.plus {
  align-self: flex-start;
  width: 20px;
  height: 50px;
  margin-top: 1px;
  border: 1px dashed color-mix(in srgb, var(--ink) 30%, transparent);
  border-radius: 4px;
  background: none;
  color: var(--quiet);
  cursor: pointer;
}
.plus:hover {
  border-color: var(--accent);
  color: var(--accent);
}
.list {
  width: 380px;
  padding: 8px;
}
.needs {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  padding-top: 5px;
  font-size: 12px;
}
ul {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
  max-height: 300px;
  overflow-y: auto;
}
li button {
  display: grid;
  grid-template-columns: 18px 92px 1fr;
  align-items: center;
  gap: 4px;
  width: 100%;
  padding: 4px;
  border-radius: 3px;
}
li button:hover,
li button:focus {
  background: color-mix(in srgb, var(--ink) 8%, transparent);
}
.stage {
  width: 12px;
  height: 4px;
  border-radius: 2px;
  background: var(--stage);
}
</style>
