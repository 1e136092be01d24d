<script setup lang="ts">
// Where the selected step counts: everywhere, within a form, in some tones, or under another layer.
import { computed } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import BenchNumber from "./BenchNumber.vue";
import { stable } from "@/composables/stable";
import { useBoxes } from "@/composables/useBoxes";
import { layersToShow } from "@/model/references";
import { freshWhere, type WhereKind } from "@/model/where";
import type { Where } from "@/model/title";
import { useBench } from "@/stores/bench";
import { useCatalogue } from "@/stores/catalogue";
import { text } from "@/text";

const bench = useBench();
const catalogue = useCatalogue();
const { layers: boxes } = useBoxes();
const where = computed(() => bench.step?.where ?? null);
const kind = computed(() => where.value?.kind ?? "everywhere");
const others = stable(() => layersToShow(bench.title, bench.layer?.id ?? "", catalogue.entry));
const kinds = stable(() => {
  const all: WhereKind[] = ["everywhere", "ellipse", "rectangle", "polygon", "tones"];
  if (others.value.length) all.push("matte");
  return all.map((value) => ({ value, title: text.where.kinds[value] }));
});

const ROWS: Record<string, { name: string; low: number; high: number; usual?: [number, number]; unit: string }[]> = {
  box: [
    { name: "width", low: 0, high: 100000, usual: [0, 2000], unit: "px" },
    { name: "height", low: 0, high: 100000, usual: [0, 1000], unit: "px" },
    { name: "turn", low: -3600, high: 3600, usual: [-180, 180], unit: "°" },
    { name: "feather", low: 0, high: 100000, usual: [0, 300], unit: "px" },
  ],
  polygon: [{ name: "feather", low: 0, high: 100000, usual: [0, 300], unit: "px" }],
  tones: [
    { name: "low", low: 0, high: 1, unit: "%" },
    { name: "high", low: 0, high: 1, unit: "%" },
    { name: "soft", low: 0, high: 1, unit: "%" },
  ],
  matte: [],
};
const rows = computed(() => {
  if (kind.value === "everywhere") return [];
  return ROWS[kind.value === "ellipse" || kind.value === "rectangle" ? "box" : kind.value] ?? [];
});

function choose(wanted: string) {
  const box = bench.layer && boxes.value.get(bench.layer.id);
  bench.setStep(bench.step!.id, { where: freshWhere(wanted as WhereKind, box, others.value[0]?.value ?? "") });
}
function set(changes: object, gesture: string | null = null) {
  bench.setStep(
    bench.step!.id,
    { where: { ...where.value, ...changes } as Where },
    gesture && `${bench.step!.id}.where.${gesture}`,
  );
}
</script>

<template>
  <div class="where">
    <ChoiceField
      :label="text.where.title"
      :help="text.where.help"
      :model-value="kind"
      :choices="kinds"
      @update:model-value="choose"
    />
    <template v-if="where">
      <BenchNumber
        v-for="row in rows"
        :key="row.name"
        v-bind="row"
        :label="text.where.settings[row.name as keyof typeof text.where.settings]"
        :value="(where as Record<string, unknown>)[row.name]"
        @change="set({ [row.name]: $event }, row.name)"
      />
      <ChoiceField
        v-if="where.kind === 'matte'"
        :label="text.sources.follows"
        :model-value="where.layer"
        :choices="others"
        @update:model-value="set({ layer: $event })"
      />
      <v-checkbox
        :model-value="where.inverted"
        density="compact"
        hide-details
        :label="text.where.inverted"
        @update:model-value="set({ inverted: $event })"
      />
    </template>
  </div>
</template>

<style scoped>
.where {
  padding-bottom: 6px;
  margin-bottom: 6px;
  border-bottom: 1px solid var(--line);
}
</style>
