<script setup lang="ts">
// What the chosen pegs are: time, value, and how they go on; and the drift of the chosen lane.
import { mdiDelete } from "@mdi/js";
import { computed } from "vue";
import PegValue from "./PegValue.vue";
import TypedNumber from "./TypedNumber.vue";
import { COUNTS, eased, EASES, easeName, type Bezier, type Ease, type EaseName } from "@/model/time/easing";
import { drifts, isNumeric } from "@/model/time/mixing";
import { FRESH_DRIFT, LARGEST_DRIFT } from "@/model/time/drifting";
import { driftOf, easeOf, pegsOf } from "@/model/time/varying";
import { useMotion } from "@/stores/motion";
import { useOpened } from "@/stores/opened";
import { usePegs } from "@/stores/pegs";
import { useTimeline } from "@/stores/timeline";
import { text } from "@/text";

const motion = useMotion();
const opened = useOpened();
const acts = usePegs();
const timeline = useTimeline();

const picked = computed(() => acts.picked());
const one = computed(() => {
  const [first] = picked.value;
  return timeline.count === 1 && first ? { lane: first.lane, number: first.numbers[0]!, peg: first.pegs[0]! } : null;
});
const lane = computed(() => motion.lanes.find(({ key }) => key === motion.chosen.at(-1)));
const ease = computed<Ease>(() => easeOf(picked.value[0]?.pegs[0] ?? { at: 0, value: 0 }));
const name = computed(() => easeName(ease.value));
const numbers = computed<Bezier | null>(() => (Array.isArray(ease.value) ? ease.value : null));
const counted = computed(() => (typeof ease.value === "object" && !Array.isArray(ease.value) ? Object.entries(ease.value)[0]! : null));
/** Something follows, so that the easing counts. */
const goesOn = computed(() => picked.value.some(({ lane: of, numbers: n }) => n.some((each) => each < pegsOf(of.value).length - 1)));

const icon = (each: Ease) =>
  Array.from({ length: 19 }, (_, i) => `${i ? "L" : "M"}${i + 1} ${(15 - 12 * eased(each, Math.min(i / 18, 0.9999))).toFixed(1)}`).join("") + "L19 3";
function typeNumber(at: number, value: number) {
  const next = [...numbers.value!] as Bezier;
  next[at] = at % 2 ? Math.min(Math.max(value, -4), 5) : Math.min(Math.max(value, 0), 1);
  acts.ease(next);
}
function typeCount(value: number) {
  const [kind] = counted.value!;
  const [low, high] = COUNTS[kind]!;
  const count = Math.round(Math.min(Math.max(value, low), high));
  acts.ease(kind === "steps" ? { steps: count } : kind === "bounce" ? { bounce: count } : { spring: count });
}
const percent = computed(() => (one.value?.lane.setting.unit === "%" ? 100 : 1));

const drift = computed(() => (lane.value ? driftOf(lane.value.value) : null));
function toggleDrift() {
  if (!lane.value) return;
  const [low, high] = lane.value.setting.usual ?? [lane.value.setting.low ?? 0, lane.value.setting.high ?? 1];
  const amount = lane.value.setting.kind === "colour" ? 0.1 : Math.round((high - low) * 50) / 1000;
  acts.drift(lane.value, drift.value ? null : { ...FRESH_DRIFT, amount });
}
function setDrift(changes: object) {
  if (lane.value && drift.value) acts.drift(lane.value, { ...drift.value, ...changes });
  opened.endGesture();
}
const inPercent = computed(() => (lane.value?.setting.unit === "%" || lane.value?.setting.kind === "colour" ? 100 : 1));
</script>

<template>
  <div v-if="timeline.count || lane" class="editor">
    <template v-if="timeline.count">
      <span class="mono what">{{ text.timing.selected(timeline.count) }}</span>
      <template v-if="one">
        <TypedNumber :label="text.timing.at" :value="one.peg.at" unit="s" @change="acts.setTime(one.lane, one.number, motion.onFrame($event))" />
        <TypedNumber
          v-if="isNumeric(one.lane.setting.kind)"
          :label="text.timing.value"
          :value="Number(one.peg.value) * percent"
          :unit="one.lane.setting.unit"
          @change="acts.setValue(one.lane, one.number, $event / percent)"
        />
        <PegValue
          v-else
          :setting="one.lane.setting"
          :value="one.peg.value"
          @change="(value, gesture) => acts.setValue(one!.lane, one!.number, value, gesture)"
        />
      </template>
      <div v-if="goesOn" class="eases" role="radiogroup" :aria-label="text.timing.ease">
        <button
          v-for="(each, key) in EASES"
          :key="key"
          class="plain"
          type="button"
          role="radio"
          :aria-checked="name === key"
          :aria-label="text.timing.eases[key as EaseName]"
          :title="text.timing.eases[key as EaseName]"
          @click="acts.ease(each)"
        >
          <svg viewBox="0 -4 20 24" aria-hidden="true"><path :d="icon(each)" /></svg>
        </button>
      </div>
      <template v-if="goesOn && numbers">
        <TypedNumber v-for="(value, i) in numbers" :key="i" :label="`${text.timing.numbers} ${i + 1}`" :value="value" bare @change="typeNumber(i, $event)" />
      </template>
      <TypedNumber v-else-if="goesOn && counted" :label="text.timing.count" :value="Number(counted[1])" unit="×" @change="typeCount" />
      <v-btn :icon="mdiDelete" variant="text" size="x-small" :aria-label="text.timing.remove" :title="text.timing.remove" @click="acts.remove()" />
    </template>
    <span class="space"></span>
    <template v-if="lane && drifts(lane.setting.kind)">
      <button class="plain drift" type="button" :aria-pressed="drift !== null" @click="toggleDrift">{{ text.timing.drift }}</button>
      <template v-if="drift">
        <TypedNumber :label="text.timing.driftAmount" :value="drift.amount * inPercent" :unit="lane.setting.unit" bare @change="setDrift({ amount: Math.min(Math.max($event / inPercent, 0), LARGEST_DRIFT) })" />
        <TypedNumber :label="text.timing.driftRate" :value="drift.rate" unit="/s" bare @change="setDrift({ rate: Math.min(Math.max($event, 0.01), 100) })" />
        <TypedNumber :label="text.timing.driftSeed" :value="drift.seed" unit="#" bare @change="setDrift({ seed: Math.round(Math.min(Math.max($event, 0), 999999)) })" />
      </template>
    </template>
  </div>
</template>

<style scoped>
.editor {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 32px;
  padding: 2px 8px 2px 12px;
  border-top: 1px solid var(--line);
  background: var(--raised);
  overflow-x: auto;
  scrollbar-width: none;
}
.what {
  white-space: nowrap;
}
.eases {
  display: flex;
}
.eases button {
  display: grid;
  place-items: center;
  width: 26px;
  height: 26px;
  border-radius: 3px;
}
.eases button[aria-checked="true"] {
  background: color-mix(in srgb, var(--accent) 22%, transparent);
}
.eases svg {
  width: 20px;
  height: 22px;
  fill: none;
  stroke: currentcolor;
  stroke-width: 1.6;
  overflow: visible;
}
.space {
  flex: 1;
}
.drift {
  min-height: 24px;
  text-decoration: underline;
}
.drift[aria-pressed="true"] {
  color: var(--accent);
  font-weight: 600;
}
</style>
