// Which dialogues and drawers of the bench are open.
import { defineStore } from "pinia";
import { ref } from "vue";

export const usePanels = defineStore("panels", () => {
  const finishes = ref(false);
  const marks = ref(false);
  const shortcuts = ref(false);
  const exporting = ref(false);
  /** The picture layer whose cut-out is edited. */
  const cutting = ref<string | null>(null);
  /** Where in the build a step is looked for. */
  const adding = ref<number | null>(null);
  const editingWords = ref(false);

  function closeAll(): void {
    finishes.value = marks.value = shortcuts.value = exporting.value = editingWords.value = false;
    cutting.value = adding.value = null;
  }
  return { finishes, marks, shortcuts, exporting, cutting, adding, editingWords, closeAll };
});
