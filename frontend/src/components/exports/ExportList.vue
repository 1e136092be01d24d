<script setup lang="ts">
// All exports: how far each is, how long it will still take, and what can be done with it.
import { mdiClose, mdiDownload, mdiPlay, mdiStop, mdiTuneVariant } from "@mdi/js";
import { wholeOrder, sizeTold, timeTold, type ExportState, type Order } from "@/model/exporting";
import { useExports } from "@/stores/exports";
import { text } from "@/text";

const emit = defineEmits<{ reuse: [order: Order] }>();
const exports = useExports();
const isUnderway = ({ state }: ExportState) => state === "waiting" || state === "running";
const canGoOn = ({ state }: ExportState) => state === "stopped" || state === "failed";
const named = (each: ExportState) => `${each.name}${each.ending}`;
function told(each: ExportState): string {
  if (each.state === "done") return text.exports.done(sizeTold(each.size));
  if (each.state === "failed") return each.fault;
  if (each.state === "stopped") return text.exports.stopped(each.done, each.all);
  if (each.stopping) return text.exports.stopping;
  if (each.state === "waiting") return text.exports.waiting;
  const now = each.done === each.all && each.all > 1 ? text.exports.finishing : text.exports.running(each.done, each.all);
  return each.remaining === null ? now : `${now}, ${text.exports.left(timeTold(each.remaining))}`;
}
</script>

<template>
  <section :aria-label="text.exports.list">
    <h3>{{ text.exports.list }}</h3>
    <p v-if="!exports.all.length" class="quiet">{{ text.exports.none }}</p>
    <ul>
      <li v-for="each in exports.all" :key="each.id" :data-state="each.state">
        <div class="said">
          <span class="name">{{ named(each) }}</span>
          <span class="quiet" :class="{ fault: each.state === 'failed' }">{{ told(each) }}</span>
          <v-progress-linear
            v-if="isUnderway(each)" :model-value="(each.done / each.all) * 100" :indeterminate="each.state === 'running' && each.all === 1"
            height="4" color="active" :aria-label="named(each)"
          />
        </div>
        <v-btn v-if="isUnderway(each)" :icon="mdiStop" size="28" variant="text" :disabled="each.stopping" :aria-label="text.exports.stop(named(each))" @click="exports.stop(each.id)" />
        <v-btn v-if="canGoOn(each)" :icon="mdiPlay" size="28" variant="text" :aria-label="text.exports.again(named(each))" @click="exports.again(each.id)" />
        <v-btn v-if="each.state === 'done'" :icon="mdiDownload" size="28" variant="text" :aria-label="text.exports.open(named(each))" @click="exports.fetch(each)" />
        <v-btn :icon="mdiTuneVariant" size="28" variant="text" :aria-label="text.exports.reuse(named(each))" @click="emit('reuse', wholeOrder(each.order))" />
        <v-btn v-if="!isUnderway(each)" :icon="mdiClose" size="28" variant="text" :aria-label="text.exports.remove(named(each))" @click="exports.remove(each.id)" />
      </li>
    </ul>
  </section>
</template>

<style scoped>
section {
  overflow: auto;
  max-height: 300px;
}
ul {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
}
li {
  display: flex;
  align-items: center;
  gap: 2px;
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}
.said {
  display: grid;
  flex: 1;
  min-width: 0;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.quiet {
  font-size: 12px;
}
.fault {
  color: var(--accent);
}
</style>
