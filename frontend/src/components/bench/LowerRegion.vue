<script setup lang="ts">
// The region under the proof: the section or time. Its upper edge is dragged; its height is kept.
import SectionView from "./SectionView.vue";
import TimingView from "@/components/timing/TimingView.vue";
import { startDrag } from "@/composables/useDrag";
import { withKey } from "@/model/shortcuts";
import { useTimeline, type Tab } from "@/stores/timeline";
import { text } from "@/text";

const timeline = useTimeline();
const TABS: { tab: Tab; label: string }[] = [
  { tab: "section", label: text.bench.section },
  { tab: "timing", label: text.timing.title },
];
function press(event: PointerEvent) {
  const before = timeline.height;
  startDrag(event, ({ dy }) => timeline.setHeight(before - dy));
}
function keys(event: KeyboardEvent) {
  const by = { ArrowUp: 12, ArrowDown: -12 }[event.key];
  if (!by) return;
  event.preventDefault();
  event.stopPropagation();
  timeline.setHeight(timeline.height + by);
}
</script>

<template>
  <div class="lower">
    <div
      class="edge"
      role="separator"
      tabindex="0"
      aria-orientation="horizontal"
      :aria-label="text.timing.height"
      :aria-valuenow="timeline.height"
      @pointerdown="press"
      @keydown="keys"
    ></div>
    <div class="tabs" role="tablist" :aria-label="text.timing.tabs">
      <button
        v-for="{ tab, label } in TABS"
        :key="tab"
        type="button"
        role="tab"
        :aria-selected="timeline.tab === tab"
        :title="withKey(label, 'timing')"
        @click="timeline.show(tab)"
      >
        {{ label }}
      </button>
    </div>
    <SectionView v-if="timeline.tab === 'section'" />
    <TimingView v-else />
  </div>
</template>

<style scoped>
.lower {
  position: relative;
  display: grid;
  min-height: 0;
  border-top: 1px solid var(--line);
}
.edge {
  position: absolute;
  z-index: 3;
  top: -4px;
  left: 0;
  right: 0;
  height: 8px;
  cursor: ns-resize;
  touch-action: none;
}
.tabs {
  position: absolute;
  z-index: 2;
  top: 0;
  left: calc(var(--left) + 8px);
  display: flex;
  gap: 14px;
  height: 23px;
}
</style>
