// The title on the bench: its document, what is selected, and how it changes.
import { defineStore } from "pinia";
import { computed, ref, shallowRef, watch } from "vue";
import { api, saidBy } from "@/api/client";
import {
  fittedDefaults, frontLettering, moved, newId, sizeOf, withBuild, withLayer, withSetting, withStep,
  type Layer, type Step, type Title,
} from "@/model/title";
import { text } from "@/text";
import { usersOfStep } from "@/model/references";
import { useCatalogue } from "./catalogue";
import { useHistory } from "./history";
import { historyKeeper, readHistory } from "./kept";
import { useNotices } from "./notices";
import { useSaving } from "./saving";

export const useBench = defineStore("bench", () => {
  const id = ref("");
  const ready = ref(false);
  const refusal = ref("");
  const history = useHistory<Title | null>(null);
  const saving = shallowRef(useSaving(""));
  const layerId = ref("");
  const stepId = ref<string | null>(null);
  const lightId = ref<string | null>(null);
  /** "camera", or the id of a handle that layers hang on, while that is what is set. */
  const standId = ref<string | null>(null);
  /** Looked at only, never saved: one step alone, or the work without the selected one. */
  const solo = ref<string | null>(null);
  const without = ref(false);
  const dragging = ref(false);
  /** The proof is still on its way to the newest state; nothing else asks for anything then. */
  const settling = ref(false);
  /** Acts that the engine was asked for and has not answered yet. */
  const asking = ref(0);
  const catalogue = useCatalogue();
  const notices = useNotices();

  const title = computed(() => history.now.value as Title);
  const layer = computed<Layer | undefined>(
    () => title.value?.layers.find((each) => each.id === layerId.value) ?? frontLettering(title.value),
  );
  const step = computed<Step | undefined>(
    () => layer.value?.build.find((each) => each.id === stepId.value),
  );

  /** Something beside the layers is selected: a light, the camera or a handle. */
  const apart = computed(() => lightId.value !== null || standId.value !== null);
  const light = computed(() => title.value?.lights.find((each) => each.id === lightId.value));
  /** The title as it is looked at. */
  const shown = computed<Title>(() => {
    const hides = (each: Step) =>
      (solo.value !== null && each.id !== solo.value) || (without.value && each.id === stepId.value);
    if (!layer.value || (solo.value === null && !without.value)) return title.value;
    return withLayer(title.value, layer.value.id, (each) => ({
      ...each, build: each.build.map((one) => (hides(one) ? { ...one, on: false } : one)),
    }));
  });
  const still = computed(() => !dragging.value && !settling.value);
  let keeper = historyKeeper("", () => ({ version: 0, at: 0, states: [] }));
  let unwatch = () => {};

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
    saving.value = useSaving(wanted);
    saving.value.version.value = data.version;
    const draft = saving.value.draft();
    const document = draft?.document ?? data.document;
    const kept = await readHistory(wanted);
    if (kept && kept.version === (draft?.version ?? data.version) && kept.states[kept.at]) {
      history.resume(kept.states.map((state, i) => (i === kept.at ? document : state)), kept.at);
    } else {
      history.restart(document);
    }
    if (draft) {
      saving.value.version.value = draft.version;
      saving.value.want(draft.document);
    }
    keepHistory(wanted);
    solo.value = lightId.value = standId.value = null;
    layerId.value = frontLettering(title.value)?.id ?? "";
    stepId.value = layer.value?.build[0]?.id ?? null;
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
  }

  /** One change. `gesture` names what belongs together for undo, such as one drag. */
  function change(next: Title, gesture: string | null = null): void {
    history.push(next, gesture);
    saving.value.want(next);
  }
  function endGesture(): void {
    history.endGesture();
    dragging.value = false;
  }
  function undo(): void {
    history.undo();
    saving.value.want(title.value);
  }
  function redo(): void {
    history.redo();
    saving.value.want(title.value);
  }
  function replace(document: Title): void {
    history.push(document);
  }

  function select(layerWanted: string, stepWanted: string | null): void {
    layerId.value = layerWanted;
    stepId.value = stepWanted;
    lightId.value = standId.value = solo.value = null;
  }
  function selectLight(wanted: string): void {
    lightId.value = wanted;
    standId.value = null;
  }
  function selectStand(wanted: string): void {
    standId.value = wanted;
    lightId.value = null;
  }
  function toggleSolo(step: string): void {
    solo.value = solo.value === step ? null : step;
  }
  function set(name: string, value: unknown): void {
    if (step.value) change(withSetting(title.value, step.value.id, name, value), `${step.value.id}.${name}`);
  }
  function setStep(id: string, changes: Partial<Step>, gesture: string | null = null): void {
    change(withStep(title.value, id, (each) => ({ ...each, ...changes })), gesture);
  }
  function setLayer(id: string, changes: object, gesture: string | null = null): void {
    change(withLayer(title.value, id, (each) => ({ ...each, ...changes }) as Layer), gesture);
  }

  /** Other words; a layer that was named after its words stays so. */
  function setWords(id: string, words: string): void {
    const before = title.value.layers.find((each) => each.id === id);
    if (before?.kind !== "lettering") return;
    const named = before.name === before.source.text ? { name: words.slice(0, 200) } : {};
    setLayer(id, { ...named, source: { ...before.source, text: words.slice(0, 2000) } }, "words");
  }
  /** After other words: where they have outgrown the frame they are set smaller, look and all. */
  async function fitWord(id: string): Promise<void> {
    const before = title.value.layers.find((each) => each.id === id);
    if (before?.kind !== "lettering") return;
    const body = { document: title.value, layer: id, text: before.source.text };
    // Without a connection the word stays as it was typed.
    const { data } = await api.POST("/api/look/swap", { body }).catch(() => ({ data: undefined }));
    const after = data?.layers.find((each) => each.id === id);
    if (data && after?.kind === "lettering" && after.source.size !== before.source.size) {
      change(data, "words");
    }
    endGesture();
  }

  function labelOf(each: Step): string {
    return catalogue.entry(each.step)?.label ?? each.step;
  }
  function addStep(kind: string, at: number): void {
    if (!layer.value) return;
    const settings = fittedDefaults(catalogue.entry(kind), sizeOf(layer.value));
    const added: Step = { id: newId(), step: kind, on: true, strength: 1, where: null, settings };
    const build = [...layer.value.build];
    build.splice(at, 0, added);
    change(withBuild(title.value, layer.value.id, build));
    stepId.value = added.id;
    lightId.value = standId.value = null;
  }
  /** Steps from elsewhere, after the selected one or at the end. */
  function insertSteps(steps: Step[]): void {
    if (!layer.value || !steps.length) return;
    const build = [...layer.value.build];
    const at = build.findIndex((each) => each.id === stepId.value);
    build.splice(at < 0 ? build.length : at + 1, 0, ...steps);
    change(withBuild(title.value, layer.value.id, build));
    stepId.value = steps.at(-1)!.id;
  }
  function duplicateStep(id: string): void {
    const build = layer.value?.build ?? [];
    const at = build.findIndex((each) => each.id === id);
    const original = build[at];
    if (!layer.value || !original) return;
    const copy = { ...original, id: newId() };
    change(withBuild(title.value, layer.value.id, [...build.slice(0, at + 1), copy, ...build.slice(at + 1)]));
    stepId.value = copy.id;
  }
  function removeStep(id: string): void {
    const build = layer.value?.build ?? [];
    const at = build.findIndex((each) => each.id === id);
    if (!layer.value || at < 0) return;
    const users = usersOfStep(build, id, catalogue.entry);
    if (users.length) {
      notices.fault(text.bench.used(labelOf(build[at]!), users.map(labelOf).join(", ")));
      return;
    }
    const left = build.filter((each) => each.id !== id);
    change(withBuild(title.value, layer.value.id, left));
    stepId.value = (left[at] ?? left[at - 1])?.id ?? null;
  }
  function moveStep(id: string, to: number): void {
    const build = layer.value?.build ?? [];
    const from = build.findIndex((each) => each.id === id);
    const end = Math.max(0, Math.min(to, build.length - 1));
    if (layer.value && from >= 0 && from !== end) {
      change(withBuild(title.value, layer.value.id, moved(build, from, end)));
    }
  }

  /** Acts of the engine on the whole document: another word, font or size in the same look. */
  async function swapWord(
    id: string, to: { text?: string; font?: string; picture?: string },
  ): Promise<string | null> {
    const body = { document: title.value, layer: id, ...to };
    return adopt(api.POST("/api/look/swap", { body }));
  }
  async function resizeLook(id: string, size: number): Promise<string | null> {
    const body = { document: title.value, layer: id, size };
    return adopt(api.POST("/api/look/resize", { body }));
  }
  async function useFinish(finish: string, layers: string[]): Promise<string | null> {
    const fault = await adopt(api.POST("/api/look/finish", { body: { document: title.value, layers, finish } }));
    if (fault === null && step.value === undefined) stepId.value = layer.value?.build[0]?.id ?? null;
    return fault;
  }
  /** Takes over the engine's answer; null, or what is wrong in one sentence. */
  async function adopt(asked: Promise<{ data?: Title; error?: unknown }>): Promise<string | null> {
    asking.value += 1;
    try {
      const { data, error } = await asked;
      if (!data) return saidBy(error);
      change(data);
      return null;
    } catch {
      return text.error.network;
    } finally {
      asking.value -= 1;
    }
  }

  return {
    asking, id, ready, refusal, history, saving, layerId, stepId, lightId, standId, dragging, settling, still, solo, without,
    title, shown, layer, step, light, apart,
    open, close, change, endGesture, undo, redo, replace, select, selectLight, selectStand, toggleSolo, set, setStep, setLayer,
    setWords, fitWord, addStep, duplicateStep, removeStep, moveStep, insertSteps, swapWord, resizeLook, useFinish,
  };
});
