// The picture of a strip, kept while a newer one is on its way.
import { onScopeDispose, ref, watch, type Ref } from "vue";
import { api, blobOf, saidBy, session } from "@/api/client";
import type { Title } from "@/model/title";
import { turns } from "./turns";
import { useLatest } from "./useLatest";

export interface StripAsk {
  document: Title;
  lane: string;
  finish: string | undefined;
  layer: string;
  width: number;
  height: number;
}

const { inTurn } = turns(2);
const PAUSE = 300;

export function useStrip(asked: Ref<StripAsk | null>) {
  const url = ref("");
  const fault = ref("");
  const { answer } = useLatest(asked, (ask, signal) => inTurn(() => load(ask, signal), signal), PAUSE);

  async function load(ask: StripAsk, signal: AbortSignal): Promise<Blob | undefined> {
    const got = await api.POST("/api/strip", { body: { session, ...ask }, parseAs: "blob", signal });
    fault.value = got.error ? saidBy(got.error) : "";
    return blobOf(got);
  }
  function show(picture: Blob | null): void {
    if (!picture) return; // out of sight for a moment: the last one stays
    const before = url.value;
    url.value = URL.createObjectURL(picture);
    if (before) setTimeout(() => URL.revokeObjectURL(before), 500);
  }
  watch(answer, show);
  onScopeDispose(() => URL.revokeObjectURL(url.value));
  return { url, fault };
}
