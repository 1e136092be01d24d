// Short messages at the foot of the page, with at most one thing to do about them.
import { defineStore } from "pinia";
import { ref } from "vue";

export interface Notice {
  text: string;
  kind?: "fault";
  act?: { label: string; run: () => void };
}

export const useNotices = defineStore("notices", () => {
  const shown = ref<Notice | null>(null);

  function say(notice: Notice): void {
    shown.value = notice;
  }
  function fault(text: string): void {
    shown.value = { text, kind: "fault" };
  }
  return { shown, say, fault };
});
