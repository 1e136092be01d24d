<script setup lang="ts">
// Parts painted by hand: spread apart to be looked at, picked in the proof, painted here.
import { mdiClose } from "@mdi/js";
import { computed, onBeforeUnmount } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import NumberField from "@/components/fields/NumberField.vue";
import PeggedField from "@/components/fields/PeggedField.vue";
import SettingField from "@/components/fields/SettingField.vue";
import { useBrokenParts } from "@/composables/useBrokenParts";
import { degreesApart, SCOPES, scopeOf, type Scope } from "@/model/partPaints";
import { calledIn, countsIn } from "@/model/title";
import { useCatalogue } from "@/stores/catalogue";
import { useOpened } from "@/stores/opened";
import { usePartPainting } from "@/stores/partPainting";
import { text } from "@/text";

const catalogue = useCatalogue();
const opened = useOpened();
const painting = usePartPainting();
const { setting, place, parts, paints, lost, spread, known } = useBrokenParts();

const fields = computed(() => {
  const told = catalogue.model("brush");
  const brush = { ...painting.paint } as Record<string, unknown>;
  return told
    .filter((each) => each.name !== "fill" && countsIn(brush, told, each))
    .map((each) => ({ setting: calledIn(brush, told, each), value: brush[each.name] ?? each.default }));
});
const fills = computed(() => [
  { value: "", title: text.parts.asItIs },
  ...(catalogue.model("brush").find((each) => each.name === "fill")?.choices ?? []).map((value) => ({ value, title: text.parts.fills[value] ?? value })),
]);
/** Spread, they wait for their colours. */
const waiting = computed(() => spread.value > 0 && parts.value.some((each) => !each.colours));
const scopes = SCOPES.map((value) => ({ value, title: text.parts.scopes[value] }));
const own = computed(() => painting.current);
const alike = computed(() => [
  { title: text.parts.ofLetter, hidden: !own.value?.letter, pick: () => painting.pickLike((a, b) => a.letter === b.letter && a.kind === b.kind) },
  { title: text.parts.thatWay, hidden: own.value?.facing == null, pick: () => painting.pickLike((a, b) => a.kind === b.kind && sameWay(a.facing, b.facing)) },
  { title: text.parts.ofKind, hidden: false, pick: () => painting.pickLike((a, b) => a.kind === b.kind) },
].filter((each) => !each.hidden));
function sameWay(a: number | null, b: number | null): boolean {
  return a !== null && b !== null && degreesApart(a, b) <= 30;
}
function paintWith(fill: string) {
  if (fill) painting.set({ fill });
  else painting.clear();
  painting.done();
}
onBeforeUnmount(() => {
  spread.value = 0;
  painting.pick(null);
});
</script>

<template>
  <PeggedField v-if="setting && place" :of="place.slice(0, -1)" :setting="setting">
    <fieldset>
      <legend>{{ text.parts.title }}</legend>
      <p class="quiet">{{ known && !waiting ? text.parts.found(painting.pickable.length, paints.length) : text.parts.looking }}</p>
      <NumberField
        :label="text.parts.spread"
        :help="text.parts.spreadHelp"
        :model-value="spread"
        :low="0"
        :high="1"
        unit="%"
        :standard="0"
        @update:model-value="spread = $event"
      />
      <p v-if="lost.length" class="lost" role="alert">
        {{ text.parts.lost(lost.map((index) => paints[index]!)) }}
        <v-btn variant="text" size="small" @click="painting.drop(lost)">{{ text.parts.dropLost }}</v-btn>
      </p>
      <template v-if="own">
        <p class="own">{{ text.parts.at(own, painting.picked.length) }}</p>
        <div class="alike">
          <v-btn v-for="each in alike" :key="each.title" variant="tonal" size="small" @click="each.pick()">{{ each.title }}</v-btn>
        </div>
        <ChoiceField
          :label="text.parts.paint"
          :model-value="painting.paint ? (painting.paint.fill ?? 'colour') : ''"
          :choices="fills"
          @update:model-value="paintWith($event)"
        />
        <template v-if="painting.paint">
          <SettingField
            v-for="field in fields"
            :key="field.setting.name"
            :setting="field.setting"
            :value="field.value"
            @change="painting.set({ [field.setting.name]: $event })"
            @start="opened.dragging = true"
            @done="painting.done()"
          />
          <ChoiceField
            :label="text.parts.scope"
            :help="text.parts.scopeHelp"
            :model-value="scopeOf(painting.paint)"
            :choices="scopes"
            @update:model-value="painting.setScope($event as Scope); painting.done()"
          />
        </template>
      </template>
      <p v-else-if="parts.length" class="quiet">{{ text.parts.none }}</p>
      <v-btn v-if="paints.length" :prepend-icon="mdiClose" variant="text" size="small" @click="painting.clearAll(); painting.done()">
        {{ text.parts.clear(paints.length) }}
      </v-btn>
    </fieldset>
  </PeggedField>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0 0 6px;
}
legend,
.own {
  font-weight: 600;
}
.own {
  margin: 6px 0 2px;
}
.alike {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  margin-bottom: 4px;
}
.lost {
  border-left: 3px solid var(--accent);
  padding-left: 8px;
}
</style>
