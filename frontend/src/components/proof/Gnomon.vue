<script setup lang="ts">
// A post on the proof: its shadow is dragged to set the direction of one light. Its foot can be
// laid beside a shadow in the picture, and stays there.
import { computed, ref } from "vue";
import { startDrag } from "@/composables/useDrag";
import { lightFromTip, rigged, shadowTip, unrigged } from "@/model/light";
import { numberOf, withLight, type DistantLight } from "@/model/title";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { useProof } from "@/stores/proof";
import { text } from "@/text";

const props = defineProps<{ light: DistantLight; index: number; named: boolean }>();
const opened = useOpened();
const chosen = useChosen();
const proof = useProof();

const POST = 34;
const LONGEST = 170;
const ROOM = 30; // pixels from the edge of the pane
const foot = ref({ x: 0.9 - 0.1 * props.index, y: 0.86 }); // shares of the frame
const meant = computed(() => chosen.lightId === props.light.id || (chosen.lightId === null && props.index === 0));

const rig = computed(() => ({ turn: numberOf(opened.title.rig.turn), raised: numberOf(opened.title.rig.raised) }));
const unmoved = computed(() => !rig.value.turn && !rig.value.raised);
// The shadow shows the light as it falls: after the rig was turned.
const direction = computed(() => {
  const own = { azimuth: numberOf(props.light.azimuth), elevation: numberOf(props.light.elevation) };
  return unmoved.value ? own : rigged(own, rig.value);
});
const shadow = computed(() => {
  const [x, y] = shadowTip(direction.value, POST);
  const cut = Math.min(LONGEST / Math.max(Math.hypot(x, y), 1), 1);
  return { x: x * cut, y: y * cut };
});
/** As it was when the hand took its tip: the foot stays then. */
const taken = ref<{ x: number; y: number } | null>(null);
// Foot and tip are both within the pane.
const at = computed(() => {
  const { x, y } = proof.toPane(foot.value.x * proof.frame.width, foot.value.y * proof.frame.height);
  const long = taken.value ?? shadow.value;
  return { x: within(x, long.x, ROOM, proof.pane.width), y: within(y, long.y, POST + ROOM, proof.pane.height) };
});
function within(place: number, long: number, first: number, wide: number): number {
  const [low, high] = [Math.max(first, ROOM - long), Math.min(wide - ROOM, wide - ROOM - long)];
  return Math.min(Math.max(place, low), Math.max(high, low));
}
const tip = computed(() => ({ x: at.value.x + shadow.value.x, y: at.value.y + shadow.value.y }));

function set(changes: { azimuth: number; elevation: number }) {
  const own = unmoved.value ? changes : unrigged(changes, rig.value);
  opened.change(withLight(opened.title, props.light.id, own), `gnomon ${props.light.id}`);
}
function dragTip(press: PointerEvent) {
  const start = shadow.value;
  taken.value = start;
  opened.dragging = true;
  startDrag(
    press,
    ({ dx, dy }) => set(lightFromTip(start.x + dx, start.y + dy, POST)),
    () => {
      taken.value = null;
      opened.endGesture();
    },
  );
}
function dragFoot(press: PointerEvent) {
  const start = { ...at.value };
  startDrag(press, ({ dx, dy }) => {
    const { x, y } = proof.toFrame(start.x + dx, start.y + dy);
    foot.value = { x: x / proof.frame.width, y: y / proof.frame.height };
  });
}
function keys(event: KeyboardEvent) {
  const by = event.shiftKey ? 10 : 1;
  const turn = { ArrowLeft: -by, ArrowRight: by }[event.key] ?? 0;
  const rise = { ArrowUp: by, ArrowDown: -by }[event.key] ?? 0;
  if (!turn && !rise) return;
  event.preventDefault();
  const { azimuth, elevation } = direction.value;
  set({ azimuth: (azimuth + turn + 360) % 360, elevation: Math.min(Math.max(elevation + rise, 0), 90) });
  opened.endGesture();
}
</script>

<template>
  <g class="gnomon" :class="{ chosen: meant }">
    <line class="rim" :x1="at.x" :y1="at.y" :x2="tip.x" :y2="tip.y" />
    <line class="shadow" :x1="at.x" :y1="at.y" :x2="tip.x" :y2="tip.y" />
    <line class="edge" :x1="at.x" :y1="at.y" :x2="at.x" :y2="at.y - POST" />
    <line class="post" :x1="at.x" :y1="at.y" :x2="at.x" :y2="at.y - POST" />
    <circle class="foot" :cx="at.x" :cy="at.y" r="5" @pointerdown.stop="dragFoot">
      <title>{{ text.bench.gnomonBase }}</title>
    </circle>
    <text v-if="named" class="name" :x="at.x" :y="at.y - POST - 6">{{ light.name }}</text>
    <circle
      class="tip"
      :cx="tip.x"
      :cy="tip.y"
      r="7"
      tabindex="0"
      role="slider"
      :aria-label="text.bench.gnomon(light.name)"
      :aria-valuenow="direction.azimuth"
      :aria-valuetext="`${direction.azimuth}°, ${direction.elevation}°`"
      @pointerdown.stop="dragTip"
      @keydown="keys"
    >
      <title>{{ text.bench.gnomon(light.name) }}</title>
    </circle>
  </g>
</template>

<style scoped>
.gnomon:not(.chosen) {
  opacity: 0.6;
}
.name {
  fill: #fff;
  font-size: 11px;
  text-anchor: middle;
  paint-order: stroke;
  stroke: #101314;
  stroke-width: 2.5px;
}
.shadow {
  stroke: #101314;
  stroke-width: 6;
  stroke-linecap: round;
  opacity: 0.78;
}
.rim {
  stroke: #fff;
  stroke-width: 8;
  stroke-linecap: round;
  opacity: 0.35;
}
.edge {
  stroke: #101314;
  stroke-width: 6;
  opacity: 0.35;
}
.post {
  stroke: #fff;
  stroke-width: 3.5;
}
.foot {
  fill: #fff;
  stroke: #101314;
  cursor: move;
  pointer-events: auto;
}
.tip {
  fill: #fff;
  stroke: #101314;
  stroke-width: 1.5;
  cursor: grab;
  pointer-events: auto;
  touch-action: none;
}
</style>
