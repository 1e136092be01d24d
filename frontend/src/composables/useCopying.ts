// Steps on the clipboard, as text that another title, or a friend, can take.
import { useEventListener } from "@vueuse/core";
import { stepsAsText, stepsFromText } from "@/model/clipboard";
import { newId } from "@/model/title";
import { useBench } from "@/stores/bench";
import { useCatalogue } from "@/stores/catalogue";
import { useNotices } from "@/stores/notices";
import { text } from "@/text";
import { typing } from "./typing";

export function useCopying(): void {
  const bench = useBench();
  const catalogue = useCatalogue();
  const notices = useNotices();

  function mine(event: ClipboardEvent): boolean {
    return bench.ready && !typing(event) && getSelection()?.type !== "Range";
  }
  /** The selected step, or the whole build where the source is selected. */
  function taken() {
    return bench.step ? [bench.step] : (bench.layer?.build ?? []);
  }
  function copy(event: ClipboardEvent): void {
    if (!mine(event) || !taken().length) return;
    event.clipboardData?.setData("text/plain", stepsAsText(taken()));
    event.preventDefault();
    notices.say({ text: text.copying.copied(taken().length) });
  }
  function cut(event: ClipboardEvent): void {
    if (!mine(event) || !bench.step) return;
    copy(event);
    bench.removeStep(bench.step.id);
  }
  function paste(event: ClipboardEvent): void {
    if (!mine(event)) return;
    const words = event.clipboardData?.getData("text/plain") ?? "";
    const found = stepsFromText(words, bench.title, catalogue.entry, newId);
    if (typeof found === "string") {
      if (words.trim()) notices.fault(text.copying[found as "none"]);
      return;
    }
    event.preventDefault();
    bench.insertSteps(found);
  }
  useEventListener(document, "copy", copy);
  useEventListener(document, "cut", cut);
  useEventListener(document, "paste", paste);
}
