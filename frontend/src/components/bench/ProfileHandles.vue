<script setup lang="ts">
// The profile of the selected relief, dragged where it is cut open: on the flank of the first stroke.
import { computed } from "vue";
import { startDrag } from "@/composables/useDrag";
import { GAP, unit } from "@/model/curve";
import { constant, isVarying, numberOf, settingOf, type CurvePoint } from "@/model/title";
import { useBuilds } from "@/stores/builds";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { useCatalogue } from "@/stores/catalogue";
import { text } from "@/text";

/** `edge` is where the first stroke begins, `across` the pane's pixels of a frame pixel, `up` those
 * of a pixel of height. */
const props = defineProps<{ edge: number | null; base: number; across: number; up: number }>();
const opened = useOpened();
const chosen = useChosen();
const builds = useBuilds();
const catalogue = useCatalogue();

const profile = computed(() => {
  const step = chosen.step;
  const settings = step?.step.startsWith("relief.") ? catalogue.entry(step.step)?.settings : undefined;
  const curve = settings?.find((each) => each.kind === "curve");
  const [width, height] = ["width", "height"].map((name) => settings?.find((each) => each.name === name));
  if (!step || !curve || !width || !height || isVarying(step.settings[curve.name])) return null;
  return {
    name: curve.name,
    points: constant(settingOf(step, curve)) as CurvePoint[],
    wide: numberOf(settingOf(step, width)) * props.across,
    tall: numberOf(settingOf(step, height)) * props.up * (step.settings.direction === "sunk" ? -1 : 1),
  };
});
const handles = computed(() => {
  const found = profile.value;
  if (!found || props.edge === null || found.wide < 4 || Math.abs(found.tall) < 4) return [];
  return found.points.map(([x, y]) => ({ x: props.edge! + x * found.wide, y: props.base - y * found.tall }));
});

function move(index: number, x: number, y: number) {
  const found = profile.value!;
  const points = found.points.map((point) => [...point] as CurvePoint);
  const low = (points[index - 1]?.[0] ?? -GAP) + GAP;
  const high = (points[index + 1]?.[0] ?? 1 + GAP) - GAP;
  points[index] = [unit(Math.min(Math.max(x, low), high)), unit(y)];
  builds.set(found.name, points);
}
function drag(event: PointerEvent, index: number) {
  const found = profile.value!;
  const [x, y] = found.points[index]!;
  opened.dragging = true;
  startDrag(
    event,
    ({ dx, dy }) => move(index, x + dx / found.wide, y - dy / found.tall),
    () => opened.endGesture(),
  );
}
function keys(event: KeyboardEvent, index: number) {
  const by = event.shiftKey ? 0.1 : 0.01;
  const ways: Record<string, [number, number]> = {
    ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, by], ArrowDown: [0, -by],
  };
  const way = ways[event.key];
  if (!way) return;
  event.preventDefault();
  const [x, y] = profile.value!.points[index]!;
  move(index, x + way[0], y + way[1]);
  opened.endGesture();
}
</script>

<template>
  <g v-if="handles.length">
    <polyline class="flank" :points="handles.map(({ x, y }) => `${x},${y}`).join(' ')" />
    <circle
      v-for="(handle, index) in handles"
      :key="index"
      :cx="handle.x"
      :cy="handle.y"
      r="5"
      tabindex="0"
      role="slider"
      :aria-label="text.bench.profilePoint(index + 1)"
      :aria-valuenow="profile!.points[index]![1]"
      @pointerdown.stop="drag($event, index)"
      @keydown="keys($event, index)"
    />
  </g>
</template>

<style scoped>
.flank {
  fill: none;
  stroke: var(--ink);
  stroke-dasharray: 3 3;
}
circle {
  fill: var(--raised);
  stroke: var(--ink);
  stroke-width: 1.5;
  cursor: grab;
  touch-action: none;
}
</style>
