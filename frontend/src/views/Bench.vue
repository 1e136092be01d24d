<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from "vue";
import BuildLine from "@/components/bench/BuildLine.vue";
import ConflictDialog from "@/components/bench/ConflictDialog.vue";
import CutOutDialog from "@/components/bench/CutOutDialog.vue";
import ExportDialog from "@/components/exports/ExportDialog.vue";
import ArrivalsDrawer from "@/components/bench/ArrivalsDrawer.vue";
import FinishesDrawer from "@/components/bench/FinishesDrawer.vue";
import LayersPanel from "@/components/bench/LayersPanel.vue";
import LayerSettings from "@/components/bench/LayerSettings.vue";
import LetteringSettings from "@/components/bench/LetteringSettings.vue";
import LowerRegion from "@/components/bench/LowerRegion.vue";
import LightPanel from "@/components/bench/LightPanel.vue";
import CameraSettings from "@/components/bench/CameraSettings.vue";
import HandleSettings from "@/components/bench/HandleSettings.vue";
import LightSettings from "@/components/bench/LightSettings.vue";
import StandPanel from "@/components/bench/StandPanel.vue";
import MarksDialog from "@/components/bench/MarksDialog.vue";
import ReadingsPanel from "@/components/bench/ReadingsPanel.vue";
import ShortcutsDialog from "@/components/bench/ShortcutsDialog.vue";
import SideView from "@/components/bench/SideView.vue";
import StepSettings from "@/components/bench/StepSettings.vue";
import TopBar from "@/components/bench/TopBar.vue";
import Proof from "@/components/proof/Proof.vue";
import { useBenchFields } from "@/composables/useBenchFields";
import { useBuildPictures } from "@/composables/useBuildPictures";
import { useCopying } from "@/composables/useCopying";
import { useDropped } from "@/composables/useDropped";
import { useShortcuts } from "@/composables/useShortcuts";
import { useStripAhead } from "@/composables/useStripAhead";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { useCatalogue } from "@/stores/catalogue";
import { usePanels } from "@/stores/panels";
import { useProof } from "@/stores/proof";
import { useTimeline } from "@/stores/timeline";
import { text } from "@/text";

const props = defineProps<{ id: string }>();
const opened = useOpened();
const chosen = useChosen();
const catalogue = useCatalogue();
const panels = usePanels();
const proof = useProof();
const timeline = useTimeline();
const fault = ref("");
const handle = computed(() => opened.title.handles.find((each) => each.id === chosen.standId));
const pictures = useBuildPictures();
useShortcuts();
useCopying();
useDropped();
useBenchFields();
useStripAhead();

watch(
  () => props.id,
  async (id) => {
    fault.value = "";
    proof.compared = null;
    panels.closeAll();
    try {
      await catalogue.load();
      if (!(await opened.open(id))) fault.value = opened.refusal;
    } catch {
      fault.value = text.error.network;
    }
  },
  { immediate: true },
);
onBeforeUnmount(opened.close);
// Selecting something shows its settings, whatever lay over them.
watch(() => chosen.times, () => (panels.finishes = panels.arrivals = false));
</script>

<template>
  <main v-if="opened.ready" class="bench" :style="{ '--lower': `${timeline.height}px` }">
    <TopBar />
    <BuildLine :pictures="pictures.steps.value" :source="pictures.source.value" />
    <div class="work">
      <div class="left">
        <SideView />
        <LayersPanel :pictures="pictures.layers.value" />
        <LightPanel />
        <ReadingsPanel />
        <StandPanel />
      </div>
      <Proof />
    </div>
    <LowerRegion />
    <FinishesDrawer v-if="panels.finishes" v-model="panels.finishes" class="settings" />
    <ArrivalsDrawer v-else-if="panels.arrivals" v-model="panels.arrivals" class="settings" />
    <div v-else class="settings">
      <CameraSettings v-if="chosen.standId === 'camera'" />
      <HandleSettings v-else-if="handle" :key="handle.id" :handle="handle" />
      <LightSettings v-else-if="chosen.light" :key="chosen.light.id" :light="chosen.light" />
      <template v-else>
        <StepSettings v-if="chosen.step" :key="chosen.step.id" />
        <LetteringSettings v-else :key="chosen.layer?.id" />
        <LayerSettings v-if="chosen.layer" />
      </template>
    </div>
    <ConflictDialog />
    <ExportDialog v-model="panels.exporting" />
    <MarksDialog v-model="panels.marks" />
    <ShortcutsDialog v-model="panels.shortcuts" />
    <CutOutDialog v-model="panels.cutting" />
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
  --left: 204px;
  grid-template-columns: 1fr 312px;
  grid-template-rows: 46px 104px minmax(0, 1fr) var(--lower);
  height: 100vh;
  overflow: hidden;
}
.bench > :nth-child(1),
.bench > :nth-child(2) {
  grid-column: 1 / -1;
}
.work {
  display: grid;
  grid-template-columns: var(--left) minmax(0, 1fr);
  min-height: 0;
}
.left {
  padding: 8px 12px;
  border-right: 1px solid var(--line);
  overflow-y: auto;
  scrollbar-width: thin;
}
.left > * + * {
  margin-top: 8px;
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
@media (min-width: 1600px) {
  .bench {
    --left: 248px;
    grid-template-columns: 1fr 372px;
  }
}
</style>
