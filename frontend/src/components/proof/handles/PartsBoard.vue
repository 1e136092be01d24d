<script setup lang="ts">
// The parts of the selected layer over the proof: picked with the pointer or the keys, or spread.
import { computed, ref, watch, watchEffect } from "vue";
import { useBrokenParts } from "@/composables/useBrokenParts";
import type { Point } from "@/model/card";
import { canBePainted, spreadOf, towards, type BrokenPart } from "@/model/partPaints";
import { usePartPainting } from "@/stores/partPainting";
import { useProof } from "@/stores/proof";
import { text } from "@/text";

const painting = usePartPainting();
const proof = useProof();
const { parts, spread, setting } = useBrokenParts();
const over = ref<string | null>(null);

const onPane = computed(() => {
  const { x, y } = proof.toPane(0, 0);
  const frame = `matrix(${proof.scale} 0 0 ${proof.scale} ${x} ${y})`;
  if (!moves.value) return frame;
  const { middle, size } = moves.value;
  return `${frame} translate(${middle.x} ${middle.y}) scale(${size}) translate(${-middle.x} ${-middle.y})`;
});
// Spread parts bring their colours; until these have come, nothing is spread.
const apart = computed(() => spread.value > 0 && parts.value.every((each) => each.colours));
const moves = computed(() => (apart.value ? spreadOf(parts.value, spread.value) : null));
const moveOf = (move: Point | undefined) => move && `translate(${move.x.toFixed(2)} ${move.y.toFixed(2)})`;
const shown = computed(() =>
  parts.value.map((part, index) => ({
    part,
    can: canBePainted(part),
    move: moveOf(moves.value?.moves[index]),
    fill: (part.colours?.length ?? 0) > 1 ? `url(#part-${index})` : (part.colours?.[0] ?? "none"),
  })),
);
// What is painted lies over what is picked: lines round picked parts come last.
const marked = computed(() => {
  const names = [...painting.names, ...(over.value ? [over.value] : [])];
  return shown.value.filter((each) => names.includes(each.part.name));
});
watch(setting, (now, before) => {
  if (now !== before) painting.pick(null);
});
watchEffect(() => {
  const part = painting.current;
  painting.said = part && setting.value ? text.parts.at(part, painting.picked.length) : "";
});

function press(event: PointerEvent, part: BrokenPart) {
  if (event.button !== 0) return;
  event.stopPropagation();
  painting.pick(part.name, event.shiftKey || event.ctrlKey || event.metaKey);
  ((event.currentTarget as SVGElement).closest(".parts") as SVGElement | null)?.focus();
}
const WAYS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1],
};
function keys(event: KeyboardEvent) {
  const way = WAYS[event.key];
  const all = painting.pickable;
  const now = painting.current;
  if (way) go(now ? towards(all, now, way) : all[0], event.shiftKey);
  else if (event.key === "PageDown" || event.key === "PageUp") {
    const at = now ? all.indexOf(now) : -1;
    go(all[(at + (event.key === "PageDown" ? 1 : all.length - 1)) % all.length], event.shiftKey);
  } else if (event.key === "Enter" || event.key === " ") painting.set({});
  else if (event.key === "Delete" || event.key === "Backspace") painting.clear();
  else if (event.key === "Escape" && painting.names.length) painting.pick(null);
  else return;
  painting.done();
  event.preventDefault();
  event.stopPropagation();
}
function go(to: BrokenPart | null | undefined, more: boolean) {
  if (!to) return;
  if (more) painting.names = [...painting.names.filter((each) => each !== to.name), to.name];
  else painting.pick(to.name);
}
</script>

<template>
  <g
    v-if="setting && parts.length"
    class="parts"
    tabindex="0"
    role="application"
    :aria-label="text.parts.board"
    @keydown="keys"
    @focus="painting.current || painting.pick(painting.pickable[0]?.name ?? null)"
  >
    <rect v-if="apart" class="veil" x="0" y="0" :width="proof.pane.width" :height="proof.pane.height" />
    <g :transform="onPane">
      <defs v-if="apart">
        <template v-for="({ part }, index) in shown" :key="part.name">
          <linearGradient
            v-if="part.colours && part.colours.length > 1 && part.line"
            :id="`part-${index}`"
            gradientUnits="userSpaceOnUse"
            :x1="part.line[0]" :y1="part.line[1]" :x2="part.line[2]" :y2="part.line[3]"
          >
            <stop v-for="(colour, stop) in part.colours" :key="stop" :offset="stop" :stop-color="colour" />
          </linearGradient>
        </template>
      </defs>
      <path
        v-for="{ part, can, move, fill } in shown"
        :key="part.name"
        :class="{ part: can, apart }"
        :d="part.path"
        :transform="move"
        :style="apart ? { fill } : undefined"
        :data-part="part.name"
        @pointerdown="can && press($event, part)"
        @pointerenter="over = can ? part.name : over"
        @pointerleave="over = over === part.name ? null : over"
      />
      <g v-for="{ part, move } in marked" :key="part.name" :transform="move" class="mark">
        <path class="under" :d="part.path" />
        <path :class="{ picked: painting.names.includes(part.name) }" :d="part.path" />
      </g>
    </g>
  </g>
</template>

<style scoped>
.parts {
  outline: none !important;
}
.veil {
  fill: #6f7372;
  fill-opacity: 0.97;
  pointer-events: none;
}
.parts path {
  fill-rule: evenodd;
  fill: transparent;
  pointer-events: none;
}
.parts path.part {
  pointer-events: auto;
  cursor: pointer;
}
.mark path {
  fill: none;
  stroke: #fff;
  stroke-width: 1.25;
  vector-effect: non-scaling-stroke;
  pointer-events: none;
}
.mark path.picked {
  fill: #fff;
  fill-opacity: 0.14;
  stroke-width: 1.75;
}
.mark .under {
  stroke: #101314;
  stroke-opacity: 0.6;
  stroke-width: 3.5;
}
</style>
