// Pictures of the work after each step, made when nothing more urgent is asked for.
import { computed } from "vue";
import { api, session } from "@/api/client";
import { useLatest } from "./useLatest";
import { stillTime } from "@/model/time/standing";
import { useCatalogue } from "@/stores/catalogue";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";

export function useBuildPictures() {
  const opened = useOpened();
  const chosen = useChosen();
  const catalogue = useCatalogue();
  /** When all stands that arrives: what moves is hardly ever to be seen at the start. */
  const time = computed(() => stillTime(opened.document, catalogue));
  const question = computed(() =>
    opened.ready && chosen.layer && opened.still
      ? { session, document: opened.document, layer: chosen.layer.id, width: 180, height: 100, time: time.value }
      : null,
  );
  const { answer: latest } = useLatest(
    question,
    async (body, signal) => (await api.POST("/api/build-pictures", { body, signal })).data,
    250,
  );
  const url = (png: string) => `data:image/png;base64,${png}`;
  const steps = computed(() => new Map(latest.value?.steps.map((each) => [each.step, url(each.png)])));
  const layers = computed(() => new Map(latest.value?.layers.map((each) => [each.step, url(each.png)])));
  const source = computed(() => (latest.value ? url(latest.value.source) : undefined));
  return { steps, layers, source };
}
