<script setup lang="ts">
// A setting at its place in the title: drawn by its kind, changed at the clock's time, with its peg.
import { computed } from "vue";
import PeggedField from "./PeggedField.vue";
import SettingField from "./SettingField.vue";
import type { Place } from "@/model/places";
import type { Choice } from "@/model/references";
import type { Setting } from "@/model/title";
import { useMotion } from "@/stores/motion";
import { useOpened } from "@/stores/opened";

const props = defineProps<{
  /** Of the model that has the setting. */
  of: Place;
  setting: Setting;
  histogram?: number[] | null;
  pointer?: number | null;
  slide?: number;
  repeats?: number;
  references?: Choice[];
}>();
const motion = useMotion();
const opened = useOpened();
const place = computed(() => [...props.of, props.setting.name]);
const value = computed(() => motion.now(place.value, props.setting));
</script>

<template>
  <PeggedField :of="of" :setting="setting">
    <SettingField
      :setting="setting"
      :value="value"
      :histogram="histogram"
      :pointer="pointer"
      :slide="slide"
      :repeats="repeats"
      :references="references"
      @change="motion.set(place, $event)"
      @start="opened.dragging = true"
      @done="opened.endGesture()"
    />
  </PeggedField>
</template>
