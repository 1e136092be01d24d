<script setup lang="ts">
// What can be done with several titles at once.
import { ref } from "vue";
import { useCatalogue } from "@/stores/catalogue";
import { useShelf, type Summary } from "@/stores/shelf";
import { text } from "@/text";

const props = defineProps<{ titles: Summary[] }>();
const shelf = useShelf();
const catalogue = useCatalogue();
const naming = ref(false);
const series = ref("");

function startNaming() {
  series.value = props.titles[0]?.series ?? "";
  naming.value = true;
}
async function put() {
  naming.value = false;
  await shelf.putInSeries(props.titles, series.value);
}
</script>

<template>
  <div class="bar" role="toolbar" :aria-label="text.shelf.several(titles.length)">
    <strong>{{ text.shelf.several(titles.length) }}</strong>
    <v-menu max-height="380">
      <template #activator="{ props: activator }">
        <v-btn v-bind="activator">{{ text.shelf.useFinish }}</v-btn>
      </template>
      <v-list>
        <v-list-item
          v-for="finish in catalogue.finishes"
          :key="finish.name"
          :title="finish.label"
          @click="shelf.useFinish(titles, finish.name, finish.label)"
        />
      </v-list>
    </v-menu>
    <v-btn @click="startNaming">{{ text.shelf.putInSeries }}</v-btn>
    <v-btn @click="titles.forEach(shelf.giveFile)">{{ text.shelf.give }}</v-btn>
    <v-btn @click="shelf.removeAll(titles)">{{ text.act.remove }}</v-btn>
    <v-btn variant="text" @click="shelf.chosen = []">{{ text.shelf.chooseNone }}</v-btn>
    <v-dialog v-model="naming" :aria-label="text.shelf.putInSeries" max-width="380">
      <v-card :title="text.shelf.putInSeries" :subtitle="text.shelf.seriesHelp">
        <v-card-text>
          <form id="series" @submit.prevent="put">
            <v-text-field v-model="series" :label="text.shelf.series" maxlength="100" autofocus />
          </form>
        </v-card-text>
        <v-card-actions>
          <v-spacer />
          <v-btn variant="text" @click="naming = false">{{ text.act.cancel }}</v-btn>
          <v-btn type="submit" form="series" variant="flat" color="ink">{{ text.act.done }}</v-btn>
        </v-card-actions>
      </v-card>
    </v-dialog>
  </div>
</template>

<style scoped>
.bar {
  position: sticky;
  bottom: 12px;
  display: flex;
  align-items: center;
  gap: 8px;
  width: fit-content;
  margin: 12px auto 0;
  padding: 8px 14px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--raised);
  box-shadow: 0 2px 12px #0003;
}
</style>
