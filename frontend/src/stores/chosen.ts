// What is selected in the title on the bench, and what of it is looked at.
import { defineStore } from "pinia";
import { computed, ref, watch } from "vue";
import { frontLettering, withLayer, type Layer, type Step, type Title } from "@/model/title";
import { useOpened } from "./opened";

export const useChosen = defineStore("chosen", () => {
  const opened = useOpened();
  const layerId = ref("");
  const stepId = ref<string | null>(null);
  const lightId = ref<string | null>(null);
  /** "camera", or the id of a handle that layers hang on, while that is what is set. */
  const standId = ref<string | null>(null);
  /** Looked at only, never saved: one step alone, or the work without the selected one. */
  const solo = ref<string | null>(null);
  const without = ref(false);
  /** Counts selections, those of what is selected already too. */
  const times = ref(0);

  const layer = computed<Layer | undefined>(
    () => opened.title?.layers.find((each) => each.id === layerId.value) ?? (opened.title && frontLettering(opened.title)),
  );
  const step = computed<Step | undefined>(() => layer.value?.build.find((each) => each.id === stepId.value));
  const light = computed(() => opened.title?.lights.find((each) => each.id === lightId.value));
  /** Something beside the layers is selected: a light, the camera or a handle. */
  const apart = computed(() => lightId.value !== null || standId.value !== null);
  /** The document as it is looked at. */
  const shown = computed<Title>(() => {
    const hides = (each: Step) =>
      (solo.value !== null && each.id !== solo.value) || (without.value && each.id === stepId.value);
    if (!layer.value || (solo.value === null && !without.value)) return opened.document;
    return withLayer(opened.document, layer.value.id, (each) => ({
      ...each, build: each.build.map((one) => (hides(one) ? { ...one, on: false } : one)),
    }));
  });

  function begin(): void {
    solo.value = lightId.value = standId.value = null;
    without.value = false;
    layerId.value = frontLettering(opened.title)?.id ?? "";
    stepId.value = layer.value?.build[0]?.id ?? null;
  }
  watch(() => opened.ready && opened.id, (there) => there && begin(), { immediate: true, flush: "sync" });

  function select(layerWanted: string, stepWanted: string | null): void {
    layerId.value = layerWanted;
    stepId.value = stepWanted;
    lightId.value = standId.value = solo.value = null;
    times.value += 1;
  }
  /** A step of the selected layer. */
  function selectStep(wanted: string | null): void {
    select(layer.value?.id ?? "", wanted);
  }
  function selectLight(wanted: string): void {
    lightId.value = wanted;
    standId.value = null;
    times.value += 1;
  }
  function selectStand(wanted: string): void {
    standId.value = wanted;
    lightId.value = null;
    times.value += 1;
  }
  function toggleSolo(wanted: string): void {
    solo.value = solo.value === wanted ? null : wanted;
  }
  return {
    layerId, stepId, lightId, standId, solo, without, times, layer, step, light, apart, shown,
    select, selectStep, selectLight, selectStand, toggleSolo,
  };
});
