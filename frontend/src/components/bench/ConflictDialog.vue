<script setup lang="ts">
// Two windows changed one title: both states are shown, and one chooses.
import { computed, ref } from "vue";
import { useRouter } from "vue-router";
import { usePainted } from "@/composables/usePainted";
import { usePreview } from "@/composables/usePreview";
import { useExports } from "@/stores/exports";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

const opened = useOpened();
const exports = useExports();
const router = useRouter();
const other = computed(() => opened.saving.other.value);
const still = ref(false);
const WIDTH = 360;
const scale = computed(() => WIDTH / opened.title.frame.width);

const mineAsk = computed(() => (other.value ? { document: opened.document, scale: scale.value, tap: "picture" } : null));
const theirAsk = computed(() =>
  other.value ? { document: other.value.document, scale: scale.value, tap: "picture" } : null,
);
const mine = usePreview(mineAsk, still, "mine");
const theirs = usePreview(theirAsk, still, "theirs");
const boards = [
  { canvas: ref<HTMLCanvasElement | null>(null), shown: mine.shown, name: text.conflict.mine },
  { canvas: ref<HTMLCanvasElement | null>(null), shown: theirs.shown, name: text.conflict.theirs },
];
for (const { canvas, shown } of boards) usePainted(canvas, shown);

async function keepMine() {
  await opened.saving.settle(opened.document, other.value!.version);
}
function takeTheirs() {
  const { version, document } = other.value!;
  opened.saving.yieldTo(version);
  opened.replace(document);
}
async function keepBoth() {
  const name = text.bench.copyOf(opened.document.name).slice(0, 200);
  const copy = await exports.copyOf(opened.id, { ...opened.document, name });
  if (copy === null) return;
  takeTheirs();
  await router.push({ name: "bench", params: { id: copy } });
}
</script>

<template>
  <v-dialog :aria-label="text.conflict.title" :model-value="other !== null" persistent max-width="820">
    <v-card :title="text.conflict.title" :subtitle="text.conflict.explain">
      <v-card-text class="states">
        <figure v-for="board in boards" :key="board.name">
          <canvas :ref="(el) => (board.canvas.value = el as HTMLCanvasElement)"></canvas>
          <figcaption>{{ board.name }}</figcaption>
        </figure>
      </v-card-text>
      <v-card-actions>
        <v-spacer />
        <v-btn variant="text" @click="takeTheirs">{{ text.conflict.takeTheirs }}</v-btn>
        <v-btn variant="text" @click="keepBoth">{{ text.conflict.keepBoth }}</v-btn>
        <v-btn variant="flat" color="ink" @click="keepMine">{{ text.conflict.keepMine }}</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.states {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 16px;
}
canvas {
  width: 100%;
  background: var(--surround);
  border-radius: 4px;
}
</style>
