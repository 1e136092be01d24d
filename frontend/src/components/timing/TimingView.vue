<script setup lang="ts">
// Time: the title as a strip of pictures, and under it a lane for each setting that moves.
import { useElementSize } from "@vueuse/core";
import { computed, onScopeDispose, ref, watch } from "vue";
import FilmStrip from "./FilmStrip.vue";
import FrameAndLength from "./FrameAndLength.vue";
import LaneLabel from "./LaneLabel.vue";
import LaneTrack from "./LaneTrack.vue";
import PegEditor from "./PegEditor.vue";
import PlayBar from "./PlayBar.vue";
import TimeReadings from "./TimeReadings.vue";
import TimeRuler from "./TimeRuler.vue";
import { startDrag } from "@/composables/useDrag";
import { typing } from "@/composables/typing";
import { pegsOf } from "@/model/time/varying";
import { useClock } from "@/stores/clock";
import { useFilm } from "@/stores/film";
import { useMotion } from "@/stores/motion";
import { usePegs } from "@/stores/pegs";
import { useTimeline } from "@/stores/timeline";
import { text } from "@/text";

const clock = useClock();
const film = useFilm();
const motion = useMotion();
const pegs = usePegs();
const timeline = useTimeline();

const axis = ref<HTMLElement | null>(null);
const { width } = useElementSize(axis);
watch(width, (now) => (timeline.width = now), { immediate: true });
film.wanted = true;
onScopeDispose(() => (film.wanted = false));

const now = computed(() => timeline.x(clock.playing ? film.at : clock.time));
const root = ref<HTMLElement | null>(null);
const lanes = ref<HTMLElement | null>(null);
interface Frame {
  left: number;
  top: number;
  right: number;
  bottom: number;
}
const frame = ref<Frame | null>(null);

/** The keys are for what the hand is at, unless somebody writes. */
function takeKeys() {
  if (!typing({ target: document.activeElement })) root.value?.focus({ preventScroll: true });
}
/** A frame that is dragged round pegs chooses them. */
function press(event: PointerEvent) {
  const board = lanes.value;
  if (!board || event.button !== 0 || !(event.target as Element).closest(".track") || (event.target as Element).closest(".peg, .piece, .band")) return;
  root.value?.focus();
  const box = board.getBoundingClientRect();
  const kept = event.shiftKey ? { ...timeline.pegs } : {};
  const from = { x: event.clientX, y: event.clientY };
  startDrag(
    event,
    ({ x, y }) => {
      frame.value = {
        left: Math.min(from.x, x) - box.left, right: Math.max(from.x, x) - box.left,
        top: Math.min(from.y, y) - box.top + board.scrollTop, bottom: Math.max(from.y, y) - box.top + board.scrollTop,
      };
      timeline.pegs = { ...kept, ...within(frame.value, board) };
    },
    () => {
      if (!frame.value) timeline.chooseNone();
      else motion.chosen = Object.keys(timeline.pegs);
      frame.value = null;
    },
  );
}
function within(area: Frame, board: HTMLElement): Record<string, number[]> {
  const rows = [...board.querySelectorAll<HTMLElement>("[data-lane]")];
  const found: Record<string, number[]> = {};
  for (const row of rows) {
    if (row.offsetTop + row.offsetHeight < area.top || row.offsetTop > area.bottom) continue;
    const lane = motion.lanes.find(({ key }) => key === row.dataset["lane"]);
    const left = row.querySelector<HTMLElement>(".track")?.offsetLeft ?? 0;
    const inside = pegsOf(lane?.value).flatMap((peg, i) => {
      const x = timeline.x(peg.at) + left;
      return x >= area.left && x <= area.right ? [i] : [];
    });
    if (lane && inside.length) found[lane.key] = inside;
  }
  return found;
}

function wheel(event: WheelEvent) {
  if (!axis.value) return;
  takeKeys();
  const pixel = event.clientX - axis.value.getBoundingClientRect().left;
  if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) timeline.pan(event.deltaX || event.deltaY);
  else timeline.zoom(Math.exp(event.deltaY * 0.0015), pixel);
}
const KEYS: Record<string, () => unknown> = {
  Delete: pegs.remove,
  Backspace: pegs.remove,
  Escape: timeline.chooseNone,
  "0": timeline.fit,
  Enter: () => {
    for (const lane of motion.lanes) if (motion.chosen.includes(lane.key)) pegs.add(lane, clock.time);
  },
};
const WITH_CTRL: Record<string, () => unknown> = { a: pegs.chooseAll, c: pegs.copy, v: pegs.paste };
const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1],
};
function keys(event: KeyboardEvent) {
  if (typing(event) || event.altKey || event.defaultPrevented) return;
  const arrow = timeline.count ? ARROWS[event.key] : undefined;
  const control = (event.target as Element).closest("button:not(.lane), [role='tab']");
  const act = event.ctrlKey || event.metaKey ? WITH_CTRL[event.key.toLowerCase()] : control ? undefined : KEYS[event.key];
  if (arrow) pegs.nudge(arrow[0] * (event.shiftKey ? 10 : 1), arrow[1] * (event.shiftKey ? 10 : 1));
  else if (act) void act();
  else return;
  event.preventDefault();
  event.stopPropagation();
}
</script>

<template>
  <section ref="root" class="timing" :aria-label="text.timing.title" tabindex="-1" @keydown="keys">
    <PlayBar class="bar" />
    <div class="head">
      <FrameAndLength class="summary" />
      <div ref="axis" class="axis" @wheel.prevent="wheel" @pointerdown="root?.focus({ preventScroll: true })">
        <FilmStrip />
        <TimeRuler />
      </div>
    </div>
    <div ref="lanes" class="lanes" @pointerdown="press">
      <p v-if="!motion.lanes.length" class="quiet none">{{ text.timing.none }}</p>
      <div v-for="lane in motion.lanes" :key="lane.key" class="row" :data-lane="lane.key">
        <LaneLabel :lane="lane" />
        <LaneTrack :lane="lane" @wheel="($event.ctrlKey || $event.shiftKey) && (wheel($event), $event.preventDefault())" />
      </div>
      <TimeReadings v-if="motion.lanes.length" class="readings" />
      <div
        v-if="frame"
        class="frame"
        :style="{ left: `${frame.left}px`, top: `${frame.top}px`, width: `${frame.right - frame.left}px`, height: `${frame.bottom - frame.top}px` }"
      ></div>
    </div>
    <PegEditor class="editor" />
    <div class="now" :style="{ left: `calc(var(--left) + ${now}px)` }" aria-hidden="true"><i></i></div>
  </section>
</template>

<style scoped>
.timing {
  position: relative;
  display: grid;
  grid-template-columns: var(--left) minmax(0, 1fr);
  grid-template-rows: auto minmax(0, 1fr) auto;
  min-height: 0;
  overflow: hidden;
  outline: none;
}
.bar {
  border-right: 1px solid var(--line);
}
.head {
  min-width: 0;
}
.summary {
  display: flex;
  justify-content: flex-end;
  height: 24px;
  padding: 1px 8px 0;
}
.axis {
  overflow: hidden;
  touch-action: none;
}
.lanes {
  position: relative;
  grid-column: 1 / -1;
  overflow: hidden auto;
  scrollbar-width: thin;
}
.row {
  display: grid;
  grid-template-columns: var(--left) minmax(0, 1fr);
  border-bottom: 1px solid var(--line);
}
.none {
  margin: 0;
  padding: 10px 12px 10px calc(var(--left) + 12px);
}
.readings {
  position: relative;
  z-index: 1; /* over the line of now */
  padding: 4px 12px 6px calc(var(--left) + 8px);
  background: var(--panel);
}
.editor {
  grid-column: 1 / -1;
  z-index: 1; /* over the line of now */
}
.frame {
  position: absolute;
  border: 1px solid var(--accent);
  background: color-mix(in srgb, var(--accent) 12%, transparent);
  pointer-events: none;
}
.now {
  position: absolute;
  top: 24px;
  bottom: 0;
  width: 0;
  border-left: 1.5px solid var(--accent);
  pointer-events: none;
}
.now i {
  position: absolute;
  top: 0;
  left: -7px;
  width: 12.5px;
  height: 11px;
  background: var(--accent);
  clip-path: polygon(0 0, 100% 0, 100% 55%, 50% 100%, 0 55%);
}
</style>
