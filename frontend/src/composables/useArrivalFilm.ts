// The title while it arrives: pictures side by side, drawn while the card is in sight.
import { onScopeDispose, ref, watch, type Ref } from "vue";
import { api, blobOf, session } from "@/api/client";
import type { components } from "@/api/schema";
import { turns } from "./turns";
import { useLatest } from "./useLatest";

export type FilmAsk = Omit<components["schemas"]["FilmRequest"], "session">;
const { inTurn } = turns(2);
const PAUSE = 300;

/** @param place in the drawer: films are drawn in the order in which they are seen */
export function useArrivalFilm(asked: Ref<FilmAsk | null>, place: () => number): Ref<string> {
  const url = ref("");
  const { answer } = useLatest(asked, (ask, signal) => inTurn(() => load(ask, signal), signal, place()), PAUSE);
  async function load(ask: FilmAsk, signal: AbortSignal): Promise<Blob | undefined> {
    return blobOf(await api.POST("/api/arrivals/film", { body: { session, ...ask }, parseAs: "blob", signal }));
  }
  watch(answer, (picture) => {
    if (!picture) return;
    const before = url.value;
    url.value = URL.createObjectURL(picture);
    if (before) setTimeout(() => URL.revokeObjectURL(before), 500);
  });
  onScopeDispose(() => URL.revokeObjectURL(url.value));
  return url;
}
