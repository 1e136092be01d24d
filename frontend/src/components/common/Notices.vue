<script setup lang="ts">
import { computed } from "vue";
import { useNotices } from "@/stores/notices";
import { text } from "@/text";

const notices = useNotices();
const open = computed({
  get: () => notices.shown !== null,
  set: (value: boolean) => {
    if (!value) notices.shown = null;
  },
});

function act() {
  notices.shown?.act?.run();
  notices.shown = null;
}
</script>

<template>
  <v-snackbar
    v-model="open"
    :timeout="notices.shown?.kind === 'fault' ? 9000 : 7000"
    :color="notices.shown?.kind === 'fault' ? 'error' : undefined"
    role="status"
  >
    {{ notices.shown?.text }}
    <template #actions>
      <v-btn v-if="notices.shown?.act" variant="text" @click="act">{{ notices.shown.act.label }}</v-btn>
      <v-btn v-else variant="text" @click="open = false">{{ text.act.close }}</v-btn>
    </template>
  </v-snackbar>
</template>
