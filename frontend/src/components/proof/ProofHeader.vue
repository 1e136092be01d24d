<script setup lang="ts">
// Which field the proof shows, on which ground, how large, and what lies over it.
import {
  mdiCompare, mdiGrid, mdiImageOutline, mdiMagnifyScan, mdiViewSplitVertical,
} from "@mdi/js";
import { useDevicePixelRatio } from "@vueuse/core";
import { computed, ref } from "vue";
import { isClip } from "@/model/title";
import { useCatalogue } from "@/stores/catalogue";
import { useLayers } from "@/stores/layers";
import { useLibrary } from "@/stores/library";
import { SURROUNDS, useProof } from "@/stores/proof";
import { text } from "@/text";

const catalogue = useCatalogue();
const library = useLibrary();
const layers = useLayers();
const proof = useProof();
const { pixelRatio } = useDevicePixelRatio();
const rows = computed(() => (proof.split ? ([0, 1] as const) : ([0] as const)));
const file = ref<HTMLInputElement | null>(null);
async function upload(event: Event) {
  const input = event.target as HTMLInputElement;
  const [kept] = await library.uploadAll([...(input.files ?? [])]);
  input.value = "";
  if (kept?.kind === "picture") choose(kept.name);
}
/** A clip runs as the title does: it becomes its plate. */
function choose(name: string) {
  if (isClip(name)) void layers.add("plate", name);
  else proof.layOver(name);
}
function keepAsPlate() {
  const name = proof.plate;
  proof.layOver("");
  void layers.add("plate", name);
}
const guides = ["safe", "centre", "thirds"] as const;
const pictures = computed(() => (catalogue.all?.pictures ?? []).filter((name) => !name.endsWith(".hdr")));
</script>

<template>
  <header>
    <div
      v-for="row in rows"
      :key="row"
      class="taps tabs"
      :role="proof.split ? undefined : 'tablist'"
      :aria-label="proof.split ? undefined : text.bench.tap"
    >
      <template v-if="!proof.split">
        <button
          v-for="tap in catalogue.all?.taps ?? []"
          :key="tap"
          type="button"
          role="tab"
          :aria-selected="proof.taps[row] === tap"
          @click="proof.taps[row] = tap"
        >
          {{ text.taps[tap] }}
        </button>
      </template>
      <v-select
        v-else
        v-model="proof.taps[row]"
        class="tap"
        :items="(catalogue.all?.taps ?? []).map((value) => ({ value, title: text.taps[value] }))"
        :aria-label="row ? text.proof.secondTap : text.bench.tap"
      />
    </div>
    <div class="view">
      <button
        v-for="tone in SURROUNDS"
        :key="tone"
        type="button"
        class="tone"
        :class="`on-${tone}`"
        :aria-label="text.bench.surround(tone)"
        :title="text.bench.surround(tone)"
        :aria-pressed="proof.surround === tone"
        @click="proof.surround = tone"
      ></button>
      <v-menu max-height="360">
        <template #activator="{ props: activator }">
          <button
            v-bind="activator"
            type="button"
            class="tool"
            :aria-label="text.proof.over"
            :title="text.proof.over"
            :aria-pressed="proof.surround === 'picture'"
          >
            <v-icon :icon="mdiImageOutline" size="16" />
          </button>
        </template>
        <v-list>
          <v-list-item :title="text.proof.overNothing" @click="proof.layOver('')" />
          <v-list-item v-if="proof.plate && proof.surround === 'picture'" :title="text.proof.asPlate" @click="keepAsPlate" />
          <v-list-item :title="text.swap.upload" @click="file?.click()" />
          <v-list-item
            v-for="name in pictures"
            :key="name"
            :title="name.replace(/^shipped\//, '')"
            :active="proof.plate === name"
            @click="choose(name)"
          />
        </v-list>
      </v-menu>
      <input ref="file" type="file" accept="image/*,video/*,.exr,.hdr,.tif,.tiff,.mkv" hidden data-testid="plate" @change="upload" />
      <v-menu :close-on-content-click="false">
        <template #activator="{ props: activator }">
          <button v-bind="activator" type="button" class="tool" :aria-label="text.proof.guides" :title="text.proof.guides">
            <v-icon :icon="mdiGrid" size="16" />
          </button>
        </template>
        <v-list>
          <v-list-item v-for="guide in guides" :key="guide">
            <v-checkbox v-model="proof.guides[guide]" density="compact" hide-details :label="text.proof.guide[guide]" />
          </v-list-item>
        </v-list>
      </v-menu>
      <button
        type="button"
        class="tool"
        :aria-label="text.proof.loupe"
        :title="`${text.proof.loupe} (L)`"
        :aria-pressed="proof.loupe"
        @click="proof.loupe = !proof.loupe"
      >
        <v-icon :icon="mdiMagnifyScan" size="16" />
      </button>
      <button
        type="button"
        class="tool"
        :aria-label="text.proof.split"
        :title="`${text.proof.split} (S)`"
        :aria-pressed="proof.split"
        @click="proof.split = !proof.split"
      >
        <v-icon :icon="mdiViewSplitVertical" size="16" />
      </button>
      <button
        v-if="proof.compared"
        type="button"
        class="tool"
        :aria-label="text.proof.endCompare"
        :title="text.proof.endCompare"
        aria-pressed="true"
        @click="proof.compared = null"
      >
        <v-icon :icon="mdiCompare" size="16" />
      </button>
      <span class="mono percent" :aria-label="text.bench.zoom">{{ Math.round(proof.scale * pixelRatio * 100) }} %</span>
      <button type="button" class="plain" title="0" @click="proof.fit()">{{ text.bench.fit }}</button>
      <button type="button" class="plain" title="1" @click="proof.zoomTo(1 / pixelRatio)">{{ text.bench.oneToOne }}</button>
    </div>
  </header>
</template>

<style scoped>
header {
  display: flex;
  align-items: center;
  gap: 12px;
  height: 28px;
  padding: 0 10px;
  background: color-mix(in srgb, var(--ink) 6%, var(--panel));
}
.taps,
.view {
  display: flex;
  align-items: center;
  gap: 10px;
}
.view {
  margin-left: auto;
  gap: 8px;
}
.taps select {
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--raised);
  color: inherit;
  font: inherit;
  padding: 0 4px;
}
.tone {
  width: 14px;
  height: 14px;
  border: 1px solid var(--quiet);
  border-radius: 50%;
  padding: 0;
  cursor: pointer;
}
.tone + .tone {
  margin-left: -3px;
}
.tone[aria-pressed="true"] {
  box-shadow: 0 0 0 2px var(--panel), 0 0 0 3.5px var(--active);
}
.tool {
  display: grid;
  place-content: center;
  width: 22px;
  height: 22px;
  border: 0;
  border-radius: 3px;
  background: none;
  color: inherit;
  cursor: pointer;
}
.tool:hover {
  background: color-mix(in srgb, var(--ink) 10%, transparent);
}
.tool[aria-pressed="true"] {
  background: var(--ink);
  color: var(--panel);
}
.percent {
  min-width: 40px;
  text-align: right;
}
</style>
