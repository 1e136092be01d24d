// Files dropped on the bench: a font is set, a picture takes the word's place or becomes a layer.
import { useActs } from "@/stores/acts";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { useLayers } from "@/stores/layers";
import { isFont, isPicture, useLibrary } from "@/stores/library";
import { useNotices } from "@/stores/notices";
import { text } from "@/text";
import { useFileDrop } from "./useFileDrop";

export function useDropped(): void {
  const opened = useOpened();
  const chosen = useChosen();
  const acts = useActs();
  const layers = useLayers();
  const library = useLibrary();
  const notices = useNotices();

  async function take(files: File[]): Promise<void> {
    const [kept] = (await library.uploadAll(files)).slice(-1);
    if (!kept || !opened.ready) return;
    if (kept.kind === "font") {
      const word = chosen.layer?.kind === "lettering" ? chosen.layer : undefined;
      const fault = word ? await acts.swapWord(word.id, { font: kept.name }) : null;
      if (fault !== null) notices.fault(fault);
      return;
    }
    await layers.add("picture", kept.name);
    notices.say({ text: text.library.isLayer(kept.name), act: { label: text.act.undo, run: opened.undo } });
  }
  useFileDrop((files) => {
    const known = files.filter((file) => isFont(file.name) || isPicture(file.name));
    if (known.length) void take(known);
    else notices.fault(text.library.unknown(files[0]!.name));
  });
}
