<script setup lang="ts">
// Seconds, or frames when near; which frames are ready; the brackets of the loop; and a bar over the
// chosen pegs by which they are moved and scaled in time.
import { computed } from "vue";
import { startDrag } from "@/composables/useDrag";
import { useScrubbing } from "@/composables/useScrubbing";
import { ticks } from "@/model/time/written";
import { useFilm } from "@/stores/film";
import { useMotion } from "@/stores/motion";
import { useOpened } from "@/stores/opened";
import { usePegs } from "@/stores/pegs";
import { useTimeline } from "@/stores/timeline";
import { text } from "@/text";

/** Of the longest name in the ruler, in pixels. */
const NAME_WIDE = 40;

const film = useFilm();
const motion = useMotion();
const opened = useOpened();
const pegs = usePegs();
const timeline = useTimeline();
const { press, come, leave } = useScrubbing();

const end = computed(() => timeline.start + timeline.span);
const marks = computed(() => ticks(timeline.start, end.value, timeline.perSecond, film.fps));
/** Whether a name has no room to the right of its line. */
const atEnd = (time: number) => timeline.x(time) > timeline.width - NAME_WIDE;
/** Runs of frames that are ready to be played, in pixels. */
const ready = computed(() => {
  const [first, last] = [Math.floor(timeline.start * film.fps), Math.ceil(end.value * film.fps)];
  const runs: [number, number][] = [];
  for (let number = Math.max(first, 0); number < last; number += 1) {
    if (!film.isReady(number)) continue;
    const [a, b] = [timeline.x(number / film.fps), timeline.x((number + 1) / film.fps)];
    const before = runs.at(-1);
    if (before && a - before[1] < 0.01) before[1] = b;
    else runs.push([a, b]);
  }
  return runs;
});

const loop = computed(() => timeline.loop.map(timeline.x) as [number, number]);
function bracket(event: PointerEvent, side: 0 | 1) {
  event.stopPropagation();
  const before = timeline.loop[side];
  startDrag(event, ({ dx, fine }, { altKey }) => {
    setLoop(side, timeline.snapped(before + dx / timeline.perSecond, altKey && !fine));
  });
}
function setLoop(side: 0 | 1, time: number) {
  const next: [number, number] = [...timeline.loop];
  next[side] = time;
  if (next[1] - next[0] < motion.frame * 0.9) return;
  const whole = next[0] <= 0 && next[1] >= timeline.duration;
  timeline.around = whole ? null : next;
}
function bracketKeys(event: KeyboardEvent, side: 0 | 1) {
  const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
  if (!by) return;
  event.preventDefault();
  event.stopPropagation();
  setLoop(side, motion.onFrame(Math.min(Math.max(timeline.loop[side] + by * motion.frame, 0), timeline.duration)));
}

/** The first and the last of the chosen pegs, in seconds. */
const chosen = computed<[number, number] | null>(() => {
  const times = timeline.count > 1 ? pegs.picked().flatMap((each) => each.pegs.map((peg) => peg.at)) : [];
  const [from, to] = [Math.min(...times), Math.max(...times)];
  return times.length > 1 && to > from ? [from, to] : null;
});
function drag(event: PointerEvent, part: "whole" | "start" | "end") {
  event.stopPropagation();
  const [from, to] = chosen.value!;
  const before = pegs.picked();
  startDrag(
    event,
    ({ dx }, { altKey }) => {
      const by = dx / timeline.perSecond;
      if (part === "whole") {
        const first = timeline.snapped(from + by, altKey);
        pegs.move(before, first - from, (peg) => peg.value);
      } else {
        const ends: [number, number] = part === "start"
          ? [Math.min(timeline.snapped(from + by, altKey), to - motion.frame), to]
          : [from, Math.max(timeline.snapped(to + by, altKey), from + motion.frame)];
        pegs.scale(before, [from, to], ends);
      }
    },
    () => opened.endGesture(),
  );
}
</script>

<template>
  <div class="ruler" :aria-label="text.timing.ruler" role="group" @pointerdown="press" @pointermove="come" @pointerleave="leave">
    <svg width="100%" height="26" aria-hidden="true">
      <rect class="around" :x="loop[0]" y="0" :width="Math.max(loop[1] - loop[0], 0)" height="20" />
      <g v-for="tick in marks" :key="tick.time">
        <line :class="{ named: tick.label }" :x1="timeline.x(tick.time)" :x2="timeline.x(tick.time)" :y1="tick.label ? 3 : 12" y2="18" />
        <text v-if="tick.label" :x="timeline.x(tick.time) + (atEnd(tick.time) ? -4 : 4)" :text-anchor="atEnd(tick.time) ? 'end' : 'start'" y="13">{{ tick.label }}</text>
      </g>
      <line class="all" :x1="timeline.x(Math.max(timeline.start, 0))" :x2="timeline.x(end)" y1="22" y2="22" />
      <line v-for="([a, b], i) in ready" :key="i" class="ready" :x1="a" :x2="b" y1="22" y2="22" />
    </svg>
    <button
      v-for="side in ([0, 1] as const)"
      :key="side"
      class="plain bracket"
      :class="side ? 'to' : 'from'"
      type="button"
      role="slider"
      :aria-label="side ? text.timing.loopTo : text.timing.loopFrom"
      :aria-valuenow="Math.round(timeline.loop[side] * 100) / 100"
      aria-valuemin="0"
      :aria-valuemax="timeline.duration"
      :style="{ left: `${loop[side]}px` }"
      @pointerdown="bracket($event, side)"
      @keydown="bracketKeys($event, side)"
      @dblclick="timeline.around = null"
    ></button>
    <div v-if="chosen" class="chosen" :style="{ left: `${timeline.x(chosen[0])}px`, width: `${timeline.x(chosen[1]) - timeline.x(chosen[0])}px` }" @pointerdown="drag($event, 'whole')">
      <span class="end start" role="presentation" :title="text.timing.scaleStart" @pointerdown="drag($event, 'start')"></span>
      <span class="end" role="presentation" :title="text.timing.scaleEnd" @pointerdown="drag($event, 'end')"></span>
    </div>
  </div>
</template>

<style scoped>
.ruler {
  position: relative;
  height: 26px;
  cursor: pointer;
  overflow: hidden;
}
svg {
  display: block;
}
line {
  stroke: var(--quiet);
  stroke-width: 1;
}
line.named {
  stroke: var(--ink);
}
text {
  fill: var(--quiet);
  font-family: var(--mono);
  font-size: 11px;
}
.around {
  fill: color-mix(in srgb, var(--active) 9%, transparent);
}
.all {
  stroke: var(--line);
  stroke-width: 3;
}
.ready {
  stroke: var(--active);
  stroke-width: 3;
}
.bracket {
  position: absolute;
  top: 0;
  width: 14px;
  height: 22px;
  cursor: ew-resize;
  touch-action: none;
}
.bracket::before {
  content: "";
  position: absolute;
  top: 2px;
  width: 4px;
  height: 16px;
  border: 2px solid var(--active);
}
.from {
  margin-left: -2px;
}
.from::before {
  left: 0;
  border-right: 0;
}
.to {
  margin-left: -12px;
}
.to::before {
  right: 0;
  border-left: 0;
}
.chosen {
  position: absolute;
  bottom: 0;
  height: 8px;
  border-radius: 4px;
  background: color-mix(in srgb, var(--accent) 55%, transparent);
  cursor: grab;
  touch-action: none;
}
.end {
  position: absolute;
  top: -2px;
  right: -6px;
  width: 12px;
  height: 12px;
  border: 2px solid var(--accent);
  border-radius: 50%;
  background: var(--raised);
  cursor: ew-resize;
}
.end.start {
  right: auto;
  left: -6px;
}
</style>
