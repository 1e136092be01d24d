// Which dialogues and drawers of the bench are open.
import { defineStore } from "pinia";
import { ref } from "vue";

export const usePanels = defineStore("panels", () => {
  const finishes = ref(false);
  const arrivals = ref(false);
  const marks = ref(false);
  const shortcuts = ref(false);
  const exporting = ref(false);
  /** The picture layer whose cut-out is edited. */
  const cutting = ref<string | null>(null);
  /** Where in the build a step is looked for. */
  const adding = ref<number | null>(null);
  const editingWords = ref(false);

  /** One of the drawers that lie over the settings; the other one shuts. */
  function toggle(drawer: "finishes" | "arrivals"): void {
    const open = drawer === "finishes" ? !finishes.value : !arrivals.value;
    finishes.value = open && drawer === "finishes";
    arrivals.value = open && drawer === "arrivals";
  }
  function closeAll(): void {
    finishes.value = arrivals.value = marks.value = shortcuts.value = exporting.value = editingWords.value = false;
    cutting.value = adding.value = null;
  }
  return { toggle, finishes, arrivals, marks, shortcuts, exporting, cutting, adding, editingWords, closeAll };
});
