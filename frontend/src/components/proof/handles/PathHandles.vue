<script setup lang="ts">
// The places of a drawn path and the ends of their handles: of a shape, or of the line that words
// run along.
import { computed } from "vue";
import AddBetween from "./AddBetween.vue";
import Handle from "./Handle.vue";
import Outline from "./Outline.vue";
import { useCard } from "@/composables/useCard";
import { movedNode, onCurve, pathPoints, pulledNode, splitAfter, type Node } from "@/model/shapes";
import type { Point } from "@/model/card";
import { useOpened } from "@/stores/opened";
import { useShapes } from "@/stores/shapes";
import { text } from "@/text";

const opened = useOpened();
const shapes = useShapes();
const { toPane } = useCard();

function seen({ x, y }: Point): Point {
  const turn = (shapes.stand.turn * Math.PI) / 180;
  return toPane({
    x: shapes.stand.x + x * Math.cos(turn) - y * Math.sin(turn), y: shapes.stand.y + x * Math.sin(turn) + y * Math.cos(turn),
  });
}
const line = (points: readonly Point[]) => points.map(({ x, y }) => `${x.toFixed(1)} ${y.toFixed(1)}`).join("L");
const path = computed(() =>
  shapes.nodes.length > 1 ? `M${line(pathPoints(shapes.nodes, shapes.closed).map(seen))}${shapes.closed ? "Z" : ""}` : "",
);
const places = computed(() =>
  shapes.nodes.map((node) => {
    const [x, y, bx, by, ax, ay] = node;
    const before = bx || by ? seen({ x: x + bx, y: y + by }) : null;
    const after = ax || ay ? seen({ x: x + ax, y: y + ay }) : null;
    const at = seen({ x, y });
    const arms = [before, after].filter((end) => end !== null).map((end) => `M${line([at, end])}`).join("");
    return { at, before, after, arms };
  }),
);
const between = computed(() => {
  const count = shapes.nodes.length - (shapes.closed ? 0 : 1);
  return Array.from({ length: count }, (_, i) => seen(onCurve(shapes.nodes[i]!, shapes.nodes[(i + 1) % shapes.nodes.length]!, 0.5)));
});

function change(index: number, to: Point, make: (node: Node, place: Point) => Node) {
  const place = shapes.toPath(to);
  if (place) shapes.setNodes(shapes.nodes.map((node, i) => (i === index ? make(node, place) : node)), "path");
}
function add(index: number) {
  shapes.setNodes(splitAfter(shapes.nodes, index));
  opened.endGesture();
}
function remove(index: number) {
  if (shapes.nodes.length > 2) shapes.setNodes(shapes.nodes.filter((_, i) => i !== index));
  opened.endGesture();
}
</script>

<template>
  <g v-if="shapes.place">
    <Outline v-if="path" :d="path" dashed />
    <template v-if="!shapes.pen">
      <AddBetween
        v-for="(point, index) in between"
        :key="`between ${index}`"
        :at="point"
        :label="text.shapes.addNode(index + 1)"
        @add="add(index)"
      />
      <template v-for="(place, index) in places" :key="index">
        <path class="arm" :d="place.arms" />
        <Handle
          v-if="place.before" :at="place.before" shape="small" :label="text.shapes.before(index + 1)"
          @to="(to, alt) => change(index, to, (node, there) => pulledNode(node, 'before', there, alt))"
        />
        <Handle
          v-if="place.after" :at="place.after" shape="small" :label="text.shapes.after(index + 1)"
          @to="(to, alt) => change(index, to, (node, there) => pulledNode(node, 'after', there, alt))"
        />
        <Handle
          :at="place.at" shape="square" :label="text.shapes.node(index + 1)"
          @to="(to) => change(index, to, movedNode)" @remove="remove(index)"
        />
      </template>
    </template>
  </g>
</template>

<style scoped>
.arm {
  stroke: #fff;
  stroke-width: 1;
}
</style>
