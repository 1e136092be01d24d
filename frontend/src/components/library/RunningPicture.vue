<script setup lang="ts">
// A clip that runs along under the pointer: a strip of its frames, which is fetched when it is needed.
import { computed, ref } from "vue";
import { pictureUrl, type LibraryFile } from "@/stores/library";

const props = defineProps<{ file: LibraryFile; alt: string }>();
const SIDE = 240;
const TALL = 118;
const frames = computed(() => Math.min(props.file.frames ?? 1, 16));
const still = computed(() => pictureUrl(props.file.name, SIDE, props.file.version));
const strip = computed(() => `${still.value}&frames=${frames.value}`);
const ready = ref(false);
const at = ref<number | null>(null);

/** Begins to fetch the strip; until it is there the first frame stays. */
function enter() {
  if (ready.value) return;
  const image = new Image();
  image.onload = () => (ready.value = true);
  image.src = strip.value;
}
function move(event: PointerEvent) {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
  const share = Math.min(Math.max((event.clientX - box.left) / box.width, 0), 0.999);
  at.value = Math.floor(share * frames.value);
}
const shown = computed(() => {
  if (!ready.value || at.value === null) return { backgroundImage: `url("${still.value}")` };
  const place = frames.value > 1 ? (at.value / (frames.value - 1)) * 100 : 0;
  return {
    backgroundImage: `url("${strip.value}")`,
    backgroundSize: `${frames.value * 100}% 100%`,
    backgroundPosition: `${place}% 0`,
  };
});
const shape = computed(() => {
  const ratio = (props.file.width ?? 16) / (props.file.height ?? 9);
  return { aspectRatio: String(ratio), width: `min(100%, ${TALL * ratio}px)` };
});
</script>

<template>
  <div
    class="running"
    role="img"
    :aria-label="alt"
    :data-frame="at ?? undefined"
    :style="[shape, shown]"
    @pointerenter="enter"
    @pointermove="move"
    @pointerleave="at = null"
  >
    <i v-if="at !== null" :style="{ left: `${((at + 0.5) / frames) * 100}%` }"></i>
  </div>
</template>

<style scoped>
.running {
  position: relative;
  background-size: 100% 100%;
}
i {
  position: absolute;
  bottom: 0;
  width: 2px;
  height: 100%;
  background: #b4471f;
}
</style>
