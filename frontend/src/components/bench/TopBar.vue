<script setup lang="ts">
// Name, frame, state of saving, undo and redo, marks, finishes, export.
import { mdiKeyboardOutline, mdiRedo, mdiUndo } from "@mdi/js";
import { computed } from "vue";
import FrameChooser from "@/components/FrameChooser.vue";
import LampSwitch from "@/components/common/LampSwitch.vue";
import { withKey } from "@/model/shortcuts";
import { useOpened } from "@/stores/opened";
import { useMarks } from "@/stores/marks";
import { usePanels } from "@/stores/panels";
import { text } from "@/text";

const opened = useOpened();
const marks = useMarks();
const panels = usePanels();
const state = computed(() => opened.saving.state.value);
const said = computed(() => opened.saving.fault.value || text.saved[state.value]);

function rename(event: Event) {
  const name = (event.target as HTMLInputElement).value.trim().slice(0, 200);
  if (name && name !== opened.title.name) opened.change({ ...opened.title, name });
}
function frame(width: number, height: number) {
  opened.change({ ...opened.title, frame: { ...opened.title.frame, width, height } });
}
</script>

<template>
  <header class="top">
    <router-link to="/" class="wordmark" :aria-label="text.act.back">mabrel</router-link>
    <input
      class="name"
      :value="opened.title.name"
      :aria-label="text.act.rename"
      :size="Math.min(Math.max(opened.title.name.length + 1, 8), 30)"
      @change="rename"
      @keydown.enter="($event.target as HTMLInputElement).blur()"
    />
    <span class="quiet state">
      <FrameChooser :width="opened.title.frame.width" :height="opened.title.frame.height" @choose="frame" />,
      <span :class="{ bad: state === 'offline' || state === 'conflict' }" role="status" data-testid="saved">{{ said }}</span>
    </span>
    <span class="space"></span>
    <LampSwitch />
    <v-btn
      :icon="mdiKeyboardOutline"
      variant="text"
      size="x-small"
      :aria-label="text.shortcuts.title"
      :title="withKey(text.shortcuts.title, 'sheet')"
      @click="panels.shortcuts = true"
    />
    <v-btn
      :prepend-icon="mdiUndo"
      :disabled="!opened.history.canUndo"
      :title="withKey(text.act.undo, 'undo')"
      @click="opened.undo()"
    >
      {{ text.act.undo }}
    </v-btn>
    <v-btn
      :prepend-icon="mdiRedo"
      :disabled="!opened.history.canRedo"
      :title="withKey(text.act.redo, 'redo')"
      @click="opened.redo()"
    >
      {{ text.act.redo }}
    </v-btn>
    <v-btn :title="withKey(text.marks.set, 'setMark')" @click="marks.set()">{{ text.marks.set }}</v-btn>
    <v-btn :title="withKey(text.marks.title, 'marks')" @click="panels.marks = true">{{ text.marks.open }}</v-btn>
    <v-btn
      :title="withKey(text.finishes.title, 'finishes')"
      :aria-pressed="panels.finishes"
      @click="panels.toggle('finishes')"
    >
      {{ text.finishes.title }}
    </v-btn>
    <v-btn variant="flat" color="ink" :title="withKey(text.act.export, 'export')" @click="panels.exporting = true">
      {{ text.act.export }}
    </v-btn>
  </header>
</template>

<style scoped>
.top {
  display: flex;
  align-items: center;
  gap: 8px;
  height: 46px;
  padding: 0 16px;
  border-bottom: 1px solid var(--line);
}
.wordmark {
  margin-right: 4px;
}
.name {
  min-width: 0;
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
.state {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.space {
  flex: 1;
}
.bad {
  color: var(--accent);
}
</style>
