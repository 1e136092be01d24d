// The grids of the selected step, while it is one that paints cells.
import { createSharedComposable } from "@vueuse/core";
import { computed } from "vue";
import { api, session } from "@/api/client";
import { stable } from "./stable";
import { useLatest } from "./useLatest";
import { sidesOf, type Painted } from "@/model/cells/painted";
import { settingOf, withSetting } from "@/model/title";
import { useBrush } from "@/stores/brush";
import { useCatalogue } from "@/stores/catalogue";
import { useChosen } from "@/stores/chosen";
import { useClock } from "@/stores/clock";
import { useOpened } from "@/stores/opened";

// Shared: the board over the proof and the panel of brushes ask once.
export const useCells = createSharedComposable(() => {
  const opened = useOpened();
  const chosen = useChosen();
  const clock = useClock();
  const catalogue = useCatalogue();
  const brush = useBrush();

  /** The setting that holds what is painted. */
  const setting = computed(() => {
    const step = chosen.step;
    return step && catalogue.entry(step.step)?.settings.find((each) => each.kind === "painted");
  });
  const painted = computed(() => setting.value && (settingOf(chosen.step!, setting.value) as Painted));
  const place = computed(() =>
    setting.value && ["layers", chosen.layer!.id, "build", chosen.step!.id, "settings", setting.value.name],
  );
  // Which letter and side is which follows from what was painted on, not from the cells.
  const question = stable(() => {
    if (!setting.value || !opened.ready || !opened.still || brush.painting) return null;
    const bare = { words: painted.value?.words ?? "", letters: sidesOf(painted.value ?? {}) };
    const step = chosen.step!.id;
    const document = withSetting(opened.document, step, setting.value.name, bare);
    return { session, document, layer: chosen.layer!.id, step, divided: brush.divided, time: clock.time };
  });
  const { answer } = useLatest(
    question,
    async (body, signal) => {
      const got = (await api.POST("/api/cells", { body, signal })).data;
      return got && { ...got, step: body.step };
    },
    60,
  );
  const found = computed(() => (answer.value?.step === chosen.stepId && setting.value ? answer.value : null));
  const grids = computed(() => found.value?.grids ?? []);
  /** Into how many parts cells are cut on the board. */
  const divided = computed(() => found.value?.divided ?? 1);
  return { setting, painted, place, grids, divided };
});
