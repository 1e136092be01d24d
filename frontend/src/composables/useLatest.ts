// Something asked for again whenever its question changes: late answers to old ones are dropped.
// While there is no question the last answer stays.
import { onScopeDispose, shallowRef, watch, type Ref, type ShallowRef } from "vue";

export function useLatest<Q, A>(
  question: Ref<Q | null>,
  ask: (question: Q, signal: AbortSignal) => Promise<A | undefined>,
  pause = 0,
): { answer: ShallowRef<A | null> } {
  const answer = shallowRef<A | null>(null);
  let control: AbortController | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;

  async function run(): Promise<void> {
    control?.abort();
    const asked = question.value;
    if (asked === null) return;
    const mine = (control = new AbortController());
    try {
      const got = await ask(asked, mine.signal);
      if (!mine.signal.aborted && got !== undefined) answer.value = got;
    } catch (error) {
      // The proof tells of a lost connection; this only keeps what it had.
      if (!mine.signal.aborted && !(error instanceof TypeError)) throw error;
    }
  }

  watch(
    question,
    () => {
      clearTimeout(timer);
      timer = setTimeout(() => void run(), pause);
    },
    { immediate: true },
  );
  onScopeDispose(() => {
    clearTimeout(timer);
    control?.abort();
  });
  return { answer };
}
