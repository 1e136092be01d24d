<script setup lang="ts">
// One lane: the value over time, drawn by its kind, with its pegs.
import { useIntersectionObserver } from "@vueuse/core";
import { computed, ref } from "vue";
import NumberLine from "./NumberLine.vue";
import ValueBlocks from "./ValueBlocks.vue";
import { startDrag } from "@/composables/useDrag";
import { inSeconds } from "@/model/time/written";
import { shownValue } from "@/model/time/shown";
import { shaped } from "@/model/time/shaping";
import { driftOf, easeOf, held, isNumeric, pegsOf, samples, valueOver } from "@/model/time/varying";
import { useMotion, type Lane } from "@/stores/motion";
import { useOpened } from "@/stores/opened";
import { usePegs } from "@/stores/pegs";
import { useTimeline } from "@/stores/timeline";
import { text } from "@/text";

const props = defineProps<{ lane: Lane }>();
const motion = useMotion();
const opened = useOpened();
const acts = usePegs();
const timeline = useTimeline();

// Of many lanes only those in sight, or nearly, are drawn.
const track = ref<HTMLElement | null>(null);
const drawn = ref(true);
useIntersectionObserver(track, (entries) => (drawn.value = entries.at(-1)!.isIntersecting), { rootMargin: "120px" });

const selected = computed(() => motion.chosen.includes(props.lane.key));
const tall = computed(() => (selected.value && numeric.value ? 84 : 36));
const numeric = computed(() => isNumeric(props.lane.setting.kind));
const pegs = computed(() => pegsOf(props.lane.value));
const drift = computed(() => driftOf(props.lane.value));

// The scale of values: as large as what is drawn; it stands still while something is dragged.
const line = computed(() => {
  if (!numeric.value) return [];
  const { start, span, perSecond } = timeline;
  return samples(props.lane.value, props.lane.setting, motion.loop, start, start + span, Math.max(2 / perSecond, motion.frame / 4));
});
const frozen = ref<[number, number] | null>(null);
const extent = computed<[number, number]>(() => {
  if (frozen.value) return frozen.value;
  const amount = drift.value?.amount ?? 0;
  const values = [...line.value.map(([, value]) => value), ...pegs.value.flatMap(({ value }) => [Number(value) - amount, Number(value) + amount])];
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const [least, most] = props.lane.setting.usual ?? [props.lane.setting.low ?? 0, props.lane.setting.high ?? 1];
  const room = high - low > 1e-6 ? (high - low) * 0.06 : Math.max((most - least) * 0.1, 1e-3);
  return [low - room, high + room];
});
const perPixel = computed(() => (extent.value[1] - extent.value[0]) / (tall.value - 14));
const y = (value: number) => tall.value - 7 - (value - extent.value[0]) / perPixel.value;

const places = computed(() =>
  pegs.value.map((peg, number) => ({
    number, peg, x: timeline.x(peg.at), y: numeric.value ? y(Number(peg.value)) : tall.value / 2,
    label: text.timing.peg(props.lane.setting.label, `${inSeconds(peg.at)} s`, shownValue(peg.value, props.lane.setting)),
  })),
);
const inSight = computed(() => places.value.filter(({ x }) => x > -10 && x < timeline.width + 10));

function pressPeg(event: PointerEvent, number: number) {
  if (event.button !== 0) return;
  event.stopPropagation();
  (event.currentTarget as SVGElement).focus();
  const more = event.shiftKey || event.ctrlKey || event.metaKey;
  if (more || !timeline.isChosen(props.lane.key, number)) timeline.choosePeg(props.lane.key, number, more);
  else motion.chosen = [...new Set([props.lane.key, ...motion.chosen])];
  if (!timeline.isChosen(props.lane.key, number)) return;
  const before = acts.picked();
  const [at, unit] = [pegs.value[number]!.at, perPixel.value];
  const others = motion.lanes.flatMap((lane) => (lane.key === props.lane.key ? [] : pegsOf(lane.value).map((peg) => peg.at)));
  frozen.value = extent.value;
  let moved = false;
  startDrag(
    event,
    ({ dx, dy, fine }, { altKey }) => {
      if (!moved && Math.hypot(dx, dy) < 3) return;
      moved = true;
      opened.dragging = true;
      const level = fine && Math.abs(dx) > Math.abs(dy);
      const upright = fine && !level;
      const by = upright ? 0 : timeline.snapped(at + dx / timeline.perSecond, altKey, others) - at;
      acts.move(before, by, (peg, { key, setting }) => {
        const own = key === props.lane.key && numeric.value && !level;
        return own ? rounded(held(Number(peg.value) - dy * unit, setting)) : peg.value;
      });
    },
    () => {
      frozen.value = null;
      if (!moved && !more) timeline.choosePeg(props.lane.key, number, false);
      opened.endGesture();
    },
  );
}
function rounded(value: number): number {
  const step = 10 ** Math.ceil(Math.log10(Math.max(perPixel.value, 1e-6)) - 1);
  return Math.round(Math.round(value / step) * step * 1e6) / 1e6;
}

/** The piece after a peg: dragged, it shapes the easing. */
function pressPiece(event: PointerEvent, number: number) {
  if (event.button !== 0) return;
  event.stopPropagation();
  const [from, to] = [pegs.value[number]!, pegs.value[number + 1]!];
  const box = (event.currentTarget as SVGElement).ownerSVGElement!.getBoundingClientRect();
  const share = (timeline.timeAt(event.clientX - box.left) - from.at) / (to.at - from.at);
  const wide = (to.at - from.at) * timeline.perSecond;
  const high = (Number(to.value) - Number(from.value)) / perPixel.value;
  const ease = easeOf(from);
  timeline.choosePeg(props.lane.key, number, false);
  frozen.value = extent.value;
  startDrag(
    event,
    ({ dx, dy }) => {
      if (Math.hypot(dx, dy) < 3) return;
      opened.dragging = true;
      acts.ease(shaped(ease, share, dx / wide, Math.abs(high) > 4 ? -dy / high : 0), "shape easing");
    },
    () => {
      frozen.value = null;
      opened.endGesture();
    },
  );
}
function pressDrift(event: PointerEvent, way: 1 | -1) {
  event.stopPropagation();
  const before = drift.value!;
  frozen.value = extent.value;
  const unit = perPixel.value;
  startDrag(
    event,
    ({ dy }) => acts.drift(props.lane, { ...before, amount: rounded(Math.max(before.amount - way * dy * unit, 0)) }, "drift"),
    () => {
      frozen.value = null;
      opened.endGesture();
    },
  );
}
/** A double click on the line adds a peg there. */
function addAt(event: MouseEvent) {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
  acts.add(props.lane, timeline.snapped(timeline.timeAt(event.clientX - box.left), event.altKey));
}
/** The value without its drift. */
const base = (time: number) => Number(valueOver({ ...props.lane.value, drift: null, ...(pegs.value.length ? {} : { pegs: [{ at: 0, value: props.lane.value.value }] }) }, time, props.lane.setting, null));
</script>

<template>
  <div ref="track" class="track" :style="{ height: `${tall}px` }" @dblclick="addAt">
    <svg v-if="drawn" width="100%" :height="tall" role="group" :aria-label="lane.setting.label">
      <NumberLine
        v-if="numeric"
        :line="line"
        :y="y"
        :drift="drift?.amount ? drift.amount : 0"
        :base="base"
        :pegs="pegs"
        :label="lane.setting.label"
        @piece="pressPiece"
        @drift="pressDrift"
      />
      <ValueBlocks v-else :lane="lane" :tall="tall" />
      <g
        v-for="{ number, x, y: top, label } in inSight"
        :key="number"
        class="peg"
        :class="{ chosen: timeline.isChosen(lane.key, number) }"
        role="button"
        tabindex="0"
        :aria-label="label"
        :aria-pressed="timeline.isChosen(lane.key, number)"
        @pointerdown="pressPeg($event, number)"
        @dblclick.stop
        @focus="!timeline.isChosen(lane.key, number) && timeline.choosePeg(lane.key, number, false)"
      >
        <title>{{ label }}</title>
        <line :x1="x" :x2="x" :y1="top" :y2="tall" />
        <circle class="target" :cx="x" :cy="top" r="11" />
        <circle :cx="x" :cy="top" r="4.5" />
      </g>
    </svg>
  </div>
</template>

<style scoped>
.track {
  position: relative;
  overflow: hidden;
  touch-action: none;
}
svg {
  display: block;
}
.peg {
  cursor: grab;
  outline: none;
}
.peg line {
  stroke: var(--ink);
  stroke-width: 1.5;
}
.peg circle {
  fill: var(--raised);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.peg .target {
  fill: transparent;
  stroke: none;
}
.peg.chosen circle:not(.target) {
  fill: var(--accent);
  stroke: var(--accent);
}
.peg:focus-visible circle:not(.target) {
  stroke: var(--focus);
  stroke-width: 3;
}
</style>
