<script setup lang="ts">
// Files on their way, with how much of each was sent.
import { useLibrary } from "@/stores/library";
import { text } from "@/text";

const library = useLibrary();
</script>

<template>
  <div v-if="library.uploads.length" class="uploads" role="status">
    <div v-for="(upload, index) in library.uploads" :key="index">
      <span class="row">
        <span>{{ upload.waiting ? text.library.waiting(upload.name) : text.library.sending(upload.name) }}</span>
        <v-btn size="x-small" variant="text" :aria-label="text.library.stopSending(upload.name)" @click="upload.stop">{{ text.act.stop }}</v-btn>
      </span>
      <v-progress-linear :model-value="upload.share * 100" :aria-label="upload.name" height="4" color="secondary" />
    </div>
  </div>
</template>

<style scoped>
.uploads {
  position: fixed;
  right: 16px;
  bottom: 16px;
  width: 280px;
  padding: 10px 14px;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: var(--raised);
  box-shadow: 0 2px 10px #0003;
  z-index: 1500;
}
.row {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
}
.row > span {
  overflow-wrap: anywhere;
}
</style>
