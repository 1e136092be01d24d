<script setup lang="ts">
// Where the selected step counts: everywhere, within a form, in some tones, or under another layer.
import { computed } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import ModelFields from "@/components/fields/ModelFields.vue";
import { stable } from "@/composables/stable";
import { useBoxes } from "@/composables/useBoxes";
import { layersToShow } from "@/model/references";
import { freshWhere, type WhereKind } from "@/model/where";
import type { Where } from "@/model/title";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { useCatalogue } from "@/stores/catalogue";
import { text } from "@/text";

const opened = useOpened();
const chosen = useChosen();
const catalogue = useCatalogue();
const { layers: boxes } = useBoxes();
const where = computed(() => chosen.step?.where ?? null);
const kind = computed(() => where.value?.kind ?? "everywhere");
const others = stable(() => layersToShow(opened.title, chosen.layer?.id ?? "", catalogue.entry));
const kinds = stable(() => {
  const all: WhereKind[] = ["everywhere", "outline", "ellipse", "rectangle", "half", "polygon", "tones"];
  if (others.value.length) all.push("matte");
  return all.map((value) => ({ value, title: text.where.kinds[value] }));
});

/** Its middle is dragged on the picture, and so are the corners of a polygon. */
const settings = computed(() =>
  catalogue.model(`where.${kind.value}`).filter((each) => each.kind !== "points"),
);

function choose(wanted: string) {
  const box = chosen.layer && boxes.value.get(chosen.layer.id);
  opened.setStep(chosen.step!.id, { where: freshWhere(wanted as WhereKind, box, others.value[0]?.value ?? "") });
}
function follow(layer: string) {
  opened.setStep(chosen.step!.id, { where: { ...where.value, layer } as Where });
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
      <ChoiceField
        v-if="where.kind === 'matte'"
        :label="text.sources.follows"
        :model-value="where.layer"
        :choices="others"
        @update:model-value="follow"
      />
      <ModelFields :of="['layers', chosen.layer!.id, 'build', chosen.step!.id, 'where']" :settings="settings" />
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
