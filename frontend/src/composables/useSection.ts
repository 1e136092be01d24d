// The relief of the selected layer, cut open along the line on the proof.
import { computed, type Ref } from "vue";
import { api, session } from "@/api/client";
import { useChosen } from "@/stores/chosen";
import { useClock } from "@/stores/clock";
import { useOpened } from "@/stores/opened";
import { useProof } from "@/stores/proof";
import { useLatest } from "./useLatest";

export function useSection(before: Ref<string | undefined>) {
  const opened = useOpened();
  const chosen = useChosen();
  const clock = useClock();
  const proof = useProof();
  const samples = computed(() => Math.min(Math.max(Math.round(proof.frame.width * proof.scale), 64), 1400));
  const question = computed(() =>
    chosen.layer && proof.pane.width && opened.still
      ? {
          session, document: opened.document, layer: chosen.layer.id, at: proof.cut * proof.frame.height,
          samples: samples.value, before: before.value, time: clock.time,
        }
      : null,
  );
  return useLatest(question, async (body, signal) => (await api.POST("/api/section", { body, signal })).data, 60);
}
