// The title on the bench: its document, its history, and how it changes.
import { defineStore } from "pinia";
import { computed, ref, shallowRef, watch } from "vue";
import { api, saidBy } from "@/api/client";
import { merged } from "@/model/time/merging";
import { standingAt, stillTime } from "@/model/time/standing";
import { withLayer, withStep, type Layer, type Step, type Title } from "@/model/title";
import { text } from "@/text";
import { useCatalogue } from "./catalogue";
import { useClock } from "./clock";
import { useHistory } from "./history";
import { historyKeeper, readHistory } from "./kept";
import { useSaving } from "./saving";

export const useOpened = defineStore("opened", () => {
  const id = ref("");
  const ready = ref(false);
  const refusal = ref("");
  const history = useHistory<Title | null>(null);
  const saving = shallowRef(useSaving(""));
  const dragging = ref(false);
  /** The proof is still on its way to the newest state; nothing else asks for anything then. */
  const settling = ref(false);
  /** Acts that the engine was asked for and has not answered yet. */
  const asking = ref(0);
  const catalogue = useCatalogue();
  const clock = useClock();
  let keeper = historyKeeper("", () => ({ version: 0, at: 0, states: [] }));
  let unwatch = () => {};

  /** The document, with all that moves in it. */
  const document = computed(() => history.now.value as Title);
  /** The title as it stands at the clock's time: what is shown, and what is changed. */
  const title = computed(() => document.value && standingAt(document.value, clock.time, catalogue));
  const still = computed(() => !dragging.value && !settling.value && !clock.playing && !clock.scrubbing);

  /** Opens a title; false where it is not there or can't be read: `refusal` says why. Rejects where
   * the studio does not answer. */
  async function open(wanted: string): Promise<boolean> {
    ready.value = false;
    const { data, error, response } = await api.GET("/api/titles/{title_id}", {
      params: { path: { title_id: wanted } },
    });
    if (!data) {
      refusal.value = response.status === 404 ? text.error.gone : saidBy(error);
      return false;
    }
    id.value = wanted;
    clock.playing = false;
    saving.value = useSaving(wanted);
    saving.value.version.value = data.version;
    const draft = await saving.value.draft();
    const found = draft?.document ?? data.document;
    const kept = await readHistory(wanted);
    if (kept && kept.version === (draft?.version ?? data.version) && kept.states[kept.at]) {
      history.resume(kept.states.map((state, i) => (i === kept.at ? found : state)), kept.at);
    } else {
      history.restart(found);
    }
    if (draft) {
      saving.value.version.value = draft.version;
      saving.value.want(draft.document);
    }
    keepHistory(wanted);
    clock.time = stillTime(document.value, catalogue);
    ready.value = true;
    return true;
  }

  function keepHistory(of: string): void {
    keeper.stop();
    unwatch();
    const { version } = saving.value;
    keeper = historyKeeper(of, () => ({
      version: version.value, at: history.at.value, states: history.states.value as Title[],
    }));
    unwatch = watch([history.now, version], keeper.later);
  }
  /** Leave the title: what is not saved yet is saved, and undo kept. */
  function close(): void {
    saving.value.stop();
    keeper.stop();
    ready.value = false;
    clock.playing = false;
  }

  /** Another document. `gesture` names what belongs together for undo, such as one drag. */
  function rewrite(next: Title, gesture: string | null = null): void {
    history.push(next, gesture);
    saving.value.want(next);
  }
  /** Another state of the title at the clock's time: what moves gets its pegs there. */
  function change(next: Title, gesture: string | null = null): void {
    const near = 0.5 / document.value.frame.fps;
    rewrite(merged(document.value, title.value, next, clock.time, near), gesture);
  }
  function endGesture(): void {
    history.endGesture();
    dragging.value = false;
  }
  function undo(): void {
    history.undo();
    saving.value.want(document.value);
  }
  function redo(): void {
    history.redo();
    saving.value.want(document.value);
  }
  /** A document that is saved already. */
  function replace(other: Title): void {
    history.push(other);
  }

  function setStep(step: string, changes: Partial<Step>, gesture: string | null = null): void {
    change(withStep(title.value, step, (each) => ({ ...each, ...changes })), gesture);
  }
  function setLayer(layer: string, changes: object, gesture: string | null = null): void {
    change(withLayer(title.value, layer, (each) => ({ ...each, ...changes }) as Layer), gesture);
  }
  /** Other words; a layer that was named after its words stays so. */
  function setWords(layer: string, words: string): void {
    const before = title.value.layers.find((each) => each.id === layer);
    if (before?.kind !== "lettering") return;
    const named = before.name === before.source.text ? { name: words.slice(0, 200) } : {};
    setLayer(layer, { ...named, source: { ...before.source, text: words.slice(0, 2000) } }, "words");
  }

  return {
    id, ready, refusal, history, saving, dragging, settling, still, asking, document, title,
    open, close, change, rewrite, endGesture, undo, redo, replace, setStep, setLayer, setWords,
  };
});
