<script setup lang="ts">
// What is under the pointer, eight times as large, and in numbers.
import { computed, nextTick, ref, watch } from "vue";
import { useRelief } from "@/composables/useRelief";
import { pixelAt } from "@/model/pixels";
import { useProof } from "@/stores/proof";
import { text } from "@/text";

const props = defineProps<{ canvas: HTMLCanvasElement | null }>();
const proof = useProof();
const { at } = useRelief(computed(() => proof.loupe));

const SIDE = 19; // picture pixels across the loupe
const ZOOM = 8;
const board = ref<HTMLCanvasElement | null>(null);
const code = ref("");
const values = computed(() => at(proof.pointer));
// It lies in the corner that the pointer is farther from.
const away = computed(() => (proof.pointer && proof.pointer.x < proof.frame.width / 2 ? "right" : "left"));

watch(
  () => [proof.pointer, props.canvas] as const,
  async ([pointer, canvas]) => {
    await nextTick();
    const context = board.value?.getContext("2d");
    if (!pointer || !canvas || !context || !canvas.width) return;
    const x = Math.floor((pointer.x / proof.frame.width) * canvas.width);
    const y = Math.floor((pointer.y / proof.frame.height) * canvas.height);
    const half = (SIDE - 1) / 2;
    context.imageSmoothingEnabled = false;
    context.clearRect(0, 0, SIDE * ZOOM, SIDE * ZOOM);
    context.drawImage(canvas, x - half, y - half, SIDE, SIDE, 0, 0, SIDE * ZOOM, SIDE * ZOOM);
    code.value = pixelAt(canvas, x, y) ?? "";
  },
);
</script>

<template>
  <aside v-show="proof.pointer" class="loupe" :class="away" :aria-label="text.proof.loupe">
    <div class="glass"><canvas ref="board" :width="SIDE * ZOOM" :height="SIDE * ZOOM"></canvas></div>
    <dl class="mono">
      <dt>{{ text.proof.code }}</dt>
      <dd data-testid="loupe-code"><span class="swatch" :style="{ background: code }"></span>{{ code.toUpperCase() }}</dd>
      <dt>{{ text.bench.height }}</dt>
      <dd>{{ values.height === null ? "–" : `${values.height.toFixed(1)} px` }}</dd>
      <dt>{{ text.bench.tone }}</dt>
      <dd>{{ values.tone === null ? "–" : `${Math.round(values.tone * 100)} %` }}</dd>
    </dl>
  </aside>
</template>

<style scoped>
.loupe {
  position: absolute;
  top: 10px;
  width: 152px;
  border-radius: 5px;
  overflow: hidden;
  background: var(--raised);
  box-shadow: 0 1px 6px #0005;
  pointer-events: none;
}
.loupe.left {
  left: 10px;
}
.loupe.right {
  right: 10px;
}
.glass {
  position: relative;
  height: 152px;
  background: var(--surround);
}
.glass::after {
  content: "";
  position: absolute;
  left: 71px;
  top: 71px;
  width: 10px;
  height: 10px;
  border: 1px solid #fff;
  outline: 1px solid #000a;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 0 8px;
  margin: 0;
  padding: 4px 8px 6px;
}
dt {
  color: var(--quiet);
}
dd {
  margin: 0;
  text-align: right;
  white-space: nowrap;
}
.swatch {
  display: inline-block;
  width: 10px;
  height: 10px;
  margin-right: 5px;
  border: 1px solid var(--line);
  vertical-align: -1px;
}
</style>
