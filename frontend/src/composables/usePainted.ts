// A picture put on a canvas of its own size, in one act: no blank frame between two.
import { watch, type Ref } from "vue";
import type { Shown } from "./usePreview";

export function usePainted(canvas: Ref<HTMLCanvasElement | null>, shown: Ref<Shown | null>): void {
  watch([shown, canvas], () => {
    const image = shown.value?.image;
    if (!image || !canvas.value) return;
    canvas.value.width = image.width;
    canvas.value.height = image.height;
    canvas.value.getContext("2d", { willReadFrequently: true })?.putImageData(image, 0, 0);
  });
}
