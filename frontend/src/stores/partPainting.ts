// Parts of the selected layer: which are picked, and what they are painted with.
import { defineStore } from "pinia";
import { computed, ref } from "vue";
import { useBrokenParts } from "@/composables/useBrokenParts";
import {
  brushOf, canBePainted, ownerOf, scopeOf, withBrush, withoutPaint, type Brush, type BrokenPart, type PartPaint, type Scope,
} from "@/model/partPaints";
import { useMotion } from "./motion";
import { useOpened } from "./opened";

export const usePartPainting = defineStore("part painting", () => {
  const motion = useMotion();
  const opened = useOpened();
  const { parts, paints, place } = useBrokenParts();
  /** By name; the last one is where the keys are. */
  const names = ref<string[]>([]);
  /** What was painted with last. */
  const last = ref<Brush>({});
  /** Where the keys are, in words. */
  const said = ref("");

  const pickable = computed(() => parts.value.filter(canBePainted));
  const picked = computed(() => {
    const byName = new Map(pickable.value.map((each) => [each.name, each]));
    return names.value.map((name) => byName.get(name)).filter((each) => each !== undefined);
  });
  const current = computed<BrokenPart | undefined>(() => picked.value.at(-1));
  /** The paint of the part that was picked last. */
  const paint = computed<PartPaint | null>(() =>
    current.value ? (paints.value[ownerOf(paints.value, current.value)] ?? null) : null,
  );

  function pick(name: string | null, more = false): void {
    if (name === null) names.value = [];
    else if (!more) names.value = [name];
    else names.value = names.value.includes(name) ? names.value.filter((each) => each !== name) : [...names.value, name];
  }
  /** All that are like the current one: in its letter, facing its way, or of its kind. */
  function pickLike(like: (a: BrokenPart, b: BrokenPart) => boolean): void {
    const own = current.value;
    if (own) names.value = [...pickable.value.filter((each) => each !== own && like(each, own)).map((each) => each.name), own.name];
  }
  function write(next: PartPaint[], gesture: string | null): void {
    if (place.value) motion.set(place.value, { parts: next }, gesture);
  }
  /** Paints what is picked, with changes to what it is painted with. */
  function set(changes: Brush, scope: Scope = paint.value ? scopeOf(paint.value) : "part"): void {
    if (!picked.value.length) return;
    const brush = { ...last.value, ...(paint.value && brushOf(paint.value)), ...changes };
    last.value = brush;
    write(withBrush(paints.value, picked.value, scope, brush), `parts ${names.value.join(" ")} ${Object.keys(changes).join(" ")}`);
  }
  function setScope(scope: Scope): void {
    if (!paint.value) return;
    // What goes further takes the place of those for one part; they would lie over it.
    const single = (each: BrokenPart) => scopeOf(paints.value[ownerOf(paints.value, each)] ?? {}) === "part";
    const left = scope === "part" ? paints.value : withoutPaint(paints.value, picked.value.filter(single));
    const bare = picked.value.map((each) => ({ ...each, painted: null })); // what was told is of the list before
    write(withBrush(left, bare, scope, brushOf(paint.value)), null);
  }
  function clear(): void {
    write(withoutPaint(paints.value, picked.value), null);
  }
  function clearAll(): void {
    write([], null);
  }
  function drop(indices: readonly number[]): void {
    write(paints.value.filter((_, index) => !indices.includes(index)), null);
  }
  function done(): void {
    opened.endGesture();
  }
  return { names, picked, current, paint, pickable, said, last, pick, pickLike, set, setScope, clear, clearAll, drop, done };
});
