// The strip of a title on the shelf. A plain image could not be given up, and a shelf full of them
// would hold every connection that the browser has while somebody clicks.
import { onScopeDispose, ref, watch, type Ref } from "vue";
import { turns } from "./turns";
import { useLatest } from "./useLatest";

const { inTurn } = turns(2);

export function useTitleStrip(address: Ref<string | null>): Ref<string> {
  const url = ref("");
  const { answer } = useLatest(address, (wanted, signal) => inTurn(() => load(wanted, signal), signal));

  async function load(wanted: string, signal: AbortSignal): Promise<Blob | undefined> {
    const got = await fetch(wanted, { signal });
    return got.status === 200 ? got.blob() : undefined;
  }
  watch(answer, (picture) => {
    if (!picture) return;
    URL.revokeObjectURL(url.value);
    url.value = URL.createObjectURL(picture);
  });
  onScopeDispose(() => URL.revokeObjectURL(url.value));
  return url;
}
