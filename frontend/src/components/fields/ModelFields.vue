<script setup lang="ts">
// The settings of one model of the title, as the catalogue tells them: those that count, grouped
// and folded by sense where there are many; what was changed stays in sight.
import { mdiChevronDown, mdiChevronRight } from "@mdi/js";
import { computed, ref } from "vue";
import PlacedField from "./PlacedField.vue";
import { valueAt, type Place } from "@/model/places";
import type { Choice } from "@/model/references";
import { calledIn, countsIn, type Setting } from "@/model/title";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

const props = defineProps<{
  of: Place;
  settings: readonly Setting[];
  histogram?: number[] | null;
  pointer?: number | null;
  references?: Record<string, Choice[]>;
}>();
const opened = useOpened();
const unfolded = ref<string[]>([]);

const values = computed(() => (valueAt(opened.title, props.of) ?? {}) as Record<string, unknown>);
const counting = computed(() =>
  props.settings
    .filter((each) => countsIn(values.value, props.settings, each))
    .map((each) => calledIn(values.value, props.settings, each)),
);
const isChanged = (each: Setting) => {
  const value = values.value[each.name];
  return value !== undefined && JSON.stringify(value) !== JSON.stringify(each.default);
};
interface Group {
  name: string;
  shown: Setting[];
  folded: number;
  open: boolean;
}
const groups = computed<Group[]>(() => {
  const names = [...new Set(counting.value.map((each) => each.group))];
  return names.map((name) => {
    const all = counting.value.filter((each) => each.group === name);
    const open = name === "" || unfolded.value.includes(name);
    const shown = open ? all : all.filter(isChanged);
    return { name, shown, folded: all.length - shown.length, open };
  });
});
function toggle(name: string) {
  unfolded.value = unfolded.value.includes(name)
    ? unfolded.value.filter((each) => each !== name)
    : [...unfolded.value, name];
}
function beside(name: string): number {
  const value = values.value[name];
  return typeof value === "number" ? value : 0;
}
</script>

<template>
  <template v-for="group in groups" :key="group.name">
    <button v-if="group.name" class="plain group" type="button" :aria-expanded="group.open" @click="toggle(group.name)">
      <v-icon :icon="group.open ? mdiChevronDown : mdiChevronRight" size="16" />
      <span>{{ group.name }}</span>
      <span v-if="!group.open && group.folded" class="quiet">{{ text.bench.folded(group.folded) }}</span>
    </button>
    <PlacedField
      v-for="setting in group.shown"
      :key="setting.name"
      :of="of"
      :setting="setting"
      :histogram="histogram"
      :pointer="pointer"
      :slide="beside('slide')"
      :repeats="beside('repeats') || 1"
      :references="references?.[setting.name]"
    />
  </template>
</template>

<style scoped>
.group {
  display: flex;
  align-items: center;
  gap: 4px;
  width: 100%;
  min-height: 28px;
  margin-top: 4px;
  border-top: 1px solid var(--line);
  font-weight: 600;
  text-align: left;
}
.group .quiet {
  font-weight: 400;
}
</style>
