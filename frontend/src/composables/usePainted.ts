// A picture put on a canvas of the whole frame's size, in one act: no blank frame between two.
// Parts of the same state add to one another; what is not in sight stays empty.
import { watch, type Ref } from "vue";
import type { Shown } from "./usePreview";

export function usePainted(canvas: Ref<HTMLCanvasElement | null>, shown: Ref<Shown | null>): void {
  watch([shown, canvas], ([now, board], [before, boardBefore]) => {
    if (!now || !board) return;
    if (!before || boardBefore !== board || !sameBut(now, before)) {
      board.width = now.place.width;
      board.height = now.place.height;
    }
    board.getContext("2d", { willReadFrequently: true })?.putImageData(now.image, now.place.left, now.place.top);
  });
}

/** Whether two pictures differ in nothing but the part that they show. */
function sameBut(now: Shown, before: Shown): boolean {
  const { ask, place } = now;
  const same = ask.document === before.ask.document && ask.tap === before.ask.tap && ask.layer === before.ask.layer;
  return same && place.width === before.place.width && place.height === before.place.height && ask.part !== undefined;
}
