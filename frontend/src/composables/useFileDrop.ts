// Files dropped anywhere on the page. `over` is true while some are held above it.
import { useEventListener } from "@vueuse/core";
import { ref, type Ref } from "vue";

export function useFileDrop(take: (files: File[]) => void): Ref<boolean> {
  const over = ref(false);
  useEventListener(window, "dragover", (event: DragEvent) => {
    if (!event.dataTransfer?.types.includes("Files")) return;
    event.preventDefault();
    over.value = true;
  });
  useEventListener(window, "dragleave", (event: DragEvent) => {
    if (!event.relatedTarget) over.value = false;
  });
  useEventListener(window, "drop", (event: DragEvent) => {
    over.value = false;
    const files = [...(event.dataTransfer?.files ?? [])];
    if (!files.length) return;
    event.preventDefault();
    take(files);
  });
  return over;
}
