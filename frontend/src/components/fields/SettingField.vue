<script setup lang="ts">
// The control for one setting, by its kind in the catalogue.
import { computed } from "vue";
import type { Choice } from "@/model/references";
import { constant, type CurvePoint, type Spot, type Stop, type Setting } from "@/model/title";
import ChoiceField from "./ChoiceField.vue";
import ColourField from "./ColourField.vue";
import CurveField from "./CurveField.vue";
import NumberField from "./NumberField.vue";
import PointField from "./PointField.vue";
import SpotsField from "./SpotsField.vue";
import StopsField from "./StopsField.vue";
import SwitchField from "./SwitchField.vue";

const props = defineProps<{
  setting: Setting;
  value: unknown;
  histogram?: number[] | null;
  pointer?: number | null;
  slide?: number;
  repeats?: number;
  references?: Choice[];
}>();
const emit = defineEmits<{ change: [value: unknown]; done: []; start: [] }>();

const plain = computed(() => constant(props.value));
const numeric = computed(() =>
  ["length", "angle", "fraction", "number", "count", "seed"].includes(props.setting.kind),
);
// A document may leave a midpoint to its default.
const stops = computed(() => (plain.value as Stop[]).map((stop) => ({ ...stop, midpoint: stop.midpoint ?? 0.5 })));
const common = computed(() => ({ label: props.setting.label, help: props.setting.help }));
</script>

<template>
  <NumberField
    v-if="numeric"
    v-bind="common"
    :model-value="Number(plain)"
    :low="setting.low ?? -1e6"
    :high="setting.high ?? 1e6"
    :usual="setting.usual ?? undefined"
    :unit="setting.unit"
    :standard="setting.default === null ? undefined : Number(setting.default)"
    :whole="setting.kind === 'count' || setting.kind === 'seed'"
    @update:model-value="emit('change', $event)"
    @done="emit('done')"
    @start="emit('start')"
  />
  <ColourField
    v-else-if="setting.kind === 'colour'"
    v-bind="common"
    :model-value="String(plain)"
    @update:model-value="emit('change', $event)"
    @done="emit('done')"
  />
  <SwitchField
    v-else-if="setting.kind === 'switch'"
    v-bind="common"
    :model-value="Boolean(plain)"
    @update:model-value="emit('change', $event); emit('done')"
  />
  <ChoiceField
    v-else-if="['choice', 'image', 'step', 'light'].includes(setting.kind)"
    v-bind="common"
    :model-value="String(plain)"
    :choices="setting.choices ?? references ?? []"
    @update:model-value="emit('change', $event)"
    @done="emit('done')"
  />
  <PointField
    v-else-if="setting.kind === 'point'"
    v-bind="common"
    :model-value="(plain as [number, number])"
    @update:model-value="emit('change', $event)"
    @done="emit('done')"
  />
  <CurveField
    v-else-if="setting.kind === 'curve'"
    :help="setting.help"
    :curves="[{ name: setting.name, label: setting.label, points: plain as CurvePoint[], standard: setting.default as CurvePoint[] }]"
    :histogram="histogram"
    :pointer="pointer"
    @change="(_, points) => emit('change', points)"
    @start="emit('start')"
    @done="emit('done')"
  />
  <SpotsField
    v-else-if="setting.kind === 'spots'"
    :model-value="(plain as Spot[])"
    @update:model-value="emit('change', $event)"
    @done="emit('done')"
  />
  <StopsField
    v-else-if="setting.kind === 'stops'"
    :model-value="stops"
    :histogram="histogram"
    :pointer="pointer"
    :slide="slide"
    :repeats="repeats"
    @update:model-value="emit('change', $event)"
    @done="emit('done')"
    @start="emit('start')"
  />
</template>
