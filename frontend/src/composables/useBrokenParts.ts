// What the selected layer breaks into before the selected step, while that is one that paints parts.
import { createSharedComposable } from "@vueuse/core";
import { computed, ref } from "vue";
import { api, session } from "@/api/client";
import { stable } from "./stable";
import { useLatest } from "./useLatest";
import type { PartPaints } from "@/model/partPaints";
import { settingOf } from "@/model/title";
import { useCatalogue } from "@/stores/catalogue";
import { useChosen } from "@/stores/chosen";
import { useClock } from "@/stores/clock";
import { useOpened } from "@/stores/opened";

// Shared: the board over the proof and the panel ask once.
export const useBrokenParts = createSharedComposable(() => {
  const opened = useOpened();
  const chosen = useChosen();
  const clock = useClock();
  const catalogue = useCatalogue();
  /** How far the parts are spread, 0..1: then their colours are asked for too. */
  const spread = ref(0);

  /** The setting that holds what is painted. */
  const setting = computed(() => {
    const step = chosen.step;
    return step && catalogue.entry(step.step)?.settings.find((each) => each.kind === "part paints");
  });
  const paints = computed(() =>
    (setting.value && (settingOf(chosen.step!, setting.value) as PartPaints).parts) || [],
  );
  const place = computed(() =>
    setting.value && ["layers", chosen.layer!.id, "build", chosen.step!.id, "settings", setting.value.name],
  );
  const coloured = computed(() => spread.value > 0);
  const question = stable(() => {
    if (!setting.value || !opened.ready || !opened.still) return null;
    const step = chosen.step!.id;
    return { session, document: opened.document, layer: chosen.layer!.id, step, coloured: coloured.value, time: clock.time };
  });
  const { answer } = useLatest(
    question,
    async (body, signal) => {
      const got = (await api.POST("/api/parts", { body, signal })).data;
      return got && { ...got, step: body.step };
    },
    60,
  );
  const found = computed(() => (setting.value && answer.value?.step === chosen.stepId ? answer.value : null));
  const parts = computed(() => found.value?.parts ?? []);
  /** The paints that find no part. */
  const lost = computed(() => (found.value?.lost ?? []).filter((index) => index < paints.value.length));
  return { setting, paints, place, parts, lost, spread, known: computed(() => found.value !== null) };
});
