<script setup lang="ts">
// Settings by purpose, each saying what it contains, and those of one's own.
import { mdiClose } from "@mdi/js";
import { ref } from "vue";
import { wholeOrder, type Order } from "@/model/exporting";
import { useExports } from "@/stores/exports";
import { text } from "@/text";

const props = defineProps<{ order: Order }>();
const emit = defineEmits<{ use: [order: Order] }>();
const exports = useExports();
const name = ref("");
/** What makes a preset: not the moment, nor the range. */
const TOLD = ["kind", "form", "depth", "passes", "scale", "backdrop"] as const;
const isUsed = (order: Partial<Order>) => {
  const whole = wholeOrder(order);
  return TOLD.every((each) => whole[each] === props.order[each]);
};
async function keep() {
  if (!name.value.trim()) return;
  await exports.keepPreset(name.value.trim(), { ...props.order, time: null, start: 0, end: null });
  name.value = "";
}
</script>

<template>
  <section :aria-label="text.exports.presets">
    <h3>{{ text.exports.presets }}</h3>
    <ul>
      <li v-for="preset in exports.forms?.presets ?? []" :key="preset.name">
        <button type="button" class="plain" :aria-pressed="isUsed(preset.order)" @click="emit('use', wholeOrder(preset.order))">
          <strong>{{ preset.label }}</strong>
          <span class="quiet">{{ preset.says }}</span>
        </button>
      </li>
    </ul>
    <h3 v-if="exports.forms?.own.length">{{ text.exports.own }}</h3>
    <ul>
      <li v-for="preset in exports.forms?.own ?? []" :key="preset.id" class="own">
        <button type="button" class="plain" :aria-pressed="isUsed(preset.order)" @click="emit('use', wholeOrder(preset.order))">
          <strong>{{ preset.name }}</strong>
        </button>
        <v-btn :icon="mdiClose" size="24" variant="text" :aria-label="text.exports.forget(preset.name)" @click="exports.forgetPreset(preset.id)" />
      </li>
    </ul>
    <form @submit.prevent="keep">
      <v-text-field v-model="name" :placeholder="text.exports.keepAs" :aria-label="text.exports.keepAs" maxlength="100" />
      <v-btn type="submit" size="small" :disabled="!name.trim()">{{ text.exports.keep }}</v-btn>
    </form>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 4px 0 12px;
  padding: 0;
}
li button {
  display: grid;
  gap: 1px;
  width: 100%;
  border: 1px solid transparent;
  border-radius: 4px;
  padding: 6px 8px;
}
li button:hover {
  background: color-mix(in srgb, var(--ink) 5%, transparent);
}
li button[aria-pressed="true"] {
  border-color: var(--ink);
  background: var(--raised);
}
li .quiet {
  font-size: 12px;
  line-height: 1.3;
}
.own {
  display: flex;
  align-items: center;
}
.own button.plain {
  flex: 1;
}
form {
  display: grid;
  gap: 6px;
}
</style>
