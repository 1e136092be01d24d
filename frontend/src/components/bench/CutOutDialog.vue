<script setup lang="ts">
// Cutting a part out of a picture: by colours that are picked in it, or from before a screen.
import { computed, ref, watch } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import ModelFields from "@/components/fields/ModelFields.vue";
import { usePainted } from "@/composables/usePainted";
import { usePreview } from "@/composables/usePreview";
import { numberOf, pictureOf, type Layer } from "@/model/title";
import { freshCut, withPick, type Cut } from "@/model/cut";
import { pixelAt } from "@/model/pixels";
import { useCatalogue } from "@/stores/catalogue";
import { useOpened } from "@/stores/opened";
import { pictureUrl } from "@/stores/library";
import { text } from "@/text";

const id = defineModel<string | null>({ required: true });
const opened = useOpened();
const catalogue = useCatalogue();

const layer = computed(() => {
  const found = opened.title?.layers.find((each) => each.id === id.value);
  return found?.kind === "picture" ? found : null;
});
const cut = computed<Cut | null>(() => layer.value?.source.cut ?? null);
// A cut by colours needs a first colour: until it is picked, there is none.
const pending = ref<"none" | "colours">("none");
const kind = computed(() => cut.value?.kind ?? pending.value);
const kinds = (["none", "colours", "screen"] as const).map((value) => ({ value, title: text.cut.kinds[value] }));

function set(next: Cut | null, gesture: string | null = null) {
  if (!layer.value) return;
  opened.setLayer(layer.value.id, { source: { ...layer.value.source, cut: next } }, gesture && `cut.${gesture}`);
}
function choose(wanted: string) {
  pending.value = wanted === "colours" ? "colours" : "none";
  set(freshCut(wanted, catalogue));
}
function change(changes: object, gesture: string) {
  if (cut.value) set({ ...cut.value, ...changes } as Cut, gesture);
}

const image = ref<HTMLImageElement | null>(null);
/** The picture's own pixels, to read a screen's colour from. */
function colourAt(x: number, y: number): string | null {
  const picture = image.value;
  if (!picture?.naturalWidth) return null;
  const canvas = Object.assign(document.createElement("canvas"), {
    width: picture.naturalWidth, height: picture.naturalHeight,
  });
  canvas.getContext("2d", { willReadFrequently: true })?.drawImage(picture, 0, 0);
  return pixelAt(canvas, Math.floor(x * canvas.width), Math.floor(y * canvas.height));
}
function pick(event: MouseEvent) {
  const box = image.value!.getBoundingClientRect();
  const place = { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height };
  if (place.x < 0 || place.y < 0 || place.x > 1 || place.y > 1) return;
  if (kind.value === "screen") {
    const colour = colourAt(place.x, place.y);
    if (colour) change({ colour }, "screen");
  } else set(withPick(cut.value, place, catalogue));
  opened.endGesture();
}
function unpick(index: number) {
  if (cut.value?.kind !== "colours") return;
  const picks = cut.value.picks.filter((_, i) => i !== index);
  pending.value = "colours";
  set(picks.length ? { ...cut.value, picks } : null);
}
const picks = computed(() => (cut.value?.kind === "colours" ? cut.value.picks : []));

// What is left, alone and without its build, in a frame of its own size
const SIDE = 460;
const ROOM = 1.08;
const aspect = ref(1);
const still = computed(() => opened.dragging);
const ask = computed(() => {
  if (!layer.value) return null;
  const placement = { ...layer.value.placement, x: 0, y: 0, z: 0, turn_x: 0, turn_y: 0, turn_z: 0, scale: 1 };
  const bare = { ...layer.value, placement, build: [], visible: true, matte_from: null } as Layer;
  const tall = numberOf(layer.value.source.height, 300) * ROOM;
  const size = { width: Math.max(Math.round(tall * aspect.value), 8), height: Math.max(Math.round(tall), 8) };
  const document = { ...opened.title, frame: { ...opened.title.frame, ...size }, layers: [bare] };
  return { document, scale: Math.min(SIDE / Math.max(size.width, size.height), 1), tap: "picture" };
});
const { shown, fault } = usePreview(ask, still, "cut");
const canvas = ref<HTMLCanvasElement | null>(null);
usePainted(canvas, shown);
watch(id, () => {
  pending.value = "none";
  opened.endGesture();
});
</script>

<template>
  <v-dialog :aria-label="text.cut.title" :model-value="id !== null" max-width="1080" @update:model-value="id = null">
    <v-card v-if="layer" :title="text.cut.title" :subtitle="text.cut.help[kind]">
      <v-card-text class="cut">
        <figure class="source on-chequer">
          <img
            ref="image"
            :src="pictureUrl(pictureOf(layer), 1400)"
            :alt="pictureOf(layer)"
            :class="{ picks: kind !== 'none' }"
            draggable="false"
            @load="aspect = image!.naturalWidth / Math.max(image!.naturalHeight, 1)"
            @click="pick"
          />
          <button
            v-for="(place, index) in picks"
            :key="index"
            type="button"
            class="pick"
            :style="{ left: `${place.x * 100}%`, top: `${place.y * 100}%` }"
            :aria-label="text.cut.unpick(index + 1)"
            :title="text.cut.unpick(index + 1)"
            @click="unpick(index)"
          ></button>
        </figure>
        <figure class="result on-chequer">
          <canvas ref="canvas" :aria-label="text.cut.result" role="img"></canvas>
          <p v-if="fault" role="alert" class="fault">{{ fault }}</p>
        </figure>
        <div class="settings">
          <ChoiceField :label="text.cut.by" :model-value="kind" :choices="kinds" @update:model-value="choose" />
          <ModelFields
            v-if="cut"
            :of="['layers', layer.id, 'source', 'cut']"
            :settings="catalogue.model(`cut.${cut.kind}`)"
          />
        </div>
      </v-card-text>
      <v-card-actions>
        <v-btn variant="text" :disabled="!opened.history.canUndo" @click="opened.undo()">{{ text.act.undo }}</v-btn>
        <v-spacer />
        <v-btn variant="flat" color="ink" @click="id = null">{{ text.act.done }}</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.cut {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 16px;
}
figure {
  position: relative;
  align-self: start;
  justify-self: center;
  border-radius: 4px;
  overflow: hidden;
}
img {
  display: block;
  max-width: 100%;
  max-height: 380px;
}
img.picks {
  cursor: crosshair;
}
.pick {
  position: absolute;
  width: 14px;
  height: 14px;
  margin: -7px 0 0 -7px;
  border: 2px solid #fff;
  border-radius: 50%;
  background: none;
  box-shadow: 0 0 0 1.5px #101314, inset 0 0 0 1.5px #101314;
  cursor: pointer;
}
canvas {
  display: block;
  max-width: 100%;
  max-height: 380px;
}
.settings {
  grid-column: 1 / -1;
  display: grid;
  grid-template-columns: 1fr 1fr;
  align-content: start;
  gap: 2px 16px;
  min-height: 104px; /* the picture must not move away from the pointer at the first pick */
}
.fault {
  position: absolute;
  inset: 8px;
  color: #8c1f14;
}
</style>
