<script setup lang="ts">
// The line between the state that is compared with (left) and the state now (right).
import { computed } from "vue";
import { startDrag } from "@/composables/useDrag";
import { useProof } from "@/stores/proof";
import { text } from "@/text";

const proof = useProof();
const x = computed(() => proof.wipe * proof.pane.width);

function to(share: number) {
  proof.wipe = Math.min(Math.max(share, 0), 1);
}
function drag(event: PointerEvent) {
  const before = proof.wipe;
  startDrag(event, ({ dx }) => to(before + dx / proof.pane.width));
}
function keys(event: KeyboardEvent) {
  const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
  if (!way) return;
  event.preventDefault();
  event.stopPropagation();
  to(proof.wipe + way * (event.shiftKey ? 0.1 : 0.01));
}
</script>

<template>
  <div
    class="wipe"
    role="slider"
    tabindex="0"
    :style="{ left: `${x}px` }"
    :aria-label="text.proof.wipe"
    :aria-valuenow="Math.round(proof.wipe * 100)"
    @pointerdown.stop="drag"
    @keydown="keys"
  >
    <span class="name left">{{ proof.compared?.name }}</span>
    <span class="name right">{{ text.proof.now }}</span>
  </div>
</template>

<style scoped>
.wipe {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 15px;
  margin-left: -7px;
  cursor: ew-resize;
  touch-action: none;
}
.wipe::before {
  content: "";
  position: absolute;
  left: 7px;
  top: 0;
  bottom: 0;
  border-left: 1px solid #fff;
  box-shadow: 0 0 0 1px #0006;
}
.wipe::after {
  content: "";
  position: absolute;
  left: 2px;
  top: 50%;
  width: 11px;
  height: 22px;
  margin-top: -11px;
  border-radius: 4px;
  background: #fff;
  box-shadow: 0 0 0 1px #0008;
}
.name {
  position: absolute;
  bottom: 8px;
  padding: 1px 7px;
  border-radius: 3px;
  background: #fffd;
  color: #1d2022;
  font-size: 12px;
  white-space: nowrap;
  pointer-events: none;
}
.name.left {
  right: 20px;
}
.name.right {
  left: 20px;
}
</style>
