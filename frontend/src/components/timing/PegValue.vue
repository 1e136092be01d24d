<script setup lang="ts">
// The value of one peg that is no number: a colour, stops, a curve, a choice, a picture, words.
import { computed } from "vue";
import SettingField from "@/components/fields/SettingField.vue";
import type { Setting } from "@/model/title";
import { useCatalogue } from "@/stores/catalogue";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

const props = defineProps<{ setting: Setting; value: unknown }>();
const emit = defineEmits<{ change: [value: unknown, gesture: string] }>();
const catalogue = useCatalogue();
const opened = useOpened();

const pictures = computed(() =>
  (catalogue.all?.pictures ?? []).map((name) => ({ value: name, title: name.replace(/^shipped\//, "") })),
);
/** A picture is chosen by its name, as anything else that refers to something. */
const shown = computed<Setting>(() => (props.setting.kind === "picture" ? { ...props.setting, kind: "image" } : props.setting));
const change = (value: unknown) => emit("change", value, `peg of ${props.setting.name}`);
</script>

<template>
  <v-menu :close-on-content-click="false" location="top">
    <template #activator="{ props: activator }">
      <button v-bind="activator" class="plain value" type="button">{{ text.timing.value }}…</button>
    </template>
    <v-card class="board">
      <v-textarea
        v-if="setting.kind === 'words'"
        :model-value="String(value)"
        :aria-label="setting.label"
        rows="1"
        auto-grow
        maxlength="2000"
        @update:model-value="change($event)"
        @blur="opened.endGesture()"
      />
      <SettingField
        v-else
        :setting="shown"
        :value="value"
        :references="pictures"
        @change="change"
        @start="opened.dragging = true"
        @done="opened.endGesture()"
      />
    </v-card>
  </v-menu>
</template>

<style scoped>
.value {
  min-height: 24px;
  padding: 0 6px;
  text-decoration: underline;
}
.board {
  width: 320px;
  padding: 10px 14px;
}
</style>
