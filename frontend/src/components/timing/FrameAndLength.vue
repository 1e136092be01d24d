<script setup lang="ts">
// Frames a second, length, and whether the title loops.
import { computed, ref } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import SwitchField from "@/components/fields/SwitchField.vue";
import TypedNumber from "./TypedNumber.vue";
import { inSeconds, rateName } from "@/model/time/written";
import { useCatalogue } from "@/stores/catalogue";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

const LONGEST = 3600; // seconds

const opened = useOpened();
const catalogue = useCatalogue();
const open = ref(false);
const frame = computed(() => opened.document.frame);
const rates = computed(() => {
  const all = [...new Set([...(catalogue.all?.rates ?? []), frame.value.fps])].sort((a, b) => a - b);
  return all.map((rate) => ({ value: String(rate), title: rateName(rate) }));
});
function set(changes: object) {
  opened.rewrite({ ...opened.document, frame: { ...frame.value, ...changes } });
}
function setLength(seconds: number) {
  set({ duration: Math.round(Math.min(Math.max(seconds, 1 / frame.value.fps), LONGEST) * 1e6) / 1e6 });
}
</script>

<template>
  <div>
    <v-menu v-model="open" :close-on-content-click="false" location="top end">
      <template #activator="{ props: activator }">
        <button v-bind="activator" class="plain mono asked" type="button" :aria-label="text.timing.frameAndLength">
          {{ text.timing.summary(inSeconds(frame.duration), rateName(frame.fps), frame.loops) }}
        </button>
      </template>
      <v-card class="card" :aria-label="text.timing.frameAndLength">
        <ChoiceField :label="text.timing.rate" :model-value="String(frame.fps)" :choices="rates" @update:model-value="set({ fps: Number($event) })" />
        <p class="row">
          <TypedNumber :label="text.timing.length" :value="frame.duration" unit="s" @change="setLength" />
          <TypedNumber :label="text.timing.inFrames" :value="Math.round(frame.duration * frame.fps)" @change="setLength($event / frame.fps)" />
        </p>
        <SwitchField :label="text.timing.loops" :help="text.timing.loopsHelp" :model-value="frame.loops" @update:model-value="set({ loops: $event })" />
      </v-card>
    </v-menu>
  </div>
</template>

<style scoped>
.asked {
  border-bottom: 1px dotted currentcolor;
}
.card {
  width: 320px;
  padding: 10px 14px;
}
.row {
  display: flex;
  justify-content: space-between;
  margin: 6px 0;
}
</style>
