<script setup lang="ts">
// What cells are painted with by hand: tool, fineness, mirrors and inks.
import {
  mdiBrush, mdiClose, mdiEraser, mdiEyedropper, mdiFlipHorizontal, mdiFlipVertical, mdiFormatColorFill, mdiPlus,
  mdiSelectDrag,
} from "@mdi/js";
import { computed, onBeforeUnmount } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import ColourField from "@/components/fields/ColourField.vue";
import NumberField from "@/components/fields/NumberField.vue";
import PeggedField from "@/components/fields/PeggedField.vue";
import { useCells } from "@/composables/useCells";
import { countOf, facesOf, INKS } from "@/model/cells/painted";
import { coloursOf } from "@/model/palette";
import { TOOLS, useBrush, type Fineness, type Tool } from "@/stores/brush";
import { useCellPainting } from "@/stores/cells";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

const ICONS: Record<Tool, string> = {
  paint: mdiBrush, rectangle: mdiSelectDrag, fill: mdiFormatColorFill, erase: mdiEraser, pick: mdiEyedropper,
};
const MIRRORS = ["across", "down"] as const;
const FLIPS = { across: mdiFlipHorizontal, down: mdiFlipVertical };
const FINE = ([1, 2, 4, 8] as const).map((parts) => ({ value: String(parts), title: text.cells.parts[parts] }));
const brush = useBrush();
const painting = useCellPainting();
const opened = useOpened();
const { setting, painted, place, grids } = useCells();

const inks = computed(() => painted.value?.inks ?? []);
const chosen = computed(() => inks.value[brush.ink]);
const count = computed(() => (painted.value ? countOf(painted.value) : 0));
const others = computed(() => {
  const own = inks.value.map((each) => each.colour.toLowerCase());
  return coloursOf(opened.title).filter((code) => !own.includes(code.toLowerCase())).slice(0, 12);
});
/** The size of a cell as it was found. */
const found = computed(() => {
  const grid = grids.value[0];
  const faces = facesOf(grids.value).length;
  return grid ? text.cells.size(grid.across, grid.down, faces, grids.value.length - faces) : "";
});
function take(tool: Tool) {
  brush.take(brush.tool === tool ? null : tool);
}
onBeforeUnmount(() => brush.take(null));
</script>

<template>
  <PeggedField v-if="setting && place" :of="place.slice(0, -1)" :setting="setting">
    <fieldset class="brushes">
      <legend>{{ text.cells.title }}</legend>
      <p class="quiet">{{ found }}</p>
      <div class="tools" role="group" :aria-label="text.cells.tools">
        <button
          v-for="tool in TOOLS"
          :key="tool"
          type="button"
          :aria-pressed="brush.tool === tool"
          :aria-label="text.cells.names[tool]"
          :title="text.cells.names[tool]"
          @click="take(tool)"
        >
          <v-icon :icon="ICONS[tool]" size="18" />
        </button>
        <button
          v-for="mirror in MIRRORS"
          :key="mirror"
          type="button"
          class="mirror"
          :aria-pressed="brush.mirrors[mirror]"
          :aria-label="text.cells[mirror]"
          :title="text.cells[mirror]"
          @click="brush.mirrors[mirror] = !brush.mirrors[mirror]"
        >
          <v-icon :icon="FLIPS[mirror]" size="18" />
        </button>
      </div>
      <ChoiceField
        :label="text.cells.fineness"
        :help="text.cells.finenessHelp"
        :choices="FINE"
        :model-value="String(brush.divided)"
        @update:model-value="brush.divided = Number($event) as Fineness"
      />
      <div class="inks" role="radiogroup" :aria-label="text.cells.inks">
        <button
          v-for="(ink, index) in inks"
          :key="index"
          type="button"
          role="radio"
          class="ink on-chequer"
          :aria-checked="index === brush.ink"
          :aria-label="text.cells.ink(index + 1, ink.colour)"
          :title="ink.colour.toUpperCase()"
          @click="brush.ink = index"
        >
          <span :style="{ background: ink.colour }"></span>
        </button>
        <v-btn
          v-if="inks.length < INKS.length"
          :icon="mdiPlus"
          variant="text"
          size="x-small"
          :aria-label="text.cells.addInk"
          :title="text.cells.addInk"
          @click="painting.addInk('#ffffff')"
        />
      </div>
      <div v-if="others.length" class="inks">
        <span class="quiet">{{ text.cells.fromTitle }}</span>
        <button
          v-for="code in others"
          :key="code"
          type="button"
          class="ink small on-chequer"
          :aria-label="text.cells.addColour(code)"
          :title="text.cells.addColour(code)"
          @click="painting.addInk(code)"
        >
          <span :style="{ background: code }"></span>
        </button>
      </div>
      <template v-if="chosen">
        <ColourField
          :label="text.cells.colour"
          :model-value="chosen.colour"
          @update:model-value="painting.setInk(brush.ink, { colour: $event })"
          @done="opened.endGesture()"
        />
        <NumberField
          :label="text.cells.height"
          :help="text.cells.heightHelp"
          :model-value="chosen.height ?? 0"
          :low="-500"
          :high="500"
          :usual="[-40, 40]"
          unit="px"
          :standard="0"
          @update:model-value="painting.setInk(brush.ink, { height: $event })"
          @start="opened.dragging = true"
          @done="opened.endGesture()"
        />
        <v-btn :prepend-icon="mdiClose" variant="text" size="small" @click="painting.removeInk(brush.ink)">
          {{ text.cells.removeInk }}
        </v-btn>
      </template>
      <v-btn v-if="count" variant="text" size="small" @click="painting.clear()">{{ text.cells.clear(count) }}</v-btn>
    </fieldset>
  </PeggedField>
</template>

<style scoped>
.brushes {
  border: 0;
  padding: 0 0 6px;
}
legend {
  font-weight: 600;
}
.tools {
  display: flex;
  margin: 4px 0;
  border: 1px solid var(--line);
  border-radius: 4px;
  overflow: hidden;
}
.tools button {
  flex: 1;
  min-height: 30px;
  border: 0;
  background: var(--raised);
  color: inherit;
  cursor: pointer;
}
.tools .mirror {
  border-left: 1px solid var(--line);
}
.tools button[aria-pressed="true"] {
  background: var(--ink);
  color: var(--panel);
}
.inks {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px;
  padding: 4px 0;
}
.ink {
  width: 26px;
  height: 26px;
  padding: 0;
  border: 1px solid var(--line);
  border-radius: 3px;
  overflow: hidden;
  cursor: pointer;
}
.ink.small {
  width: 18px;
  height: 18px;
}
.ink[aria-checked="true"] {
  outline: 2px solid var(--ink);
  outline-offset: 1px;
}
.ink span {
  display: block;
  width: 100%;
  height: 100%;
}
</style>
