// Steps on the clipboard, as text that another title, or a friend, can take.
import { useEventListener } from "@vueuse/core";
import { stepsAsText, stepsFromText } from "@/model/clipboard";
import { newId } from "@/model/title";
import { useBuilds } from "@/stores/builds";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { useCatalogue } from "@/stores/catalogue";
import { useNotices } from "@/stores/notices";
import { text } from "@/text";
import { typing } from "./typing";

export function useCopying(): void {
  const opened = useOpened();
  const chosen = useChosen();
  const builds = useBuilds();
  const catalogue = useCatalogue();
  const notices = useNotices();

  function mine(event: ClipboardEvent): boolean {
    return opened.ready && !typing(event) && getSelection()?.type !== "Range";
  }
  /** The selected step, or the whole build where the source is selected. */
  function taken() {
    return chosen.step ? [chosen.step] : (chosen.layer?.build ?? []);
  }
  function copy(event: ClipboardEvent): void {
    if (!mine(event) || !taken().length) return;
    event.clipboardData?.setData("text/plain", stepsAsText(taken()));
    event.preventDefault();
    notices.say({ text: text.copying.copied(taken().length) });
  }
  function cut(event: ClipboardEvent): void {
    if (!mine(event) || !chosen.step) return;
    copy(event);
    builds.removeStep(chosen.step.id);
  }
  function paste(event: ClipboardEvent): void {
    if (!mine(event)) return;
    const words = event.clipboardData?.getData("text/plain") ?? "";
    const found = stepsFromText(words, opened.title, catalogue.entry, newId);
    if (typeof found === "string") {
      if (words.trim()) notices.fault(text.copying[found as "none"]);
      return;
    }
    event.preventDefault();
    builds.insertSteps(found);
  }
  useEventListener(document, "copy", copy);
  useEventListener(document, "cut", cut);
  useEventListener(document, "paste", paste);
}
