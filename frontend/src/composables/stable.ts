// A computed list that keeps its identity while what is in it stays the same, so that what is shown
// of it need not be rendered again.
import { computed, type ComputedRef } from "vue";

export function stable<T>(make: () => T): ComputedRef<T> {
  return computed<T>((before) => {
    const now = make();
    return before !== undefined && JSON.stringify(before) === JSON.stringify(now) ? before : now;
  });
}
