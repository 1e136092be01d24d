<script setup lang="ts">
// The picture, large: one pane or two, wiped against another state, with what lies over it.
import { onKeyStroke, useElementSize } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import CutLine from "./CutLine.vue";
import Gnomon from "./Gnomon.vue";
import Guides from "./Guides.vue";
import MotionPath from "./MotionPath.vue";
import Loupe from "./Loupe.vue";
import ProofHandles from "./ProofHandles.vue";
import ProofHeader from "./ProofHeader.vue";
import ProofPane from "./ProofPane.vue";
import WipeLine from "./WipeLine.vue";
import WordEditor from "./WordEditor.vue";
import { usePanAndZoom } from "@/composables/usePanAndZoom";
import { letteringOf, type DistantLight } from "@/model/title";
import { pixelAt } from "@/model/pixels";
import { withoutBackdrops } from "@/model/views";
import { useActs } from "@/stores/acts";
import { useBrush } from "@/stores/brush";
import { useChosen } from "@/stores/chosen";
import { useClock } from "@/stores/clock";
import { useOpened } from "@/stores/opened";
import { usePanels } from "@/stores/panels";
import { usePartPainting } from "@/stores/partPainting";
import { useProof } from "@/stores/proof";
import { useShapes } from "@/stores/shapes";
import { useTimeline } from "@/stores/timeline";
import { text } from "@/text";

const opened = useOpened();
const chosen = useChosen();
const acts = useActs();
const brush = useBrush();
const parts = usePartPainting();
const shapes = useShapes();
const clock = useClock();
const proof = useProof();
const timeline = useTimeline();

const pane = ref<HTMLElement | null>(null);
const first = ref<InstanceType<typeof ProofPane> | null>(null);
const { width, height } = useElementSize(pane);
watch([width, height], () => Object.assign(proof.pane, { width: width.value, height: height.value }));
watch(
  () => opened.title.frame,
  (frame) => Object.assign(proof.frame, { width: frame.width, height: frame.height }),
  { immediate: true },
);
const { track, press, keys } = usePanAndZoom();

// Over a picture of one's own the title stands without its backdrops.
const laidOver = computed(() => proof.surround === "picture" && proof.plate !== "");
const shown = computed(() => (laidOver.value ? withoutBackdrops(chosen.shown) : chosen.shown));
const compared = computed(() => {
  const other = proof.compared?.document;
  return other && (laidOver.value ? withoutBackdrops(other) : other);
});
const wipe = computed(() => {
  const at = proof.wipe * proof.pane.width - proof.left;
  const wide = proof.frame.width * proof.scale;
  return { mark: `inset(0 ${wide - at}px 0 0)`, now: `inset(0 0 0 ${at}px)` };
});
const plate = computed(() => ({
  left: `${proof.left}px`,
  top: `${proof.top}px`,
  width: `${proof.frame.width * proof.scale}px`,
  height: `${proof.frame.height * proof.scale}px`,
  backgroundImage: `url("/api/library/picture?side=2000&name=${encodeURIComponent(proof.plate)}")`,
}));
const surround = computed(() => (proof.surround === "picture" ? "on-black" : `on-${proof.surround}`));
const lights = computed(() => opened.title.lights.filter((light): light is DistantLight => light.kind === "distant"));

const panels = usePanels();
const editing = computed({
  get: () => panels.editingWords && lettering.value !== null,
  set: (now: boolean) => (panels.editingWords = now),
});
const lettering = computed(() => letteringOf(opened.title, chosen.layer));
async function stopEditing() {
  if (!editing.value) return;
  editing.value = false;
  if (lettering.value) await acts.fitWord(lettering.value.id);
}
function pressed(event: PointerEvent) {
  const canvas = first.value?.canvas;
  if (shapes.pen && event.button === 0) {
    shapes.draw(event);
    return;
  }
  const pick = proof.picking;
  if (!pick || !canvas) {
    press(event);
    return;
  }
  const { x, y } = proof.pointer ?? { x: -1, y: -1 };
  const share = { x: x / proof.frame.width, y: y / proof.frame.height };
  const code = pixelAt(canvas, Math.floor(share.x * canvas.width), Math.floor(share.y * canvas.height));
  if (code) pick(code);
  proof.picking = null;
}
onKeyStroke("Escape", () => (shapes.pen = false));
function pressedKey(event: KeyboardEvent) {
  if (event.key === "Escape" && proof.picking) proof.picking = null;
  else keys(event);
}
const fault = computed(() => first.value?.fault ?? "");
const notices = computed(() => first.value?.notices ?? []);
</script>

<template>
  <section class="proof" :aria-label="text.bench.proof">
    <ProofHeader />
    <div class="panes" :class="{ split: proof.split }">
      <div
        ref="pane"
        class="pane"
        :class="[surround, { picking: proof.picking || shapes.pen }]"
        tabindex="0"
        role="application"
        :aria-label="text.bench.proof"
        @pointermove="track"
        @pointerleave="proof.pointer = null"
        @pointerdown="pressed"
        @dblclick="editing = lettering !== null"
        @keydown="pressedKey"
      >
        <div v-if="laidOver" class="plate" :style="plate"></div>
        <ProofPane
          ref="first"
          :document="shown"
          :tap="proof.taps[0]"
          lane="proof"
          :time="clock.time"
          :clip="compared ? wipe.now : undefined"
        />
        <ProofPane v-if="compared" :document="compared" :tap="proof.taps[0]" :time="clock.time" lane="compared" :clip="wipe.mark" />
        <svg class="handles" :viewBox="`0 0 ${proof.pane.width} ${proof.pane.height}`">
          <Guides />
          <CutLine v-if="timeline.tab === 'section'" />
          <Gnomon
            v-for="(light, index) in lights"
            :key="light.id"
            :light="light"
            :index="index"
            :named="lights.length > 1"
          />
          <MotionPath />
          <ProofHandles v-if="!clock.playing" />
        </svg>
        <WipeLine v-if="compared" />
        <Loupe v-if="proof.loupe" :canvas="first?.canvas ?? null" />
        <WordEditor v-if="editing && lettering" :lettering="lettering" @done="stopEditing" />
        <p v-if="proof.picking" class="said" role="status">{{ text.proof.pick }}</p>
        <p v-else-if="fault" class="said fault" role="alert">{{ fault }}</p>
        <p v-else-if="shapes.pen" class="said" role="status">{{ text.shapes.penHelp }}</p>
        <p v-else-if="brush.active && brush.said" class="said" role="status">{{ brush.said }}</p>
        <p v-else-if="parts.said" class="said" role="status">{{ parts.said }}</p>
        <p v-else-if="notices.length" class="said" role="status">{{ notices.join(" ") }}</p>
      </div>
      <div
        v-if="proof.split"
        class="pane second"
        :class="surround"
        tabindex="0"
        role="application"
        :aria-label="text.proof.second"
        @pointermove="track"
        @pointerleave="proof.pointer = null"
        @pointerdown="press"
        @keydown="keys"
      >
        <div v-if="laidOver" class="plate" :style="plate"></div>
        <ProofPane :document="shown" :tap="proof.taps[1]" :time="clock.time" lane="proof-2" />
      </div>
    </div>
  </section>
</template>

<style scoped>
.proof {
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
}
.panes {
  display: grid;
  flex: 1;
  min-height: 0;
}
.panes.split {
  grid-template-columns: 1fr 1fr;
  gap: 2px;
}
.pane {
  position: relative;
  min-height: 0;
  min-width: 0;
  overflow: hidden;
  cursor: grab;
  touch-action: none;
}
.pane.picking {
  cursor: crosshair;
}
.pane:focus-visible {
  outline-offset: -3px;
}
.plate {
  position: absolute;
  background-size: cover;
  background-position: center;
}
.handles {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.said {
  position: absolute;
  left: 12px;
  top: 12px;
  max-width: calc(100% - 24px);
  width: fit-content;
  margin: 0;
  padding: 6px 10px;
  border-radius: 4px;
  background: #fffffff0;
  color: #1d2022;
}
.said.fault {
  color: #8c1f14;
}
</style>
