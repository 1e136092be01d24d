<script setup lang="ts">
import { useEventListener } from "@vueuse/core";
import { onBeforeUnmount, ref, watch } from "vue";
import BuildLine from "@/components/bench/BuildLine.vue";
import ConflictDialog from "@/components/bench/ConflictDialog.vue";
import LayersPanel from "@/components/bench/LayersPanel.vue";
import LayerSettings from "@/components/bench/LayerSettings.vue";
import LetteringSettings from "@/components/bench/LetteringSettings.vue";
import LightPanel from "@/components/bench/LightPanel.vue";
import Proof from "@/components/bench/Proof.vue";
import SectionView from "@/components/bench/SectionView.vue";
import StepSettings from "@/components/bench/StepSettings.vue";
import TopBar from "@/components/bench/TopBar.vue";
import { useBuildPictures } from "@/composables/useBuildPictures";
import { useBench } from "@/stores/bench";
import { useCatalogue } from "@/stores/catalogue";
import { text } from "@/text";

const props = defineProps<{ id: string }>();
const bench = useBench();
const catalogue = useCatalogue();
const fault = ref("");
const pictures = useBuildPictures();

watch(
  () => props.id,
  async (id) => {
    fault.value = "";
    try {
      await catalogue.load();
      if (!(await bench.open(id))) fault.value = text.error.gone;
    } catch {
      fault.value = text.error.network;
    }
  },
  { immediate: true },
);
onBeforeUnmount(() => {
  bench.saving.stop();
  bench.ready = false;
});

function typing(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement;
  return target.tagName === "TEXTAREA" || (target.tagName === "INPUT" && (target as HTMLInputElement).type !== "range");
}
useEventListener("keydown", (event: KeyboardEvent) => {
  if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z" || typing(event)) return;
  event.preventDefault();
  if (event.shiftKey) bench.redo();
  else bench.undo();
});
</script>

<template>
  <main v-if="bench.ready" class="bench">
    <TopBar />
    <BuildLine :pictures="pictures.steps.value" :source="pictures.source.value" />
    <div class="work">
      <div class="left">
        <LightPanel />
        <LayersPanel :pictures="pictures.layers.value" />
      </div>
      <Proof />
    </div>
    <SectionView />
    <div class="settings">
      <StepSettings v-if="bench.step" :key="bench.step.id" />
      <LetteringSettings v-else :key="bench.layer?.id" />
      <LayerSettings v-if="bench.layer" />
    </div>
    <ConflictDialog />
  </main>
  <main v-else class="empty">
    <p v-if="fault" role="alert">{{ fault }}</p>
    <router-link v-if="fault" to="/">{{ text.act.back }}</router-link>
    <v-progress-circular v-else indeterminate size="28" width="2" />
  </main>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template-columns: 1fr 312px;
  grid-template-rows: 46px 104px minmax(0, 1fr) 150px;
  height: 100vh;
  overflow: hidden;
}
.bench > :nth-child(1),
.bench > :nth-child(2) {
  grid-column: 1 / -1;
}
.work {
  display: grid;
  grid-template-columns: 204px minmax(0, 1fr);
  min-height: 0;
}
.left {
  padding: 8px 12px;
  border-right: 1px solid var(--line);
  overflow-y: auto;
  scrollbar-width: thin;
}
.settings {
  grid-column: 2;
  grid-row: 3 / 5;
  padding: 10px 14px;
  border-left: 1px solid var(--line);
  overflow-y: auto;
  scrollbar-width: thin;
}
.empty {
  display: grid;
  place-content: center;
  height: 100vh;
  text-align: center;
}
</style>
