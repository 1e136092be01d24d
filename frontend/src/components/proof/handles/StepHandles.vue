<script setup lang="ts">
// Handles for the settings of the selected step that have a place, by the grips of the catalogue.
import { computed } from "vue";
import Handle from "./Handle.vue";
import Outline from "./Outline.vue";
import type { Box } from "@/composables/useBoxes";
import { useCard } from "@/composables/useCard";
import type { Point } from "@/model/card";
import { constant, counts, numberOf, settingOf, type Spot, type StepSetting } from "@/model/title";
import { useBuilds } from "@/stores/builds";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { useCatalogue } from "@/stores/catalogue";
import { useProof } from "@/stores/proof";
import { text } from "@/text";

const props = defineProps<{ box: Box | null }>();
const opened = useOpened();
const chosen = useChosen();
const builds = useBuilds();
const catalogue = useCatalogue();
const proof = useProof();
const { toPane, fromPane } = useCard();

const REACH = 120; // frame pixels of an arm at 100 %
const PULL = 300; // frame pixels for the whole of a usual range

const entry = computed(() => (chosen.step ? catalogue.entry(chosen.step.step) : undefined));
const settings = computed(() =>
  chosen.step && entry.value ? entry.value.settings.filter((each) => counts(chosen.step!, entry.value!, each)) : [],
);
const withGrip = (grip: string) => settings.value.filter((each) => each.grip === grip);
function valueOf(setting: StepSetting | undefined): unknown {
  return setting && chosen.step ? constant(settingOf(chosen.step, setting)) : undefined;
}
function held(setting: StepSetting, value: number): number {
  return Math.round(Math.min(Math.max(value, setting.low ?? -1e6), setting.high ?? 1e6) * 1000) / 1000;
}
const tenth = (value: number) => Math.round(value * 10) / 10;

// Points from the layer's centre, and from a corner of the box
const points = computed(() =>
  settings.value.flatMap((setting) => {
    const corner = setting.grip?.startsWith("corner ") ? setting.grip.split(" ") : null;
    if (setting.grip !== "place" && !(corner && props.box)) return [];
    const from = corner ? { x: props.box![corner[1] as "left"], y: props.box![corner[2] as "top"] } : { x: 0, y: 0 };
    const [x, y] = valueOf(setting) as [number, number];
    return [{ setting, from, at: toPane({ x: from.x + x, y: from.y + y }) }];
  }),
);
function movePoint(setting: StepSetting, from: Point, to: Point) {
  const place = fromPane(to);
  if (place) builds.set(setting.name, [tenth(place.x - from.x), tenth(place.y - from.y)]);
}
const quad = computed(() => {
  const corners = points.value.filter(({ setting }) => setting.grip?.startsWith("corner"));
  return corners.length > 2 ? `M${corners.map(({ at }) => `${at.x} ${at.y}`).join("L")}Z` : "";
});

// An arm from the middle: its direction and its length
const arm = computed(() => {
  const turn = withGrip("turn")[0];
  const end = withGrip("end")[0];
  const reach = withGrip("reach")[0];
  const tip = withGrip("tip")[0];
  if (!turn && (tip || (!end && !reach))) return null; // a length has its direction
  const [x, y] = (valueOf(withGrip("place")[0]) as [number, number] | undefined) ?? [0, 0];
  const angle = (numberOf(valueOf(turn), 0) * Math.PI) / 180;
  const way = { x: Math.cos(angle), y: Math.sin(angle) };
  const unit = tip ? 1 : end ? alongBox(way) / 2 : REACH;
  const long = unit * numberOf(valueOf(end ?? reach ?? tip), 1);
  const far = { x: x + way.x * long, y: y + way.y * long };
  return {
    turn, long: end ?? reach ?? tip, unit, middle: { x, y }, both: end !== undefined && turn !== undefined,
    from: toPane({ x, y }), at: toPane(far), back: toPane({ x: 2 * x - far.x, y: 2 * y - far.y }),
  };
});
/** How long the lettering's box is in a direction. */
function alongBox(way: Point): number {
  if (!props.box) return 2 * REACH;
  const { left, top, right, bottom } = props.box;
  return Math.abs(way.x) * (right - left) + Math.abs(way.y) * (bottom - top);
}
function moveArm(to: Point, sign: 1 | -1) {
  const place = fromPane(to);
  if (!place || !arm.value || !chosen.step) return;
  const { turn, long, middle } = arm.value;
  const [dx, dy] = [(place.x - middle.x) * sign, (place.y - middle.y) * sign];
  const changes: Record<string, number> = {};
  let angle = numberOf(valueOf(turn), 0);
  if (turn) changes[turn.name] = angle = held(turn, tenth((Math.atan2(dy, dx) * 180) / Math.PI));
  if (long) {
    const radians = (angle * Math.PI) / 180;
    const along = { x: Math.cos(radians), y: Math.sin(radians) };
    const unit = long.grip === "tip" ? 1 : long.grip === "end" ? alongBox(along) / 2 : REACH;
    changes[long.name] = held(long, Math.hypot(dx, dy) / Math.max(unit, 1));
  }
  const settings = { ...chosen.step.settings, ...changes };
  opened.setStep(chosen.step.id, { settings }, `${chosen.step.id}.arm`);
}

// Lines on the floor: where it meets the letters, and how far below that something fades
const levels = computed(() => {
  const box = props.box;
  if (!box) return [];
  const floor = box.bottom + numberOf(valueOf(withGrip("contact")[0]), 0);
  return settings.value.flatMap((setting) => {
    const fades = setting.grip === "fade";
    if (!fades && setting.grip !== "contact") return [];
    const from = fades ? floor : box.bottom;
    const y = fades ? floor + numberOf(valueOf(setting), 0) : floor;
    const x = fades ? box.left : (box.left + box.right) / 2; // the gnomons stand at the right
    const d = [box.left, box.right].map((edge) => toPane({ x: edge, y })).map((at) => `${at.x} ${at.y}`).join("L");
    const at = toPane({ x, y });
    // One that lies below the pane can still be fetched from its edge.
    return [{ setting, from, d: `M${d}`, at: { x: at.x, y: Math.min(at.y, proof.pane.height - 10) } }];
  });
});
function moveLevel(setting: StepSetting, from: number, to: Point) {
  const place = fromPane(to);
  if (place) builds.set(setting.name, held(setting, tenth(place.y - from)));
}

// A value that grows as it is pulled up
const pulls = computed(() =>
  withGrip("pull").map((setting) => {
    const value = numberOf(valueOf(setting), 0);
    const perPixel = span(setting) / PULL;
    const top = props.box?.top ?? 0;
    return { setting, perPixel, from: toPane({ x: 0, y: top }), at: toPane({ x: 0, y: top - value / perPixel }) };
  }),
);
function span(setting: StepSetting): number {
  if (setting.kind === "length") return PULL;
  return Math.min((setting.high ?? 1) - (setting.low ?? 0), setting.kind === "angle" ? 360 : 2);
}
function pull(setting: StepSetting, perPixel: number, to: Point) {
  const place = fromPane(to);
  if (place) builds.set(setting.name, held(setting, ((props.box?.top ?? 0) - place.y) * perPixel));
}

// Colours at shares of the box
const spots = computed(() => {
  const setting = settings.value.find((each) => each.kind === "spots");
  const box = props.box;
  if (!setting || !box) return null;
  const list = valueOf(setting) as Spot[];
  const at = list.map(({ x, y }) =>
    toPane({ x: box.left + x * (box.right - box.left), y: box.top + y * (box.bottom - box.top) }),
  );
  return { setting, list, at };
});
function moveSpot(index: number, to: Point) {
  const place = fromPane(to);
  const box = props.box;
  if (!place || !box || !spots.value) return;
  const share = (value: number, low: number, high: number) =>
    Math.round(Math.min(Math.max((value - low) / Math.max(high - low, 1), -10), 10) * 1000) / 1000;
  const moved = { x: share(place.x, box.left, box.right), y: share(place.y, box.top, box.bottom) };
  builds.set(spots.value.setting.name, spots.value.list.map((spot, i) => (i === index ? { ...spot, ...moved } : spot)));
}
</script>

<template>
  <g v-if="chosen.step">
    <template v-for="level in levels" :key="level.setting.name">
      <Outline :d="level.d" dashed />
      <Handle
        :at="level.at"
        shape="square"
        :label="`${entry!.label}: ${level.setting.label}`"
        @to="moveLevel(level.setting, level.from, $event)"
      />
    </template>
    <Outline v-if="quad" :d="quad" dashed />
    <template v-if="arm">
      <Outline :d="`M${arm.both ? `${arm.back.x} ${arm.back.y}` : `${arm.from.x} ${arm.from.y}`}L${arm.at.x} ${arm.at.y}`" />
      <Handle :at="arm.at" shape="square" :label="text.handles.arm" @to="moveArm($event, 1)" />
      <Handle v-if="arm.both" :at="arm.back" shape="square" :label="text.handles.armBack" @to="moveArm($event, -1)" />
    </template>
    <template v-for="each in pulls" :key="each.setting.name">
      <Outline :d="`M${each.from.x} ${each.from.y}L${each.at.x} ${each.at.y}`" dashed />
      <Handle :at="each.at" :label="each.setting.label" @to="pull(each.setting, each.perPixel, $event)" />
    </template>
    <Handle
      v-for="point in points"
      :key="point.setting.name"
      :at="point.at"
      :label="point.setting.label"
      @to="movePoint(point.setting, point.from, $event)"
    />
    <Handle
      v-for="(at, index) in spots?.at ?? []"
      :key="index"
      :at="at"
      :fill="spots!.list[index]!.colour"
      :label="text.spots.colour(index + 1)"
      @to="moveSpot(index, $event)"
    />
  </g>
</template>
