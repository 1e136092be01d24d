<script setup lang="ts">
// The build as pictures of the work, in working order, grouped by stage.
import { computed, nextTick, ref } from "vue";
import AddStep from "./AddStep.vue";
import StepCard from "./StepCard.vue";
import { useBuilds } from "@/stores/builds";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { useCatalogue } from "@/stores/catalogue";
import { text } from "@/text";
import type { Step } from "@/model/title";

defineProps<{ pictures: Map<string, string>; source: string | undefined }>();
const opened = useOpened();
const chosen = useChosen();
const builds = useBuilds();
const catalogue = useCatalogue();

interface Group {
  stage: string;
  steps: { step: Step; index: number }[];
  end: number;
}
const groups = computed<Group[]>(() => {
  const found: Group[] = [];
  chosen.layer?.build.forEach((step, index) => {
    const stage = step.step.split(".")[0] ?? "";
    const last = found.at(-1);
    if (last?.stage === stage) {
      last.steps.push({ step, index });
      last.end = index + 1;
    } else {
      found.push({ stage, steps: [{ step, index }], end: index + 1 });
    }
  });
  return found;
});
const sourceName = computed(() =>
  text.sources[chosen.layer?.kind ?? "lettering"],
);

const line = ref<HTMLElement | null>(null);
const carried = ref<string | null>(null);
const over = ref<number | null>(null);

function hover(event: DragEvent, index: number) {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
  over.value = index + (event.clientX > box.left + box.width / 2 ? 1 : 0);
}
function drop() {
  const from = chosen.layer?.build.findIndex((step) => step.id === carried.value) ?? -1;
  if (carried.value && over.value !== null && from >= 0) {
    builds.moveStep(carried.value, over.value > from ? over.value - 1 : over.value);
  }
  carried.value = over.value = null;
}
/** The arrow keys walk along the line; the source stands before the first step. */
function walk(to: number) {
  const build = chosen.layer?.build ?? [];
  const next = Math.min(to, build.length - 1);
  chosen.select(chosen.layer!.id, next < 0 ? null : (build[next]?.id ?? null));
  void nextTick(() => line.value?.querySelector<HTMLElement>("[aria-pressed='true']:is(.pick, .source)")?.focus());
}
function keys(event: KeyboardEvent, step: Step, index: number) {
  if (event.altKey && event.key === "ArrowLeft") builds.moveStep(step.id, index - 1);
  else if (event.altKey && event.key === "ArrowRight") builds.moveStep(step.id, index + 1);
  else if (event.key === "Delete" || event.key === "Backspace") builds.removeStep(step.id);
  else if (event.key === "d" && (event.ctrlKey || event.metaKey)) builds.duplicateStep(step.id);
  else if (event.key === "o") opened.setStep(step.id, { on: !step.on });
  else if (event.key === "ArrowLeft" || event.key === "ArrowRight") walk(index + (event.key === "ArrowLeft" ? -1 : 1));
  else return;
  event.preventDefault();
}
</script>

<template>
  <nav ref="line" class="line" :aria-label="text.bench.buildLine">
    <div class="group">
      <h2><span class="stage" style="--stage: var(--stage-source)"></span>{{ text.bench.source }}</h2>
      <div class="cards">
        <button
          type="button"
          class="plain source"
          :class="{ chosen: chosen.stepId === null && !chosen.apart }"
          :aria-pressed="chosen.stepId === null && !chosen.apart"
          @keydown.right.prevent="walk(0)"
          @click="chosen.select(chosen.layer!.id, null)"
        >
          <img v-if="source" :src="source" alt="" />
          <span v-else class="blank"></span>
          <span>{{ sourceName }}</span>
        </button>
        <AddStep :at="0" stage="surface" />
      </div>
    </div>
    <div v-for="group in groups" :key="`${group.stage}${group.end}`" class="group">
      <h2>
        <span class="stage" :style="{ '--stage': `var(--stage-${group.stage})` }"></span>
        {{ text.stages[group.stage] }}
      </h2>
      <div class="cards">
        <StepCard
          v-for="{ step, index } in group.steps"
          :key="step.id"
          :step="step"
          :label="catalogue.entry(step.step)?.label ?? step.step"
          :picture="pictures.get(step.id)"
          :chosen="chosen.stepId === step.id && !chosen.apart"
          :solo="chosen.solo === step.id"
          :marked="carried !== null && (over === index || (over === index + 1 && index === group.end - 1 && over === chosen.layer!.build.length))"
          @choose="chosen.select(chosen.layer!.id, step.id)"
          @toggle="opened.setStep(step.id, { on: !step.on })"
          @duplicate="builds.duplicateStep(step.id)"
          @remove="builds.removeStep(step.id)"
          @solo="chosen.toggleSolo(step.id)"
          @keydown="keys($event, step, index)"
          @dragstart="carried = step.id"
          @dragover.prevent="hover($event, index)"
          @drop.prevent="drop"
          @dragend="carried = over = null"
        />
        <AddStep :at="group.end" :stage="group.stage" />
      </div>
    </div>
  </nav>
</template>

<style scoped>
.line {
  display: flex;
  overflow-x: auto;
  overflow-y: hidden;
  height: 104px;
  border-bottom: 1px solid var(--line);
  scrollbar-width: thin;
}
.group {
  flex: none;
  padding: 5px 10px 0 12px;
  border-right: 1px solid var(--line);
}
.group:last-child {
  border-right: 0;
}
h2 {
  display: flex;
  align-items: center;
  gap: 7px;
  font-size: 12px;
  font-weight: 500;
}
.stage {
  width: 14px;
  height: 4px;
  border-radius: 2px;
  background: var(--stage);
}
.cards {
  display: flex;
  gap: 6px;
  padding-top: 2px;
}
.source {
  width: 92px;
  font-size: 12px;
}
.source img,
.source .blank {
  display: block;
  width: 90px;
  height: 50px;
  border-radius: 4px;
  background: var(--surround);
  margin: 1px;
}
.source.chosen img {
  outline: 3px solid var(--accent);
}
</style>
