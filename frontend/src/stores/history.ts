// Undo and redo over whole documents, grouped by gesture.
import { computed, shallowRef, triggerRef } from "vue";

const KEPT = 300;

export function useHistory<T>(first: T) {
  const states = shallowRef<T[]>([first]);
  const at = shallowRef(0);
  let gesture: string | null = null;

  const now = computed(() => states.value[at.value] as T);
  const canUndo = computed(() => at.value > 0);
  const canRedo = computed(() => at.value < states.value.length - 1);

  /** A new state. Changes of one gesture, such as a drag, are one step back. */
  function push(state: T, partOf: string | null = null): void {
    const list = states.value;
    list.length = at.value + 1;
    if (partOf !== null && partOf === gesture) {
      list[at.value] = state;
    } else {
      list.push(state);
      if (list.length > KEPT) list.shift();
      at.value = list.length - 1;
    }
    gesture = partOf;
    triggerRef(states);
  }
  function endGesture(): void {
    gesture = null;
  }
  function undo(): void {
    endGesture();
    if (canUndo.value) at.value -= 1;
  }
  function redo(): void {
    endGesture();
    if (canRedo.value) at.value += 1;
  }
  function restart(state: T): void {
    resume([state], 0);
  }
  /** Go on with states that were kept. */
  function resume(kept: T[], place: number): void {
    states.value = kept;
    at.value = place;
    endGesture();
  }
  return { states, at, now, canUndo, canRedo, push, endGesture, undo, redo, restart, resume };
}
