<script setup lang="ts">
// Exporting the title that is open: for what, how, what it will look like and take, and all exports.
import { computed, onScopeDispose, ref, shallowRef, watch } from "vue";
import ExportFrame from "./ExportFrame.vue";
import ExportList from "./ExportList.vue";
import ExportSight from "./ExportSight.vue";
import ExportWays from "./ExportWays.vue";
import { hasBackdrop, isMoving, wholeOrder, type Order } from "@/model/exporting";
import { useCatalogue } from "@/stores/catalogue";
import { useClock } from "@/stores/clock";
import { useExports } from "@/stores/exports";
import { useOpened } from "@/stores/opened";
import { useTimeline } from "@/stores/timeline";
import { text } from "@/text";

const open = defineModel<boolean>({ required: true });
const opened = useOpened();
const catalogue = useCatalogue();
const clock = useClock();
const exports = useExports();
const timeline = useTimeline();
const order = shallowRef<Order>(wholeOrder(exports.last));
const asking = ref(false);
const fault = ref("");

watch(open, (now) => {
  exports.watchThem(now);
  if (!now) return;
  fault.value = "";
  order.value = forNow(exports.last);
  void exports.loadForms();
}, { immediate: true });
onScopeDispose(() => exports.watchThem(false));

/** Settings for this title: the loop that is chosen, and the moment that is shown. */
function forNow(settings: Order): Order {
  const [start, end] = timeline.loop;
  const whole = start === 0 && end === timeline.duration;
  return { ...settings, time: clock.time, start, end: whole ? null : end, backdrop: settings.backdrop && hasBackdrop(opened.document) };
}
const tooLarge = computed(() => {
  const { width, height } = opened.document.frame;
  return width * height * order.value.scale ** 2 > (catalogue.all?.frames.largest_area ?? Infinity);
});
const faults = computed(() => [tooLarge.value ? text.exports.tooLarge : "", fault.value].filter(Boolean));
async function start() {
  asking.value = true;
  const moment = isMoving(order.value) ? { time: null } : {};
  fault.value = (await exports.ask(opened.document, { ...order.value, ...moment })) ?? "";
  asking.value = false;
}
</script>

<template>
  <ExportFrame
    v-model="open" :title="text.exports.title" :order="order" :faults="faults" :disabled="asking || tooLarge" name="export"
    @use="order = forNow($event)" @start="start"
  >
    <template #ways><ExportWays v-if="exports.forms" v-model="order" :forms="exports.forms" :title="opened.document" /></template>
    <template #right>
      <ExportSight v-if="open" :order="order" :too-large="tooLarge" />
      <ExportList @reuse="order = forNow($event)" />
    </template>
  </ExportFrame>
</template>
