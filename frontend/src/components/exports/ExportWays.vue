<script setup lang="ts">
// What is exported and how: only what counts for it.
import { computed } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import ColourField from "@/components/fields/ColourField.vue";
import NumberField from "@/components/fields/NumberField.vue";
import SwitchField from "@/components/fields/SwitchField.vue";
import { formOf, formsOf, framesOf, hasBackdrop, hasPlate, isMoving, KINDS, withOrder, type Forms, type Order } from "@/model/exporting";
import type { Title } from "@/model/title";
import { useCatalogue } from "@/stores/catalogue";
import { text } from "@/text";

const props = defineProps<{ forms: Forms; title: Title }>();
const order = defineModel<Order>({ required: true });
const catalogue = useCatalogue();
const SCALES = [0.25, 0.5, 1, 2, 4].map((scale) => ({ value: String(scale), title: text.exports.percent(scale) }));

const kinds = KINDS.map((value) => ({ value, title: text.exports.kinds[value] }));
const choices = computed(() => formsOf(order.value.kind, props.forms).map(({ name, label }) => ({ value: name, title: label })));
const form = computed(() => formOf(order.value, props.forms));
const depths = computed(() => (form.value?.depths ?? []).map((value) => ({ value, title: text.exports.depths[value] ?? value })));
const passes = (Object.keys(text.exports.passWays) as Order["passes"][]).map((value) => ({ value, title: text.exports.passWays[value] }));
const hidden = (Object.keys(text.exports.hiddenWays) as Order["hidden"][]).map((value) => ({ value, title: text.exports.hiddenWays[value] }));
const moving = computed(() => isMoving(order.value));
const pixels = computed(() => {
  const { width, height } = props.title.frame;
  return text.exports.pixels(Math.round(width * order.value.scale), Math.round(height * order.value.scale));
});
const duration = computed(() => props.title.frame.duration);
const rates = computed(() => [
  { value: "", title: text.exports.rateOf(props.title.frame.fps) },
  ...(catalogue.all?.rates ?? []).map((rate) => ({ value: String(rate), title: text.exports.rateOf(Number(rate)) })),
]);
const contains = computed(() => {
  if (order.value.kind === "layers") return text.exports.layersSay;
  if (order.value.kind === "parts") return text.exports.partsSay;
  const said = form.value?.alpha ? text.exports.alpha : text.exports.opaque;
  return form.value?.name === "exr" ? `${said} ${text.exports.linear}` : said;
});
function set(changes: Partial<Order>) {
  order.value = withOrder(order.value, changes, props.forms);
}
</script>

<template>
  <section :aria-label="text.exports.format">
    <ChoiceField :label="text.exports.what" :model-value="order.kind" :choices="kinds" @update:model-value="set({ kind: $event as Order['kind'] })" />
    <ChoiceField v-if="choices.length" :label="text.exports.format" :model-value="order.form" :choices="choices" @update:model-value="set({ form: $event })" />
    <ChoiceField v-if="depths.length > 1" :label="text.exports.depth" :model-value="order.depth ?? form?.depths[0] ?? ''" :choices="depths" @update:model-value="set({ depth: $event })" />
    <NumberField v-if="form?.lossy && !moving" :label="text.exports.quality" :model-value="order.quality" :low="1" :high="100" whole @update:model-value="set({ quality: $event })" />
    <ChoiceField
      v-if="order.form === 'exr'" :label="text.exports.passes" :help="text.exports.passesHelp" :model-value="order.passes" :choices="passes"
      @update:model-value="set({ passes: $event as Order['passes'] })"
    />
    <p v-if="order.passes !== 'none'" class="quiet">{{ text.exports.passesHelp }}</p>
    <ChoiceField
      v-if="form?.scales === false" :label="text.exports.hidden" :help="text.exports.hiddenHelp" :model-value="order.hidden" :choices="hidden"
      @update:model-value="set({ hidden: $event as Order['hidden'] })"
    />
    <ChoiceField v-if="form?.scales !== false" :label="text.exports.size" :model-value="String(order.scale)" :choices="SCALES" @update:model-value="set({ scale: Number($event) })" />
    <p class="quiet">{{ pixels }}</p>
    <template v-if="moving">
      <NumberField :label="text.exports.from" :model-value="order.start" :low="0" :high="Math.max((order.end ?? duration) - 0.01, 0)" :unit="text.exports.seconds" @update:model-value="set({ start: $event })" />
      <NumberField
        :label="text.exports.to" :model-value="order.end ?? duration" :low="order.start + 0.01" :high="Math.max(duration, order.end ?? 0)" :unit="text.exports.seconds"
        @update:model-value="set({ end: $event === duration ? null : $event })"
      />
      <ChoiceField :label="text.exports.rate" :model-value="order.rate ?? ''" :choices="rates" @update:model-value="set({ rate: $event || null })" />
      <p class="quiet" data-testid="frames">{{ text.exports.frames(framesOf(order, title)) }}</p>
    </template>
    <SwitchField v-if="order.kind !== 'parts' && hasBackdrop(title)" :label="text.exports.backdrop" :model-value="order.backdrop" @update:model-value="set({ backdrop: $event })" />
    <SwitchField v-if="order.kind !== 'parts' && hasPlate(title)" :label="text.exports.plate" :model-value="order.plate" @update:model-value="set({ plate: $event })" />
    <ColourField v-if="form && !form.alpha" :label="text.exports.ground" :help="text.exports.groundHelp" :model-value="order.ground" @update:model-value="set({ ground: $event.slice(0, 7) })" />
    <p class="quiet">{{ contains }}</p>
  </section>
</template>

<style scoped>
p.quiet {
  margin: -2px 0 8px;
  font-size: 12px;
}
</style>
