<script setup lang="ts">
// A post on the proof: its shadow is dragged to set the key light.
import { computed, ref } from "vue";
import { startDrag } from "@/composables/useDrag";
import { lightFromTip, rigged, shadowTip, unrigged } from "@/model/light";
import { numberOf, withLight } from "@/model/title";
import { useBench } from "@/stores/bench";
import { useProof } from "@/stores/proof";
import { text } from "@/text";

const bench = useBench();
const proof = useProof();
const POST = 34;
const LONGEST = 170;

const foot = ref({ x: 0.855, y: 0.86 }); // shares of the pane
// A light that stands at a place has no one direction to set.
const light = computed(() => {
  const key = bench.title.lights[0];
  return key?.kind === "distant" ? key : undefined;
});
const rig = computed(() => ({ turn: numberOf(bench.title.rig.turn), raised: numberOf(bench.title.rig.raised) }));
const unmoved = computed(() => !rig.value.turn && !rig.value.raised);
// The shadow shows the light as it falls: after the rig was turned.
const direction = computed(() => {
  const own = { azimuth: numberOf(light.value?.azimuth), elevation: numberOf(light.value?.elevation) };
  return unmoved.value ? own : rigged(own, rig.value);
});
const at = computed(() => ({ x: foot.value.x * proof.pane.width, y: foot.value.y * proof.pane.height }));
const tip = computed(() => {
  const [x, y] = shadowTip(direction.value, POST);
  const long = Math.hypot(x, y);
  const cut = long > LONGEST ? LONGEST / long : 1;
  return { x: at.value.x + x * cut, y: at.value.y + y * cut };
});

function set(changes: { azimuth: number; elevation: number }) {
  const own = unmoved.value ? changes : unrigged(changes, rig.value);
  if (light.value) bench.change(withLight(bench.title, light.value.id, own), "gnomon");
}
function dragTip(press: PointerEvent) {
  const start = { x: tip.value.x - at.value.x, y: tip.value.y - at.value.y };
  bench.dragging = true;
  startDrag(
    press,
    ({ dx, dy }) => set(lightFromTip(start.x + dx, start.y + dy, POST)),
    () => bench.endGesture(),
  );
}
function dragFoot(press: PointerEvent) {
  const start = { ...foot.value };
  startDrag(press, ({ dx, dy }) => {
    foot.value = {
      x: Math.min(Math.max(start.x + dx / proof.pane.width, 0.02), 0.98),
      y: Math.min(Math.max(start.y + dy / proof.pane.height, 0.08), 0.98),
    };
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
  bench.endGesture();
}
</script>

<template>
  <g v-if="light" class="gnomon">
    <line class="shadow" :x1="at.x" :y1="at.y" :x2="tip.x" :y2="tip.y" />
    <line class="edge" :x1="at.x" :y1="at.y" :x2="at.x" :y2="at.y - POST" />
    <line class="post" :x1="at.x" :y1="at.y" :x2="at.x" :y2="at.y - POST" />
    <circle class="foot" :cx="at.x" :cy="at.y" r="4" @pointerdown.stop="dragFoot">
      <title>{{ text.bench.gnomonBase }}</title>
    </circle>
    <circle
      class="tip"
      :cx="tip.x"
      :cy="tip.y"
      r="7"
      tabindex="0"
      role="slider"
      :aria-label="text.bench.gnomon"
      :aria-valuenow="direction.azimuth"
      :aria-valuetext="`${direction.azimuth}°, ${direction.elevation}°`"
      @pointerdown.stop="dragTip"
      @keydown="keys"
    >
      <title>{{ text.bench.gnomon }}</title>
    </circle>
  </g>
</template>

<style scoped>
.shadow {
  stroke: #101314;
  stroke-width: 6;
  stroke-linecap: round;
  opacity: 0.78;
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
