<script setup lang="ts">
// Name, frame, state of saving, undo and redo, export.
import { mdiRedo, mdiUndo } from "@mdi/js";
import { computed, ref } from "vue";
import ExportDialog from "./ExportDialog.vue";
import FrameChooser from "@/components/FrameChooser.vue";
import { useLamp } from "@/composables/useLamp";
import { useBench } from "@/stores/bench";
import { text } from "@/text";

const bench = useBench();
const lamp = useLamp();
const exporting = ref(false);
const state = computed(() => bench.saving.state.value);
const said = computed(() => bench.saving.fault.value || text.saved[state.value]);

function rename(event: Event) {
  const name = (event.target as HTMLInputElement).value.trim().slice(0, 200);
  if (name && name !== bench.title.name) bench.change({ ...bench.title, name });
}
function frame(width: number, height: number) {
  bench.change({ ...bench.title, frame: { ...bench.title.frame, width, height } });
}
</script>

<template>
  <header class="top">
    <router-link to="/" class="wordmark" :aria-label="text.act.back">mabrel</router-link>
    <input
      class="name"
      :value="bench.title.name"
      :aria-label="text.act.rename"
      :size="Math.min(Math.max(bench.title.name.length + 1, 8), 40)"
      @change="rename"
      @keydown.enter="($event.target as HTMLInputElement).blur()"
    />
    <span class="quiet">
      <FrameChooser :width="bench.title.frame.width" :height="bench.title.frame.height" @choose="frame" />,
      <span :class="{ bad: state === 'offline' || state === 'conflict' }" role="status" data-testid="saved">{{ said }}</span>
    </span>
    <span class="space"></span>
    <button class="plain quiet" type="button" @click="lamp = lamp === 'day' ? 'lampOff' : 'day'">
      {{ lamp === "day" ? text.lamp.off : text.lamp.on }}
    </button>
    <v-btn :prepend-icon="mdiUndo" :disabled="!bench.history.canUndo" title="Ctrl + Z" @click="bench.undo()">
      {{ text.act.undo }}
    </v-btn>
    <v-btn :prepend-icon="mdiRedo" :disabled="!bench.history.canRedo" title="Ctrl + Shift + Z" @click="bench.redo()">
      {{ text.act.redo }}
    </v-btn>
    <v-btn variant="flat" color="ink" @click="exporting = true">{{ text.act.export }}</v-btn>
    <ExportDialog v-model="exporting" />
  </header>
</template>

<style scoped>
.top {
  display: flex;
  align-items: center;
  gap: 12px;
  height: 46px;
  padding: 0 16px;
  border-bottom: 1px solid var(--line);
}
.name {
  border: 1px solid transparent;
  border-radius: 3px;
  background: none;
  color: inherit;
  font: inherit;
  font-weight: 650;
  padding: 2px 4px;
}
.name:hover,
.name:focus {
  border-color: var(--line);
  background: var(--raised);
}
.space {
  flex: 1;
}
.bad {
  color: var(--accent);
}
</style>
