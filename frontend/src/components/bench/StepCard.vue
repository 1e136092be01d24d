<script setup lang="ts">
// One step: a picture of the work after it.
import { mdiAlphaSBoxOutline, mdiContentCopy, mdiDelete, mdiPower, mdiVectorSelection } from "@mdi/js";
import { computed, ref, watch } from "vue";
import { numberOf, type Step } from "@/model/title";
import { text } from "@/text";

const props = defineProps<{
  step: Step; label: string; picture?: string; chosen: boolean; marked: boolean; solo: boolean;
}>();
const emit = defineEmits<{ choose: []; toggle: []; duplicate: []; remove: []; solo: [] }>();
const root = ref<HTMLElement | null>(null);
// With many steps the chosen one may be out of sight.
watch(
  () => props.chosen,
  (now) => now && root.value?.scrollIntoView?.({ block: "nearest", inline: "nearest" }),
);
const strength = computed(() => numberOf(props.step.strength, 1));
</script>

<template>
  <div ref="root" class="card" :class="{ chosen, off: !step.on, marked, solo }" draggable="true">
    <button
      class="plain pick"
      type="button"
      :aria-pressed="chosen"
      :aria-label="step.on ? label : `${label}, ${text.bench.off}`"
      :title="text.bench.keys"
      @click="emit('choose')"
    >
      <img v-if="picture" :src="picture" alt="" draggable="false" />
      <span v-else class="blank"></span>
      <span class="signs">
        <v-icon v-if="step.where" :icon="mdiVectorSelection" size="13" :title="text.where.title" />
        <span v-if="strength < 1" class="mono" :title="text.bench.strength">{{ Math.round(strength * 100) }} %</span>
      </span>
      <span class="name">{{ label }}<template v-if="!step.on">, {{ text.bench.off }}</template></span>
    </button>
    <div class="acts">
      <v-btn
        :icon="mdiPower"
        size="24"
        variant="flat"
        :aria-label="`${step.on ? text.bench.switchOff : text.bench.switchOn}: ${label}`"
        :aria-pressed="step.on"
        @click="emit('toggle')"
      />
      <v-btn
        :icon="mdiAlphaSBoxOutline"
        size="24"
        variant="flat"
        :aria-label="`${text.bench.solo}: ${label}`"
        :title="text.bench.solo"
        :aria-pressed="solo"
        @click="emit('solo')"
      />
      <v-btn
        :icon="mdiContentCopy"
        size="24"
        variant="flat"
        :aria-label="`${text.act.duplicate}: ${label}`"
        @click="emit('duplicate')"
      />
      <v-btn
        :icon="mdiDelete"
        size="24"
        variant="flat"
        :aria-label="`${text.act.remove}: ${label}`"
        @click="emit('remove')"
      />
    </div>
  </div>
</template>

<style scoped>
.card {
  position: relative;
  width: 92px;
  font-size: 12px;
}
.card.marked::before {
  content: "";
  position: absolute;
  left: -5px;
  top: 0;
  height: 54px;
  border-left: 3px solid var(--accent);
}
.pick {
  width: 100%;
}
img,
.blank {
  display: block;
  width: 90px;
  height: 50px;
  border-radius: 4px;
  background: var(--surround);
  margin: 1px;
}
.chosen img,
.chosen .blank {
  outline: 3px solid var(--accent);
}
.solo .name {
  color: var(--active);
  font-weight: 650;
}
.signs {
  position: absolute;
  right: 3px;
  top: 3px;
  display: flex;
  gap: 2px;
}
.signs > * {
  padding: 0 3px;
  border-radius: 2px;
  background: #1d2022cc;
  color: #fff;
  font-size: 10px;
}
.off img {
  opacity: 0.35;
}
.off .name {
  color: var(--quiet);
}
.name {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
/* One in each corner of the picture: its middle is for choosing, and the name stays readable. */
.acts {
  position: absolute;
  top: 1px;
  left: 1px;
  display: none;
  grid-template-columns: 24px 24px;
  justify-content: space-between;
  align-content: space-between;
  width: 90px;
  height: 50px;
  pointer-events: none;
}
.acts > * {
  pointer-events: auto;
}
.card:hover .acts,
.card:has(:focus-visible) .acts {
  display: grid;
}
.acts :deep(.v-icon) {
  font-size: 14px;
}
</style>
