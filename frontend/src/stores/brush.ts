// What cells are painted with: tool, ink, fineness, mirrors; and the cell that the keys are on.
import { defineStore } from "pinia";
import { computed, reactive, ref, shallowRef } from "vue";
import type { Cell } from "@/model/cells/grids";
import type { Mirrors } from "@/model/cells/gestures";

export const TOOLS = ["paint", "rectangle", "fill", "erase", "pick"] as const;
export type Tool = (typeof TOOLS)[number];
export type Fineness = 1 | 2 | 4 | 8;

export const useBrush = defineStore("brush", () => {
  /** Null while nothing is painted and the proof is dragged as ever. */
  const tool = ref<Tool | null>(null);
  const ink = ref(0);
  const divided = ref<Fineness>(1);
  const mirrors = reactive<Mirrors>({ across: false, down: false });
  const cursor = shallowRef<Cell | null>(null);
  /** The first corner of a rectangle. */
  const corner = shallowRef<Cell | null>(null);
  /** A stroke is on its way. */
  const painting = ref(false);
  /** Where the keys are, in words. */
  const said = ref("");
  const active = computed(() => tool.value !== null);

  function take(wanted: Tool | null): void {
    tool.value = wanted;
    corner.value = null;
  }
  return { tool, ink, divided, mirrors, cursor, corner, painting, said, active, take };
});
