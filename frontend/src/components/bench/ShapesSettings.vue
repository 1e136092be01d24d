<script setup lang="ts">
// The shapes of a layer, in the order in which they are joined, and the settings of one of them.
import { mdiArrowDown, mdiArrowUp, mdiClose, mdiPlus } from "@mdi/js";
import { computed } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import ModelFields from "@/components/fields/ModelFields.vue";
import PeggedField from "@/components/fields/PeggedField.vue";
import { stable } from "@/composables/stable";
import type { Form, Shape } from "@/model/shapes";
import type { Layer } from "@/model/title";
import { useCatalogue } from "@/stores/catalogue";
import { useOpened } from "@/stores/opened";
import { useShapes } from "@/stores/shapes";
import { text } from "@/text";

const props = defineProps<{ layer: Extract<Layer, { kind: "shapes" }> }>();
const opened = useOpened();
const catalogue = useCatalogue();
const shapes = useShapes();

const told = computed(() => catalogue.model("shape"));
const forms = computed(() => (told.value.find((each) => each.name === "form")?.choices ?? []) as Form[]);
const choices = computed(() => forms.value.map((form) => ({ value: form, title: text.shapes.names[form] })));
const settings = computed(() => told.value.filter(({ name }) => name !== "nodes"));
const nodes = computed(() => told.value.find(({ name }) => name === "nodes"));
const place = computed(() => ["layers", props.layer.id, "source", "shapes", shapes.shape?.id ?? ""]);
const nameOf = (shape: Shape) => text.shapes.names[shape.form ?? "rectangle"];
const words = stable(() => [
  { value: "", title: text.shapes.size },
  ...opened.title.layers
    .filter((each) => each.kind === "lettering" && each.source.along?.layer !== props.layer.id)
    .map((each) => ({ value: each.id, title: each.name })),
]);
</script>

<template>
  <ul :aria-label="text.shapes.title">
    <li v-for="(shape, index) in layer.source.shapes" :key="shape.id" :class="{ chosen: shape.id === shapes.shape?.id }">
      <button class="plain pick" type="button" :aria-pressed="shape.id === shapes.shape?.id" @click="shapes.id = shape.id ?? ''">
        {{ nameOf(shape) }}
        <span v-if="index" class="quiet">{{ text.shapes.combine[shape.combine ?? "join"] }}</span>
      </button>
      <v-btn
        :icon="mdiArrowUp" variant="text" size="x-small" :disabled="!index" :aria-label="text.shapes.up(nameOf(shape))"
        @click="shapes.move(shape.id ?? '', -1)"
      />
      <v-btn
        :icon="mdiArrowDown" variant="text" size="x-small" :disabled="index === layer.source.shapes.length - 1"
        :aria-label="text.shapes.down(nameOf(shape))" @click="shapes.move(shape.id ?? '', 1)"
      />
      <v-btn
        :icon="mdiClose" variant="text" size="x-small" :disabled="layer.source.shapes.length === 1"
        :aria-label="text.shapes.remove(nameOf(shape))" @click="shapes.remove(shape.id ?? '')"
      />
    </li>
  </ul>
  <v-menu max-height="420">
    <template #activator="{ props: activator }">
      <v-btn v-bind="activator" :prepend-icon="mdiPlus" variant="text" size="small" :disabled="layer.source.shapes.length >= 64">
        {{ text.shapes.add }}
      </v-btn>
    </template>
    <v-list>
      <v-list-item v-for="choice in choices" :key="choice.value" :title="choice.title" @click="shapes.add(choice.value)" />
    </v-list>
  </v-menu>
  <template v-if="shapes.shape">
    <ChoiceField
      v-if="shapes.shape.form === 'frame'"
      :label="text.shapes.around"
      :model-value="shapes.shape.around ?? ''"
      :choices="words"
      @update:model-value="shapes.set({ around: $event || null })"
    />
    <PeggedField v-if="shapes.shape.form === 'path'" :of="place" :setting="nodes">
      <v-btn size="small" :active="shapes.pen" @click="shapes.startPen()">{{ text.shapes.pen }}</v-btn>
    </PeggedField>
    <ModelFields :key="shapes.shape.id" :of="place" :settings="settings" />
  </template>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 4px 0;
}
li {
  display: flex;
  align-items: center;
  border: 1px solid transparent;
  border-radius: 4px;
}
li.chosen {
  border-color: var(--ink);
}
.pick {
  flex: 1;
  min-height: 28px;
  padding: 0 6px;
  text-align: left;
}
.quiet {
  margin-left: 6px;
}
</style>
